/** Marks from levels worked by hand: which places and takes speak, what is withheld, and what the row of marks comes to. */
import { resolveColorSpace } from '../../formulas/color/spaces';
import type { ObservedPatch, PatchSample } from '../../reading/observations';
import type { Triple } from '../../reading/patchStatistics';
import { parseSession } from '../../session/parse';
import type { Filter } from '../../session/schema';
import { preparePatch } from '../strength/preparedPatch';
import { estimateMarks } from './estimateMarks';

const RECT = { x: 0.4, y: 0.4, width: 0.2, height: 0.2 };
const BARE = 0.4;

/** A take: its mark (`null` is bare, `undefined` the filter without a note), the stops of its channels, and how its cells scatter, relative. */
type Take = [mark: number | null | undefined, stops: number | Triple, scatter?: number];
interface Place {
  role: 'frame' | 'middle' | 'neutral';
  scene?: string;
  /** What this place reads more than the takes say, stops. */
  more?: number;
}
const MIDDLE: Place = { role: 'middle' };
const UP: Take[] = [[null, 0], [1, 1.6], [2, 2.5], [null, 0], [3, 3.7], [4, 4.6], [null, 0]]; // prettier-ignore

const idOf = (i: number) => `take-${i}`;

function sessionOf(takes: readonly Take[], range?: [number, number]) {
  return parseSession({
    format: 'aurora-glade-session',
    version: 1,
    title: 'Marks',
    kits: [{ id: 'kit', filters: [{ id: 'vnd', kind: 'variable-nd', nominal: range ? { stopsRange: range } : {} }] }],
    scenes: [{ id: 'wall', kind: 'flat' }, { id: 'lamp', kind: 'flare' }, { id: 'screen', kind: 'screen' }], // prettier-ignore
    takes: takes.map(([mark], i) => ({
      ...{ id: idOf(i), filter: mark === null ? null : 'vnd', scene: 'wall', files: [`${i}.tif`] },
      exposure: { shutter: 1, iso: 100 },
      ...(typeof mark === 'number' ? { setting: { mark } } : {}),
    })),
    patches: [],
  });
}

function observed(takes: readonly Take[], { role, scene = 'wall', more = 0 }: Place, index: number): ObservedPatch {
  const none: Triple = [0, 0, 0];
  const samples = takes.map(([mark, stops, scatter = 1e-4], i): PatchSample => {
    const taken = typeof stops === 'number' ? [stops, stops, stops] : stops;
    const mean = taken.map((one) => BARE * 2 ** -(one + (mark === null ? 0 : more))) as Triple;
    const cells = mean.map((light) => Float64Array.from({ length: 144 }, (_, k) => light * (1 + (k % 2 === 0 ? scatter : -scatter)))); // prettier-ignore
    return {
      ...{ take: idOf(i), file: `${i}.tif`, filter: mark === null ? null : 'vnd', timeMs: i * 60_000, exposureLog2: 0 },
      setting: typeof mark === 'number' ? `mark ${mark}` : '',
      statistics: {
        ...{ pixelCount: 14_400, mean, zeroCorrection: none, topShare: none, zeroShare: none },
        ...{ pixelSpread: [scatter, scatter, scatter], meanCode: mean, rounding: none },
        cells: { columns: 12, rows: 12, values: cells as never },
      },
    };
  });
  return { patch: { id: `${role}-${index}`, scene, role, rect: RECT }, samples, bracket: [], fields: [], edges: [] };
}

function marksOf(takes: Take[], places: Place[] = [MIDDLE], range?: [number, number]) {
  const session = sessionOf(takes, range);
  const patches = places.map((one, i) => observed(takes, one, i));
  const prepared = patches.map((one) => preparePatch(one, session, null));
  const filter = session.kits[0].filters[0] as Filter;
  return estimateMarks(filter, { places: prepared, patches, edges: [], session, space: resolveColorSpace('srgb') });
}
const told = (takes: Take[], places?: Place[]) =>
  marksOf(takes, places)!.marks?.map(({ mark, stops }) => [mark, Math.round(1e4 * stops.value) / 1e4]);

