/** Veil with its ± from levels worked by hand: what is compared, what is left out, and what each source adds. */
import { resolveColorSpace } from '../../formulas/color/spaces';
import type { ObservedPatch, PatchSample } from '../../reading/observations';
import type { Triple } from '../../reading/patchStatistics';
import { parseSession } from '../../session/parse';
import type { Seen } from '../seen';
import type { FieldStatistics } from '../shading/field';
import { estimateFlare } from './estimateFlare';

/** IEC 61966-2-1's primaries in luminance. */
const WEIGHTS = [0.2126, 0.7152, 0.0722];
const NONE: Triple = [0, 0, 0];

interface Level {
  mean: Triple;
  spread?: number;
  rounding?: number;
  zero?: number;
  top?: number;
  /** Variance of each channel by compression, stops², independent. */
  compression?: number;
}

function sample(role: string, filter: string | null, file: string, level: Level): PatchSample {
  const { mean, spread = 0, rounding = 0, zero = 0, top = 0, compression } = level;
  const all = (value: number): Triple => [value, value, value];
  const statistics = {
    ...{ pixelCount: 100, mean, zeroCorrection: all(zero), topShare: [0, 0, top] as Triple, zeroShare: NONE },
    ...{ pixelSpread: all(spread), meanCode: NONE, rounding: all(rounding) },
    ...(compression === undefined ? {} : { compression: [compression, 0, 0, 0, compression, 0, 0, 0, compression] }),
    cells: { columns: 1, rows: 1, values: [0, 1, 2].map(() => Float64Array.of(0)) },
  };
  return { role, filter, file, take: file, statistics } as unknown as PatchSample;
}

type Shot = [filter: string | null, file: string, black: Level, neutral: Level | null];

const session = parseSession({
  format: 'aurora-glade-session',
  version: 1,
  title: 'Before a lamp',
  kits: [{ id: 'kit', filters: [{ id: 'nd4', kind: 'nd', nominal: { ndFactor: 4 } }] }],
  scenes: [{ id: 'chart', kind: 'chart' }, { id: 'lamp', kind: 'flare' }, { id: 'sun', kind: 'flare' }], // prettier-ignore
  takes: [],
  patches: [],
});

/** Black and neutral of a scene, and what of the whole frame was seen by filter. */
function patchesOf(scene: string, shots: readonly Shot[], fields: readonly (string | null)[] = []): ObservedPatch[] {
  const patch = (role: string) => ({ id: `${scene}-${role}`, scene, role, rect: { x: 0, y: 0, width: 1, height: 1 } });
  const of = (role: string, samples: PatchSample[], value: unknown[] = []) =>
    ({ patch: patch(role), samples, bracket: [], fields: value, edges: [] }) as unknown as ObservedPatch;
  return [
    of('black', shots.map(([filter, file, black]) => sample('black', filter, file, black))), // prettier-ignore
    of('neutral', shots.flatMap(([filter, file, , neutral]) => (neutral ? [sample('neutral', filter, file, neutral)] : []))), // prettier-ignore
    ...(fields.length === 0
      ? []
      : [of('field', [], fields.map((filter, i) => ({ filter, file: `${filter}-${i}.tif`, value: evenField() })))]), // prettier-ignore
  ];
}

function evenField(): FieldStatistics {
  const cells = new Float64Array(100 * 65).fill(0.25);
  return { columns: 100, rows: 65, cells: [cells, cells, cells] } as unknown as FieldStatistics;
}

const gray = (value: number, more: Omit<Level, 'mean'> = {}): Level => ({ mean: [value, value, value], ...more });
const estimated = (patches: ObservedPatch[], response: Seen['response'] = null) =>
  estimateFlare('nd4', { patches, session, space: resolveColorSpace('srgb'), response });
const lamp = (front: Level, back = gray(0.01), neutral = gray(0.5)) =>
  patchesOf('lamp', [['nd4', 'f', front, neutral], [null, 'b', back, neutral]]); // prettier-ignore

test('black over the gray beside it, filtered less bare, in luminance', () => {
  const { veilPercent, scene, patches, ghosts } = estimated(lamp(gray(0.03)))!;
  expect(veilPercent.value).toBeCloseTo(4, 10);
  expect(veilPercent.u95).toBe(0);
  expect([scene, patches, ghosts]).toEqual(['lamp', { black: 'lamp-black', neutral: 'lamp-neutral' }, []]);
  const colored = estimated(lamp({ mean: [0.01, 0.02, 0.04] }))!;
  const light = WEIGHTS[0] * 0.01 + WEIGHTS[1] * 0.02 + WEIGHTS[2] * 0.04;
  expect(colored.veilPercent.value).toBeCloseTo(100 * (light / 0.5 - 0.01 / 0.5), 3);
});

test('black and gray are compared in one picture, and several pictures by their mean', () => {
  const shots: Shot[] = [
    ['nd4', 'f1', gray(0.03), gray(0.5)],
    ['nd4', 'f2', gray(0.02), gray(0.25)],
    ['nd4', 'f3', gray(0.2), null],
    [null, 'b', gray(0.01), gray(0.5)],
  ];
  // 6 % and 8 %; the third has no gray beside its black.
  expect(estimated(patchesOf('lamp', shots))!.veilPercent.value).toBeCloseTo(5, 10);
  // They lie 2 % apart: each half of that from their mean, whose standard uncertainty is 1 %.
  expect(estimated(patchesOf('lamp', shots))!.veilPercent.u95).toBeCloseTo(2, 10);
});

