import { parseKitShorthand } from '../kits/shorthand';
import { layFiles } from './layFiles';
import type { FileToLay, Spot } from './laidFile';
import { clockIsOff, duration } from './cameraClock';
import { readName } from './names';

const { filters } = parseKitShorthand('ND4 8 16 32 ND16PL CPL');
const START = Date.parse('2026-05-14T09:00:00Z');

const file = (path: string, more: Partial<FileToLay> = {}): FileToLay => ({
  path,
  capturedAt: null,
  exposureLog2: null,
  lightLog2: null,
  look: null,
  ...more,
});
const anyTake = (scene = 'chart'): Spot[] =>
  [null, ...filters.map((filter) => filter.id)].map((filter) => ({
    id: `${scene}-${filter ?? 'bare'}`,
    filter,
    scene,
    kind: scene,
  }));
/** A run sheet: bare, the four ND filters, bare, a minute each. */
const sheet: Spot[] = [null, 'nd4', 'nd8', 'nd16', 'nd32', null].map((filter, i) => ({
  id: `take-${i + 1}`,
  filter,
  scene: 'chart',
  kind: 'chart',
  at: START + 60_000 * i,
  exposureLog2: -11 + i / 3,
}));
const shot = (i: number, more: Partial<FileToLay> = {}, offset = 0) =>
  file(`DSC_00${10 + i}.tif`, {
    capturedAt: new Date(START + 60_000 * i + 4000 + offset).toISOString(),
    exposureLog2: sheet[i].exposureLog2,
    ...more,
  });
const placesOf = (laying: ReturnType<typeof layFiles>) =>
  laying.files.map((one) => (one.sure ? one.place : `? ${one.place}`));

test.each([
  ['flat_nd16_pl 45deg take2.tif', { filter: 'nd16pl', scene: 'flat', ringDegrees: 45, take: 2 }],
  ['card/ND8/DSC_1.tif', { filter: 'nd8', scene: null, take: null }],
  ['vnd mark3 30°.jpg', { mark: 3, ringDegrees: 30 }],
  ['bare-bracket-2.tif', { filter: null, bracket: true }],
  ['DSC_0042.tif', { filter: undefined, scene: null, bracket: false, ringDegrees: null, mark: null }],
])('%s is read', (name, expected) => expect(readName(name, filters)).toMatchObject(expected));

test('names alone lay files; one that says nothing is asked', () => {
  const laying = layFiles(
    [file('bare.tif'), file('nd8.tif'), file('nd16_pl 45deg.tif'), file('DSC_7.tif')],
    anyTake(),
    filters,
  );
  expect(placesOf(laying).slice(0, 3)).toEqual(['chart-bare', 'chart-nd8', 'chart-nd16pl']);
  expect(laying.files[3]).toMatchObject({ sure: false, doubt: 'Nothing about it tells where it belongs.' });
});

test('worked example: nameless files of a matched series are told by their strength', () => {
  // Bare at 1/2000 s has a mean light of 0.2; a filter of 4 stops at 1/125 s has the same.
  const strengths = [0, 2.1, 4.05, 5.2];
  const laying = layFiles(
    strengths.map((stops, i) => file(`IMG_${i}.tif`, { exposureLog2: -11 + stops, lightLog2: Math.log2(0.2) })),
    anyTake().filter((place) => !place.id.includes('pl')),
    filters,
  );
  expect(laying.files.map((one) => one.place)).toEqual(['chart-bare', 'chart-nd4', 'chart-nd16', 'chart-nd32']);
  expect(laying.files[2].candidates[0].reasons[0]).toBe('at its exposure it is 4.1 stops darker than the brightest');
});

test('a log’s times lay nameless files, also with the camera’s clock an hour off', () => {
  for (const offset of [0, 3_600_000, -3_600_000]) {
    const laying = layFiles(
      [0, 1, 2, 3, 4, 5].map((i) => shot(i, {}, offset)),
      sheet,
      filters,
    );
    expect(placesOf(laying)).toEqual(sheet.map((place) => place.id));
    expect(laying.clockOffsetSeconds).toBeCloseTo(offset / 1000 + 4, 0);
    expect(clockIsOff(laying)).toBe(offset !== 0);
  }
});

test('a name that contradicts the log is asked, with both reasons', () => {
  const files = [shot(0), shot(1), { ...shot(3), path: 'nd8.tif' }, shot(4), shot(5)];
  const asked = layFiles(files, sheet, filters).files[2];
  expect(asked.doubt).toBe('Its name says ND8, the log has ND16 at its time.');
  expect(asked.sure).toBe(false);
  expect(
    asked.candidates
      .slice(0, 2)
      .map((one) => one.place)
      .sort(),
  ).toEqual(['take-3', 'take-4']);
  expect(asked.candidates.flatMap((one) => one.reasons).join('; ')).toContain('its name says ND8');
});

test('two filters that were exchanged are asked, one whose label lies is not', () => {
  const at = (path: string, stops: number) => file(path, { exposureLog2: -11 + stops, lightLog2: -2 });
  const places = anyTake();
  const lying = layFiles([at('bare.tif', 0), at('nd8.tif', 4), at('nd16.tif', 4.1)], places, filters);
  expect(lying.files.map((one) => one.sure)).toEqual([true, true, true]);
  const swapped = layFiles([at('bare.tif', 0), at('nd4.tif', 3), at('nd8.tif', 2)], places, filters);
  expect(swapped.files.map((one) => one.sure)).toEqual([true, false, false]);
  expect(swapped.files[1].doubt).toContain('exchange with nd8.tif');
});

test('a file between two of one take belongs to it', () => {
  const laying = layFiles(
    [
      file('1 nd8.tif'),
      file('2.tif', { exposureLog2: -8, lightLog2: -2 }),
      file('3 nd8.tif'),
      file('0 bare.tif', { exposureLog2: -11, lightLog2: -2 }),
    ],
    anyTake(),
    filters,
  );
  expect(laying.files[1].place).toBe('chart-nd8');
  expect(laying.files[1].candidates[0].reasons).toContain('both its neighbors in the row are of this take');
});

test.each([
  [12, '12 s'],
  [200, '3 min'],
  [3660, '1 h 1 min'],
  [3600, '1 h'],
  [171_000, '47 h 30 min'],
  [172_800, '2 days'],
  [46_027_680, '532 days 17 h'],
])('%d seconds are %s', (seconds, words) => expect(duration(seconds)).toBe(words));

test('a thousand shuffled files of a long sheet are all laid', () => {
  const long: Spot[] = Array.from({ length: 500 }, (_, i) => ({
    ...sheet[i % 6],
    id: `take-${i}`,
    at: START + 60_000 * i,
  }));
  const files = long.flatMap((place, i) => [
    file(`A${i}.tif`, { capturedAt: new Date(place.at!).toISOString() }),
    file(`B${i}.tif`, { capturedAt: new Date(place.at! + 5000).toISOString() }),
  ]);
  const laying = layFiles(files, long, filters);
  expect(laying.files.filter((one, i) => one.place !== `take-${i >> 1}`)).toEqual([]);
});