test('each mark’s strength, by rising marks, however they were shot', () => {
  expect(told(UP)).toEqual([[1, 1.6], [2, 2.5], [3, 3.7], [4, 4.6]]); // prettier-ignore
  const mixed: Take[] = [[null, 0], [10, 4.6], [2, 2.5], [null, 0], [2, 2.5], [1, 1.6], [null, 0]]; // prettier-ignore
  expect(told(mixed)).toEqual([[1, 1.6], [2, 2.5], [10, 4.6]]); // prettier-ignore
});

test('without a marked take there is nothing; takes without a mark are told', () => {
  expect(marksOf([[null, 0], [undefined, 2], [null, 0]])).toBeNull(); // prettier-ignore
  expect(marksOf([[null, 0], [null, 0]])).toBeNull(); // prettier-ignore
  const { faults, marks } = marksOf([[null, 0], [1, 1.6], [undefined, 2], [2, 2.5], [null, 0]])!; // prettier-ignore
  expect(faults.map(({ code, takes }) => [code, takes])).toEqual([['mark-missing', ['take-2']]]);
  expect(marks).toHaveLength(2);
  expect(marksOf(UP)!.faults).toEqual([]);
});

describe('which places speak', () => {
  test('a frame before a middle, a card of another role never', () => {
    expect(told(UP, [MIDDLE, { role: 'frame', more: 0.5 }])).toEqual([[1, 2.1], [2, 3], [3, 4.2], [4, 5.1]]); // prettier-ignore
    expect(told(UP, [{ role: 'neutral' }])).toBeUndefined();
  });

  test('several of one role by their mean', () => {
    expect(told(UP, [MIDDLE, { role: 'middle', more: 0.001 }])).toEqual([[1, 1.6005], [2, 2.5005], [3, 3.7005], [4, 4.6005]]); // prettier-ignore
  });

  test('none before a lamp or in polarized light', () => {
    for (const scene of ['lamp', 'screen']) {
      expect(told(UP, [{ role: 'middle', scene }])).toBeUndefined();
      expect(told(UP, [{ role: 'frame', scene, more: 0.5 }, MIDDLE])![0]).toEqual([1, 1.6]);
    }
  });
});

test('a mark that would be too unsure is withheld by itself', () => {
  // The 144 cells of mark 2's only picture scatter by 0.9 of its light: their mean by 0.075, a tenth of a stop, twice that its u95.
  const noisy: Take[] = [[null, 0], [1, 1.6], [2, 2.5, 0.9], [3, 3.7], [null, 0]]; // prettier-ignore
  const { marks, faults, variable } = marksOf(noisy)!;
  expect(marks!.map(({ mark }) => mark)).toEqual([1, 3]);
  expect(faults.map(({ code, severity, takes }) => [code, severity, takes])).toEqual([
    ['too-dark', 'error', ['take-2']],
  ]);
  expect(faults[0].message).toMatch(
    /^Mark 2 would be uncertain by 0\.\d\d stop; it is withheld\. Most of that is noise\./,
  );
  expect(variable!.curve).toHaveLength(9);
});

test('two pictures of a mark half a stop apart: how far any picture may be off nobody knows then, and nothing is told', () => {
  const { lightest, faults, ...found } = marksOf([[null, 0], [1, 1.6], [2, 2.2], [2, 2.7], [null, 0]])!; // prettier-ignore
  expect(found).not.toHaveProperty('marks');
  expect(lightest).toEqual(new Set());
  expect(faults.map(({ code, takes }) => [code, takes])).toEqual([['repeats-disagree', ['take-1']], ['repeats-disagree', ['take-2', 'take-3']]]); // prettier-ignore
});

