/** Figures and lists as sentences have them. */

/** A share in percent, two decimals where it is small: "0.25 %", "12.5 %". */
export function percent(share: number): string {
  return `${(100 * share).toFixed(share < 0.01 ? 2 : 1)} %`;
}

/** Names in a row: "a, b and c". */
export const joined = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

/** Names as people quote them. */
export const quoted = (names: readonly string[]): string => names.map((name) => `“${name}”`).join(', ');
