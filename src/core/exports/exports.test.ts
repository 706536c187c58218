import { decodeBt709, decodeHlg, decodeSrgb } from '../formulas/transfer/transfer';
import type { RankedFilter } from '../judging/ranking/kitAsSet';
import type { Readings } from '../session/readings';
import { sessionSchema } from '../session/schema';
import { cgatsOf, stepRows, takeRows } from './text';
import { cube1d, cube3d } from './cubeTables';

const gains = { r: 0.93, g: 1, b: 1.08 };
const rows = (text: string) =>
  text
    .trim()
    .split('\n')
    .filter((line) => /^[\d.-]/.test(line))
    .map((line) => line.split(' ').map(Number));

describe('look-up tables', () => {
  test('in linear light each point is multiplied, and cut at the top', () => {
    const text = cube3d({ title: 'ND8 "cancel"', gains });
    expect(text).toContain('TITLE "ND8  cancel "');
    expect(text).toContain('LUT_3D_SIZE 33\nDOMAIN_MIN 0.0 0.0 0.0\nDOMAIN_MAX 1.0 1.0 1.0\n');
    const points = rows(text);
    expect(points).toHaveLength(33 ** 3);
    // Red runs fastest: the second point is one step of red.
    expect(points[1]).toEqual([expect.closeTo(0.93 / 32, 6), 0, 0]);
    expect(points[33 ** 3 - 1]).toEqual([expect.closeTo(0.93, 6), 1, 1]);
  });

  test.each([
    ['srgb', decodeSrgb],
    ['bt709', decodeBt709],
    ['hlg', decodeHlg],
  ])('in %s codes the light behind them is multiplied', (_, decode) => {
    for (const [i, [r, , b]] of rows(cube1d({ title: 'x', gains, decode })).entries()) {
      const code = i / 4095;
      expect(Math.abs(decode(r) - gains.r * decode(code))).toBeLessThan(1e-5);
      expect(Math.abs(decode(b) - Math.min(decode(1), gains.b * decode(code)))).toBeLessThan(1e-5);
    }
  });
});

const session = sessionSchema.parse({
  format: 'aurora-glade-session',
  version: 1,
  title: 'One',
  kits: [{ id: 'k', name: 'K', filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } }] }],
  scenes: [{ id: 'chart', kind: 'chart' }],
  takes: [{ id: 'a', filter: 'nd8', scene: 'chart', files: ['a.tif'], exposure: { shutter: '1/100', iso: 100 } }],
});
const reading = (value: number) => ({ value, u95: 0.02 });

test('CGATS: as many fields and sets as it says, between its own lines', () => {
  const readings = {
    session: 'One',
    createdAt: '2026-05-14T09:00:00Z',
    generator: 'test',
    filters: [{ filter: 'nd8', cast: { a: reading(1.5), b: reading(-2), deltaE00: reading(2.4), gains } }],
  } as unknown as Readings;
  const lines = cgatsOf(session, readings).split('\r\n');
  expect(lines[0]).toBe('CGATS.17');
  const fields = lines[lines.indexOf('BEGIN_DATA_FORMAT') + 1].split('\t');
  expect(lines).toContain(`NUMBER_OF_FIELDS ${fields.length}`);
  expect(lines).toContain('NUMBER_OF_SETS 1');
  const row = lines[lines.indexOf('BEGIN_DATA') + 1].split('\t');
  expect(Object.fromEntries(fields.map((field, i) => [field, row[i]]))).toMatchObject({
    SAMPLE_ID: '"nd8"',
    LAB_A: '1.500',
    LAB_B: '-2.000',
    DE00: '2.400',
    GAIN_R: '0.93000',
  });
});

test('step table and takes log have a header and a row each', () => {
  const nd = (nominal: number): RankedFilter => ({
    filter: `f${nominal}`,
    name: `ND${2 ** nominal}`,
    nominal,
    stops: reading(nominal),
  });
  expect(stepRows([nd(2), nd(3)])[1]).toEqual(['ND4', 'ND8', '1.000', '1.000', '0.028', 'even']);
  const [header, row] = takeRows(session);
  expect(row).toHaveLength(header.length);
  expect(row.slice(0, 4)).toEqual(['a', 'nd8', 'chart', 'measure']);
});
