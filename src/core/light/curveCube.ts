/**
 * 1-D look-up tables in the open `.cube` text form: `LUT_1D_SIZE n`, optional `DOMAIN_MIN/MAX`, n lines "r g b".
 * Read as a table from code to linear light per channel.
 */
export interface CubeTable {
  title: string;
  domainMin: [number, number, number];
  domainMax: [number, number, number];
  rows: [number, number, number][];
}

/** Reads a 1-D `.cube`. Throws an Error whose message names the line and what was expected. */
export function parseCube1d(text: string): CubeTable {
  const table: CubeTable = { title: '', domainMin: [0, 0, 0], domainMax: [1, 1, 1], rows: [] };
  let size: number | null = null;
  text.split(/\r?\n/).forEach((raw, index) => {
    const line = raw.trim();
    if (line === '' || line.startsWith('#')) return;
    const where = `line ${index + 1}`;
    const [word, ...rest] = line.split(/\s+/);
    if (word === 'TITLE') table.title = line.slice(5).trim().replace(/^"|"$/g, '');
    else if (word === 'LUT_1D_SIZE') size = Number(rest[0]);
    else if (word === 'LUT_3D_SIZE')
      throw new Error(`${where}: a response needs a 1-D table, this file holds a 3-D one`);
    else if (word === 'LUT_1D_INPUT_RANGE') {
      table.domainMin = [Number(rest[0]), Number(rest[0]), Number(rest[0])];
      table.domainMax = [Number(rest[1]), Number(rest[1]), Number(rest[1])];
    } else if (word === 'DOMAIN_MIN') table.domainMin = triple(rest, where);
    else if (word === 'DOMAIN_MAX') table.domainMax = triple(rest, where);
    else if (/^[-+.\d]/.test(word)) table.rows.push(triple([word, ...rest], where));
  });
  if (size === null) throw new Error('no LUT_1D_SIZE line: this is not a 1-D table');
  if (table.rows.length !== size) throw new Error(`LUT_1D_SIZE says ${size} rows, ${table.rows.length} were found`);
  if (size < 2) throw new Error('a table needs at least two rows');
  return table;
}

function triple(words: string[], where: string): [number, number, number] {
  const numbers = words.slice(0, 3).map(Number);
  if (numbers.length !== 3 || numbers.some((value) => !Number.isFinite(value)))
    throw new Error(`${where}: expected three numbers, got "${words.join(' ')}"`);
  return numbers as [number, number, number];
}

/** The points (code 0–1, light) of one channel of a table. */
export function cubePoints(table: CubeTable, channel: 0 | 1 | 2): [number, number][] {
  const low = table.domainMin[channel];
  const high = table.domainMax[channel];
  return table.rows.map((row, index) => [low + ((high - low) * index) / (table.rows.length - 1), row[channel]]);
}