test('pictures whose gray is clipped are left out; at a thousandth of it they are not', () => {
  const shots = (top: number): Shot[] => [
    ['nd4', 'f1', gray(0.03), gray(0.5)],
    ['nd4', 'f2', gray(0.05), gray(0.5, { top })],
    [null, 'b', gray(0.01), gray(0.5)],
  ];
  expect(estimated(patchesOf('lamp', shots(0.0011)))!.veilPercent.value).toBeCloseTo(4, 10);
  expect(estimated(patchesOf('lamp', shots(0.001)))!.veilPercent.value).toBeCloseTo(6, 10);
});

describe('what makes it unsure', () => {
  // Of a gray patch each channel gives its share of luminance.
  const together = Math.hypot(...WEIGHTS);
  const u95 = (front: Level, response?: Seen['response']) => estimated(lamp(front), response)!.veilPercent.u95;

  test('noise of pixels, over the root of their number', () => {
    expect(u95(gray(0.03, { spread: 0.2 }))).toBeCloseTo(2 * 6 * ((0.2 * together) / 10), 4);
  });

  test('rounding and compression, which repeats don’t average, at the picture where they are most', () => {
    expect(u95(gray(0.03, { rounding: 0.05 }))).toBeCloseTo(2 * 6 * 0.05 * together, 4);
    expect(u95(gray(0.03, { compression: 0.01 }))).toBeCloseTo(2 * 6 * Math.LN2 * 0.1 * together, 3);
    const bareWorse = patchesOf('lamp', [['nd4', 'f', gray(0.03, { rounding: 0.05 }), gray(0.5)], [null, 'b', gray(0.02, { rounding: 0.2 }), gray(0.5)]]); // prettier-ignore
    expect(estimated(bareWorse)!.veilPercent.u95).toBeCloseTo(2 * 4 * 0.2 * together, 4);
  });

  test('half of what was made up for code 0', () => {
    expect(u95(gray(0.03, { zero: -0.1 }))).toBeCloseTo(2 * 6 * 0.5 * 0.1 * together, 4);
  });

  test('the curve, between black and the gray beside it', () => {
    const asked: (readonly (readonly [number, number])[])[] = [];
    const covarianceOfLight = ([, terms]: (readonly (readonly [number, number])[])[]) => {
      asked.push(terms);
      const covariance = new Array<number>(9).fill(0);
      // A tenth of a stop for each stop between them.
      covariance[4] = (0.1 * terms.reduce((sum, [light, factor]) => sum + light * factor, 0)) ** 2;
      return covariance;
    };
    const found = u95(gray(0.03125), { covarianceOfLight } as never);
    expect(found).toBeCloseTo(2 * 6.25 * Math.LN2 * 0.1 * 4, 4);
    expect(asked[0].map(([, factor]) => factor)).toEqual([1, -1]);
  });
});

describe('where nothing is told', () => {
  test('without a picture of the filter, or a bare one, or black, or gray', () => {
    const shots: Shot[] = [['nd4', 'f', gray(0.03), gray(0.5)], [null, 'b', gray(0.01), gray(0.5)]]; // prettier-ignore
    expect(estimated(patchesOf('lamp', shots))).not.toBeNull();
    expect(estimated(patchesOf('lamp', shots.slice(0, 1)))).toBeNull();
    expect(estimated(patchesOf('lamp', shots.slice(1)))).toBeNull();
    expect(estimated(patchesOf('lamp', shots).slice(0, 1))).toBeNull();
    expect(estimated(patchesOf('lamp', shots).slice(1))).toBeNull();
    expect(estimated(patchesOf('chart', shots))).toBeNull();
  });

  test('the next lamp speaks where the first can’t', () => {
    const shots: Shot[] = [['nd4', 'f', gray(0.03), gray(0.5)], [null, 'b', gray(0.01), gray(0.5)]]; // prettier-ignore
    const both = [...patchesOf('lamp', shots.slice(0, 1)), ...patchesOf('sun', shots)];
    expect(estimated(both)!.scene).toBe('sun');
    expect(estimated([...patchesOf('sun', shots), ...patchesOf('lamp', shots)])!.scene).toBe('lamp');
    expect(estimated([...patchesOf('lamp', shots).slice(0, 1), ...patchesOf('sun', shots)])!.scene).toBe('sun');
  });
});

test('ghosts are looked for where the whole frame was seen with and without the filter', () => {
  const shots: Shot[] = [['nd4', 'f', gray(0.03), gray(0.5)], [null, 'b', gray(0.01), gray(0.5)]]; // prettier-ignore
  const whole = estimated(patchesOf('lamp', shots, [null, 'nd4', null]))!;
  expect(whole.pictures).toEqual({ bare: 'null-0.tif', filtered: 'nd4-1.tif' });
  expect(whole.map).toMatchObject({ columns: 50, rows: 32 });
  for (const fields of [[null], ['nd4'], ['other', null]]) {
    const found = estimated(patchesOf('lamp', shots, fields))!;
    expect(found.ghosts).toEqual([]);
    expect(found).not.toHaveProperty('map');
    expect(found).not.toHaveProperty('pictures');
  }
});
