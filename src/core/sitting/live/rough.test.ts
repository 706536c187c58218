/** Rough strengths of evenly gray pictures, whose codes are the published sRGB curve by hand. */
import { parseSession } from '../../session/parse';
import type { PictureFacts } from '../../reading/facts';
import { lookOf } from '../intake/look';
import { roughStrengths } from './rough';

/** IEC 61966-2-1: encoded, as an 8-bit code, and back. */
const codeOf = (light: number) => Math.round(255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055)); // prettier-ignore
const lightOfCode = (code: number) => (code <= 0.04045 ? code / 12.92 : ((code + 0.055) / 1.055) ** 2.4);
const BARE = 0.4;

type Shot = [id: string, filter: string | null, seconds: number, light: number, role?: string];

function footage(shots: readonly Shot[], kind = 'chart') {
  const facts = { width: 60, height: 40, bitDepth: 8, exposure: {}, capturedAt: null } as unknown as PictureFacts;
  const gray = (code: number) => lookOf({ width: 60, height: 40, channels: 3, bitDepth: 8, data: new Uint8Array(60 * 40 * 3).fill(code) }); // prettier-ignore
  return {
    session: parseSession({
      format: 'aurora-glade-session',
      version: 1,
      title: 'Rough',
      rig: { camera: 'C', response: { kind: 'srgb' }, shutterMarks: 'exact' },
      kits: [{ id: 'k', name: 'K', filters: [{ id: 'nd4', name: 'ND4', kind: 'nd', nominal: { ndFactor: 4 } }] }],
      scenes: [{ id: 'it', kind }],
      takes: shots.map(([id, filter, seconds, , role = 'measure']) => ({ id, filter, scene: 'it', role, files: [`${id}.jpg`], exposure: { shutter: seconds, iso: 100, fNumber: 4 } })), // prettier-ignore
      patches: [],
    }),
    files: new Map(shots.map(([id, , , light]) => [`${id}.jpg`, { facts, look: gray(codeOf(light)) }])),
    telemetry: new Map(),
    decode: () => [lightOfCode, lightOfCode, lightOfCode],
  };
}
const found = (shots: readonly Shot[], kind?: string) => roughStrengths(footage(shots, kind) as never).get('nd4');

test('as bright as bare at four times the time: two stops, whatever the curve', () => {
  const stops = found([['b', null, 0.01, BARE], ['f', 'nd4', 0.04, BARE]])!; // prettier-ignore
  expect(stops.value).toBeCloseTo(2, 2);
  expect(stops.u95).toBeCloseTo(0.3, 2);
});

test('at the same time: what is darker tells it, by the curve that is assumed, with a ± for that', () => {
  const stops = found([['b', null, 0.01, BARE], ['f', 'nd4', 0.01, BARE / 8]])!; // prettier-ignore
  expect(stops.value).toBeCloseTo(3, 1);
  expect(stops.u95).toBeCloseTo(0.3 + 0.5 * 3, 1);
});

test('a style that makes six stops of four is held', () => {
  const stops = found([['b', null, 0.01, BARE], ['f', 'nd4', 0.01, BARE / 64]])!; // prettier-ignore
  expect(Math.abs(stops.value - 4)).toBeLessThan(stops.u95);
});

test('a darker bare picture nearer in brightness tells it better, on a curve that nobody knows', () => {
  // Drawn half as steep again as the curve says: a bare picture of an eighth of the time, a filter of three stops, comes out 4.5 stops darker.
  const shots: Shot[] = [['b', null, 0.008, BARE], ['d', null, 0.001, BARE / 2 ** 4.5, 'bracket'], ['f', 'nd4', 0.008, BARE / 2 ** 4.5]]; // prettier-ignore
  expect(found(shots)!.value).toBeCloseTo(3, 1);
  expect(found(shots)!.u95).toBeCloseTo(0.3, 1);
});

test('white or black bare pictures are compared with nothing, however alike they look', () => {
  const white: Shot[] = [['b', null, 0.01, BARE], ['w', null, 0.16, 1, 'bracket'], ['f', 'nd4', 0.01, 1]]; // prettier-ignore
  expect(found(white)!.u95).toBeCloseTo(0.3 + 0.5 * Math.log2(1 / BARE), 1);
  const black: Shot[] = [['b', null, 0.01, BARE], ['d', null, 1e-5, 0.001, 'bracket'], ['f', 'nd4', 0.01, 0.001]]; // prettier-ignore
  expect(found(black)!.u95).toBeGreaterThan(4);
});

test('a darker bare picture alone tells nothing: the light of the sitting is that of the others', () => {
  expect(found([['d', null, 0.01, BARE, 'bracket'], ['f', 'nd4', 0.04, BARE]])).toBeUndefined(); // prettier-ignore
});

test('pictures of a filter by their middle', () => {
  const shots: Shot[] = [['b', null, 0.01, BARE], ['d', null, 0.0025, BARE / 4, 'bracket'], ['f1', 'nd4', 0.04, BARE], ['f2', 'nd4', 0.04, BARE], ['f3', 'nd4', 0.04, BARE / 8]]; // prettier-ignore
  expect(found(shots)!.value).toBeCloseTo(2, 2);
  expect(found(shots)!.u95).toBeGreaterThan(0.75);
});

test('nothing is said without a bare picture, of black ones, or of scenes that change by themselves', () => {
  expect(found([['f', 'nd4', 0.04, BARE]])).toBeUndefined();
  expect(found([['b', null, 0.01, BARE], ['f', 'nd4', 0.04, 0]])).toBeUndefined(); // prettier-ignore
  expect(found([['b', null, 0.01, BARE], ['f', 'nd4', 0.04, BARE]], 'outdoor')).toBeUndefined(); // prettier-ignore
});
