/** Colors from levels worked by hand: what they are levelled by, which takes speak, and what the ± is of. Truths are a color library's. */
import { resolveColorSpace } from '../../formulas/color/spaces';
import { expectedSurface } from '@/simulator/expected/color';
import type { ObservedPatch, PatchSample } from '../../reading/observations';
import type { Triple } from '../../reading/patchStatistics';
import type { DensityReadings, PolarizerReadings } from '../../session/readings';
import { parseSession } from '../../session/parse';
import { preparePatch } from '../strength/preparedPatch';
import { estimateColors } from './estimateColors';

const SPACE = resolveColorSpace('srgb');
const RECT = { x: 0.4, y: 0.4, width: 0.2, height: 0.2 };
const RED: Triple = [0.5, 0.12, 0.1];
const BLUE: Triple = [0.12, 0.14, 0.42];
const GRAY: Triple = [0.4, 0.4, 0.4];
const WARM: Triple = [2.7, 3, 3.3];

/** A take: filter (`null` is bare), the stops that it takes of each channel, and its ring. */
type Take = [filter: string | null, stops: Triple, ring?: number];
interface Place {
  id: string;
  role: 'color' | 'neutral' | 'reference';
  surface: Triple;
  scene?: string;
  spread?: number;
}

const BARE: Take = [null, [0, 0, 0]];
const USUAL: Take[] = [BARE, ['f', WARM], BARE];
const idOf = (i: number) => `take-${i}`;

function sessionOf(takes: readonly Take[], places: readonly Place[]) {
  return parseSession({
    format: 'aurora-glade-session',
    version: 1,
    title: 'Colors',
    kits: [{ id: 'kit', filters: ['f', 'f2'].map((id) => ({ id, kind: 'nd', nominal: { ndFactor: 8 } })) }],
    scenes: ['chart', 'other'].map((id) => ({ id, kind: 'chart' })),
    takes: takes.map(([filter, , ring], i) => ({
      ...{ id: idOf(i), filter, scene: 'chart', files: [`${i}.tif`], exposure: { shutter: 1, iso: 100 } },
      ...(ring === undefined ? {} : { setting: { ringDegrees: ring } }),
    })),
    patches: places.map(({ id, role, scene = 'chart' }) => ({ id, role, scene, rect: RECT })),
  });
}

function observed(takes: readonly Take[], { id, role, surface, scene = 'chart', spread = 1e-6 }: Place): ObservedPatch {
  const none: Triple = [0, 0, 0];
  const samples = takes.map(([filter, stops, ring], i): PatchSample => {
    const mean = surface.map((light, c) => light * 2 ** -stops[c]) as Triple;
    const values = mean.map((light) => Float64Array.from({ length: 144 }, (_, k) => light * (1 + (k % 2 === 0 ? spread : -spread)))); // prettier-ignore
    return {
      ...{ take: idOf(i), file: `${i}.tif`, filter, timeMs: i * 60_000, exposureLog2: 0 },
      setting: ring === undefined ? '' : `ring ${ring}`,
      statistics: {
        ...{ pixelCount: 14_400, mean, zeroCorrection: none, topShare: none, zeroShare: none },
        ...{ pixelSpread: [spread, spread, spread], meanCode: mean, rounding: none },
        cells: { columns: 12, rows: 12, values: values as never },
      },
    };
  });
  return { patch: { id, scene, role, rect: RECT }, samples, bracket: [], fields: [], edges: [] };
}

function colorsOf(places: Place[], takes: Take[] = USUAL, known: Parameters<typeof estimateColors>[2] = {}) {
  const session = sessionOf(takes, places);
  const prepared = places.map((one) => preparePatch(observed(takes, one), session, null));
  return estimateColors('f', { places: prepared, session, space: SPACE }, known);
}
const red: Place = { id: 'red', role: 'color', surface: RED };
const blue: Place = { id: 'blue', role: 'color', surface: BLUE };
const gray: Place = { id: 'gray', role: 'neutral', surface: GRAY };
const density = (value: number, u95: number) => ({ stops: { value, u95 } }) as DensityReadings;
/** What a warm filter takes of gray, in luminance: the level of these takes. */
const LEVEL = -Math.log2(0.2126 * 2 ** -2.7 + 0.7152 * 2 ** -3 + 0.0722 * 2 ** -3.3);

