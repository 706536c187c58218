/**
 * Response curves as CSV (RFC 4180): a row a code, `code,light` or `code,red,green,blue`. A first row of words is a header;
 * rows that begin with # are comments. Semicolons and tabs separate too.
 */

/** Points (code, light) per channel, codes as written. Throws an Error whose message names the line. */
export function parseCurveCsv(text: string): [number, number][][] {
  const channels: [number, number][][] = [[], [], []];
  let columns: number | null = null;
  text.split(/\r?\n/).forEach((raw, index) => {
    const line = raw.replace(/^\uFEFF/, '').trim();
    if (line === '' || line.startsWith('#')) return;
    const cells = line.split(/[;,\t]/).map((cell) => cell.trim().replace(/^"(.*)"$/, '$1'));
    const numbers = cells.map((cell) => (cell === '' ? NaN : Number(cell)));
    if (columns === null && numbers.every(Number.isNaN)) return;
    columns ??= numbers.length;
    if (numbers.some((value) => !Number.isFinite(value)) || numbers.length !== columns || ![2, 4].includes(columns))
      throw new Error(`line ${index + 1}: expected "code,light" or "code,red,green,blue" in numbers, got "${line}"`);
    channels.forEach((points, c) => points.push([numbers[0], numbers[columns === 4 ? c + 1 : 1]]));
  });
  if (channels[0].length < 2) throw new Error('a curve needs at least two rows');
  return channels;
}