describe('the row of marks', () => {
  test('its ends, beside the label’s, and what can be used', () => {
    const { variable, lightest } = marksOf(UP, [MIDDLE], [5, 2])!;
    expect(variable!.lightest.value).toBeCloseTo(1.6, 6);
    expect(variable!.darkest.value).toBeCloseTo(4.6, 6);
    expect(variable!.errors!.low.value).toBeCloseTo(-0.4, 6);
    expect(variable!.errors!.high.value).toBeCloseTo(-0.4, 6);
    expect(variable!.errors!.low.u95).toBe(variable!.lightest.u95);
    expect(variable!.errors!.high.u95).toBe(variable!.darkest.u95);
    expect(variable!.usable).toEqual([variable!.lightest.value, variable!.darkest.value]);
    expect(variable).not.toHaveProperty('crossBegins');
    expect(lightest).toEqual(new Set(['take-1']));
    expect(marksOf(UP)!.variable).not.toHaveProperty('errors');
  });

  test('a ring that counts down to dark', () => {
    const { variable, lightest } = marksOf([[null, 0], [1, 4.6], [2, 3.7], [3, 1.6], [null, 0]])!; // prettier-ignore
    expect([variable!.lightest.value, variable!.darkest.value].map((one) => Math.round(10 * one) / 10)).toEqual([1.6, 4.6]); // prettier-ignore
    expect(lightest).toEqual(new Set(['take-3']));
    expect(variable!.curve[0][1]).toBeCloseTo(4.6, 6);
  });

  test('its curve goes through every mark, in eighths between them', () => {
    const { curve } = marksOf(UP)!.variable!;
    expect(curve).toHaveLength(3 * 8 + 1);
    expect(curve.map(([mark]) => mark)).toEqual(Array.from({ length: 25 }, (_, i) => 1 + i / 8));
    for (const [i, stops] of [1.6, 2.5, 3.7, 4.6].entries()) expect(curve[8 * i][1]).toBeCloseTo(stops, 6);
    // Marks that are no whole numbers, to a ten-thousandth.
    const thirds = marksOf([[null, 0], [1 / 3, 1.6], [2 / 3, 2.5], [null, 0]])!.variable!.curve; // prettier-ignore
    expect(thirds.map(([mark]) => mark)[8]).toBe(0.6667);
  });

  test('one mark alone is a mark and no row', () => {
    const { marks, variable, lightest } = marksOf([[null, 0], [2, 2.5], [null, 0]])!; // prettier-ignore
    expect(marks).toHaveLength(1);
    expect(variable).toBeUndefined();
    expect(lightest).toEqual(new Set(['take-1']));
  });
});

test('what a mark takes from above less from below', () => {
  const turned: Take[] = [[null, 0], [1, 1.6], [2, 2.5], [3, 3.7], [2, 2.53], [1, 1.6], [null, 0]]; // prettier-ignore
  const { variable } = marksOf(turned)!;
  expect(variable!.hysteresis!.value).toBeCloseTo(0.03, 3);
  expect(variable!.hysteresis!.u95).toBeGreaterThan(0);
  expect(marksOf(UP)!.variable).not.toHaveProperty('hysteresis');
});

test('each mark has a cast of its own', () => {
  // More red than blue is left: warm (positive b*); neutral stays at nothing.
  const { marks } = marksOf([[null, 0], [1, 1.6], [2, [2.4, 2.5, 2.6]], [3, [3.8, 3.7, 3.6]], [null, 0]])!; // prettier-ignore
  const [neutral, warm, cool] = marks!.map(({ cast }) => cast!);
  expect(Math.abs(neutral.deltaE00.value)).toBeLessThan(0.05);
  expect(warm.b.value).toBeGreaterThan(2);
  expect(cool.b.value).toBeLessThan(-2);
  for (const one of marks!) {
    expect(one).not.toHaveProperty('unevenness');
    expect(one).not.toHaveProperty('retained');
  }
});