test('chroma, hue and contrast of each patch are the color library’s, in the order of the patches', () => {
  const found = colorsOf([gray, red, blue]);
  expect(found.map(({ patch, scene }) => [patch, scene])).toEqual([['red', 'chart'], ['blue', 'chart']]); // prettier-ignore
  for (const [i, surface] of [RED, BLUE].entries()) {
    const truth = expectedSurface(surface, WARM);
    expect(found[i].chromaRatio!.value).toBeCloseTo(truth.chromaRatio, 3);
    expect(found[i].hueShiftDegrees!.value).toBeCloseTo(truth.hueShiftDegrees, 1);
    expect(found[i].contrastStops!.value).toBeCloseTo(truth.contrastStops, 3);
    expect(found[i].asShotRatio).toBeCloseTo(truth.asShotRatio, 3);
    expect(found[i]).not.toHaveProperty('atDegrees');
  }
});

describe('what levels them', () => {
  const truth = expectedSurface(RED, WARM);
  const reference: Place = { ...gray, id: 'reference', role: 'reference' };
  /** A surface that this filter takes half a stop more of in all channels, by a shadow. */
  const shaded = (place: Place): Place => ({ ...place, id: `${place.id}-2` });

  test('the scene’s own gray, else its reference, else the strength that is known; else nothing is told', () => {
    expect(colorsOf([red])).toEqual([]);
    expect(colorsOf([red, reference])[0].chromaRatio!.value).toBeCloseTo(truth.chromaRatio, 3);
    expect(colorsOf([red], USUAL, { density: density(LEVEL, 0.02) })[0].chromaRatio!.value).toBeCloseTo(truth.chromaRatio, 3); // prettier-ignore
    // A gray elsewhere is in other light.
    expect(colorsOf([red, { ...gray, scene: 'other' }])).toEqual([]);
    // The gray of the same takes is nearer than a figure of the whole session.
    expect(colorsOf([red, gray], USUAL, { density: density(LEVEL + 1, 0.02) })[0].contrastStops!.value).toBeCloseTo(truth.contrastStops, 3); // prettier-ignore
  });

  test('gray speaks before a reference, and several grays by their mean', () => {
    const tinted = (place: Place): Place => ({ ...place, surface: [0.4, 0.2, 0.4] });
    const alone = colorsOf([red, gray])[0].contrastStops!.value;
    expect(colorsOf([red, gray, tinted(reference)])[0].contrastStops!.value).toBe(alone);
    // Light that the gray loses shows in the level alone: the reference's is told apart from gray's by its tint.
    const byTinted = colorsOf([red, tinted(reference)])[0].contrastStops!.value;
    const both = colorsOf([red, reference, shaded(tinted(reference))])[0].contrastStops!.value;
    expect(both).toBeCloseTo((alone + byTinted) / 2, 6);
  });
});

test('a surface with next to no chroma has no hue; with little it has', () => {
  const tinted = (by: number): Place => ({ ...red, surface: [0.4 * (1 + by), 0.4, 0.4 * (1 - by)] });
  // Chroma of 1.2 and of 3.0 (CIE C*ab under D65), by the color library.
  expect(colorsOf([gray, tinted(0.02)])).toEqual([]);
  expect(colorsOf([gray, tinted(0.06)])).toHaveLength(1);
});

test('pictures of one filter by their mean', () => {
  const cool: Triple = [3.2, 3, 2.8];
  const [one, other] = [WARM, cool].map((stops) => colorsOf([gray, red], [BARE, ['f', stops], BARE])[0]);
  const [both] = colorsOf([gray, red], [BARE, ['f', WARM], ['f', cool], BARE]);
  const mean = (pick: (found: typeof one) => number) => (pick(one) + pick(other)) / 2;
  expect(both.chromaRatio!.value).toBeCloseTo(mean((found) => found.chromaRatio!.value), 6); // prettier-ignore
  expect(both.asShotRatio).toBeCloseTo(
    mean((found) => found.asShotRatio!),
    6,
  );
  // Weights of what a surface gives to luminance are those of its bare light, which stays.
  expect(both.contrastStops!.value).toBeCloseTo(mean((found) => found.contrastStops!.value), 6); // prettier-ignore
});

