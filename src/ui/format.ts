/** Figures as people read them: true minus, as many decimals as the uncertainty deserves. */

/** A number with a fixed count of decimals and a true minus; never "−0.00". */
export function fixed(value: number, decimals = 2): string {
  // A figure that a broken reading leaves open is a dash, and no page that can't be made.
  if (!Number.isFinite(value)) return '–';
  const text = value.toFixed(decimals);
  return Number(text) === 0 ? text.replace('-', '') : text.replace('-', '−');
}

/** With a sign, for differences. */
export function signed(value: number, decimals = 2): string {
  const text = fixed(value, decimals);
  return text.startsWith('−') || !(Number(text) > 0) ? text : `+${text}`;
}

/** Decimals for figures of this uncertainty: two, or three where the ± is below a hundredth. */
export function decimalsFor(u95: number): number {
  return u95 < 0.0095 ? 3 : 2;
}

/** An expanded uncertainty, rounded up so that it never looks smaller than it is. */
export function plusMinus(u95: number, decimals = 2): string {
  const step = 10 ** -decimals;
  return `±${fixed(Math.max(step, Math.ceil(u95 / step - 1e-9) * step), decimals)}`;
}

/** A figure with its ±: "5.02 ±0.03". */
export function withU95({ value, u95 }: { value: number; u95: number }): string {
  const decimals = decimalsFor(u95);
  return `${fixed(value, decimals)} ${plusMinus(u95, decimals)}`;
}

/** A difference with its ±: "+0.05 ±0.02". */
export function signedWithU95({ value, u95 }: { value: number; u95: number }): string {
  const decimals = decimalsFor(u95);
  return `${signed(value, decimals)} ${plusMinus(u95, decimals)}`;
}

/** Names in a row: "ND4, ND8 and ND16". */
export const listed = (names: readonly string[]) =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;

const MONTH = new Intl.DateTimeFormat('en', { year: 'numeric', month: 'short', timeZone: 'UTC' });
/** A day (milliseconds since 1970) as month and year, UTC: sessions name their days without a zone. */
export const monthOf = (day: number) => MONTH.format(day);

export function percent(share: number, decimals = 0): string {
  return `${fixed(100 * share, decimals)} %`;
}

/** What people call a patch: its own name, or what its id says. */
export const patchName = ({ id, name }: { id: string; name?: string }) => name ?? edgeName(id);

/** An edge by its place, as people say it: "top-left-upright" is "top left, vertical edge"; other names stay. */
export function edgeName(id: string): string {
  const match = /^(.+)-(upright|level)(-\d+)?$/.exec(id);
  if (!match) return id;
  const [, place, runs, number = ''] = match;
  return `${place.replaceAll('-', ' ')}, ${runs === 'upright' ? 'vertical' : 'horizontal'} edge${number.replace('-', ' ')}`;
}