describe('takes at several ring angles', () => {
  /** More chroma is left the less green is taken. */
  const at = (ring: number | undefined, green: number): Take => ['f', [3, green, 3], ring];
  const turned: Take[] = [BARE, at(0, 3), at(90, 3.4), at(45, 3.2), BARE];
  const polarizer = (key: 'glare' | 'sky', scene: string, atDegrees?: number) => ({ polarizer: { [key]: { scene, atDegrees } } as unknown as PolarizerReadings }); // prettier-ignore

  test('the one at which glare or sky is cut most, counted around the half turn', () => {
    const angle = (known: object) => colorsOf([gray, red], turned, known)[0].atDegrees;
    expect(angle(polarizer('glare', 'chart', 50))).toBe(45);
    expect(angle(polarizer('glare', 'chart', 175))).toBe(0);
    expect(angle(polarizer('sky', 'chart', 80))).toBe(90);
    // Of another scene it says nothing of this one.
    expect(angle(polarizer('glare', 'other', 45))).toBe(angle({}));
  });

  test('else the one at which chroma is raised most', () => {
    const each = [0, 90, 45].map((ring) => colorsOf([gray, red], turned.filter(([, , one]) => one === undefined || one === ring))[0]); // prettier-ignore
    const best = [...each].sort((a, b) => b.chromaRatio!.value - a.chromaRatio!.value)[0];
    const [found] = colorsOf([gray, red], turned);
    expect(found.atDegrees).toBe(best.atDegrees);
    expect(found.chromaRatio!.value).toBeCloseTo(best.chromaRatio!.value, 9);
    expect(new Set(each.map(({ chromaRatio }) => chromaRatio!.value.toFixed(4))).size).toBe(3);
  });

  test('takes of one angle all count, and one without an angle is nearest to none', () => {
    const same = [BARE, at(30, 3), at(30, 3.4), BARE];
    const [found] = colorsOf([gray, red], same);
    expect(found.atDegrees).toBe(30);
    const mean = (colorsOf([gray, red], [BARE, at(30, 3), BARE])[0].asShotRatio! + colorsOf([gray, red], [BARE, at(30, 3.4), BARE])[0].asShotRatio!) / 2; // prettier-ignore
    expect(found.asShotRatio).toBeCloseTo(mean, 6);
    const mixed = [BARE, at(undefined, 3), at(90, 3.4), BARE];
    expect(colorsOf([gray, red], mixed, polarizer('glare', 'chart', 0))[0].atDegrees).toBe(90);
  });
});

describe('the ±', () => {
  test('holds what the level is unsure by', () => {
    const by = (u95: number) => colorsOf([red], USUAL, { density: density(LEVEL, u95) })[0];
    // Contrast is a surface's stops less the level.
    expect(by(0.04).contrastStops!.u95).toBeCloseTo(0.04, 3);
    expect(by(0.08).contrastStops!.u95).toBeCloseTo(0.08, 3);
    // Raised by a little more all colors are a little stronger: CIE L*a*b* goes with the cube root of light.
    const slope = Math.abs(2 ** (0.04 / 3) - 1);
    expect(by(0.04).chromaRatio!.u95 / by(0.04).chromaRatio!.value).toBeCloseTo(slope, 3);
    // Hue stays.
    expect(by(0.08).hueShiftDegrees!.u95).toBeLessThan(0.01);
  });

  test('holds the noise of the patch and of its gray', () => {
    const noisy = (place: Place): Place => ({ ...place, spread: 0.05 });
    const [clean, own, level] = [colorsOf([gray, red]), colorsOf([gray, noisy(red)]), colorsOf([noisy(gray), red])].map(([one]) => one); // prettier-ignore
    expect(clean.chromaRatio!.u95).toBeLessThan(1e-4);
    for (const key of ['chromaRatio', 'hueShiftDegrees', 'contrastStops'] as const)
      expect(own[key]!.u95).toBeGreaterThan(20 * clean[key]!.u95);
    expect(level.contrastStops!.u95).toBeGreaterThan(20 * clean.contrastStops!.u95);
    expect(level.chromaRatio!.u95).toBeGreaterThan(20 * clean.chromaRatio!.u95);
    // The cells' pattern is the surface's own, in both; pixels are known to 0.05/120 of the light, 0.0006 stop, filtered and bare.
    expect(own.contrastStops!.u95).toBeGreaterThan(2 * 0.0006);
    expect(own.contrastStops!.u95).toBeLessThan(6 * 0.0006);
  });

  test('more pictures make it smaller', () => {
    const noisy: Place = { ...red, spread: 0.05 };
    const u95 = (count: number) => colorsOf([gray, noisy], [BARE, ...Array.from({ length: count }, (): Take => ['f', WARM]), BARE])[0].chromaRatio!.u95; // prettier-ignore
    expect(u95(4)).toBeLessThan(0.9 * u95(1));
  });
});

test('places that show no color, or not the filter, tell nothing', () => {
  expect(colorsOf([gray, { ...red, role: 'reference' }])).toEqual([]);
  expect(colorsOf([gray, red], [BARE, ['f2', WARM], BARE])).toEqual([]);
  expect(colorsOf([gray, red], [['f', WARM]])).toEqual([]);
});
