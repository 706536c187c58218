/** A filter's one figure: which places speak, when it is withheld, and why there is none. */
import { resolveColorSpace } from '../../formulas/color/spaces';
import type { ObservedPatch, PatchSample } from '../../reading/observations';
import type { Triple } from '../../reading/patchStatistics';
import { parseSession } from '../../session/parse';
import type { Filter } from '../../session/schema';
import { estimateStrength } from './estimateStrength';
import { preparePatch } from './preparedPatch';

const SPACE = resolveColorSpace('srgb');
const ND: Filter = { id: 'nd8', kind: 'nd', nominal: { ndFactor: 8 } } as Filter;
const PL: Filter = { id: 'pl', kind: 'polarizer', nominal: { stops: 1.5 } } as Filter;
const RECT = { x: 0.4, y: 0.4, width: 0.2, height: 0.2 };

type Role = 'neutral' | 'frame' | 'field';
interface Seen {
  scene: string;
  role: Role;
  /** Light by filter; `null` is bare. A list is several takes. */
  lights: [filter: string | null, ...light: number[]][];
  spread?: number;
  rings?: Record<string, number>;
}

/** Takes of a scene in shooting order. */
function takesOf({ scene, lights, rings }: Seen) {
  return lights
    .flatMap(([filter, ...list]) => list.map((light, i) => ({ filter, light, ringDegrees: rings?.[`${filter}-${i}`] })))
    .map((take, i) => ({ ...take, id: `${scene}-${take.filter ?? 'bare'}-${i}`, timeMs: i * 60_000 }));
}

function sessionOf(seen: readonly Seen[], kinds: Record<string, string> = {}) {
  return parseSession({
    format: 'aurora-glade-session',
    version: 1,
    title: 'Bench',
    kits: [{ id: 'kit', filters: [ND, PL] }],
    scenes: [...new Set(seen.map(({ scene }) => scene))].map((id) => ({ id, kind: kinds[id] ?? 'chart' })),
    takes: seen.flatMap((one) =>
      takesOf(one).map(({ id, filter, ringDegrees }) => ({
        id,
        filter,
        scene: one.scene,
        files: ['x.tif'],
        exposure: { shutter: 1, iso: 100 },
        ...(ringDegrees === undefined ? {} : { setting: { ringDegrees } }),
      })),
    ),
    patches: seen.map(({ scene, role }, i) => ({ id: `${scene}-${i}`, scene, role, rect: RECT })),
  });
}

function samplesOf(seen: Seen): PatchSample[] {
  const { spread = 0.001 } = seen;
  return takesOf(seen).map(({ id, filter, light, ringDegrees, timeMs }): PatchSample => {
    const same: Triple = [light, light, light];
    const none: Triple = [0, 0, 0];
    // Cells that scatter by the spread, so that the mean has some noise.
    const cells = Float64Array.from({ length: 144 }, (_, k) => light * (1 + (k % 2 === 0 ? spread : -spread)));
    return {
      take: id,
      file: `${id}.tif`,
      filter,
      timeMs,
      exposureLog2: 0,
      setting: ringDegrees === undefined ? '' : `ring ${ringDegrees}`,
      statistics: {
        pixelCount: 14_400,
        mean: same,
        zeroCorrection: none,
        topShare: none,
        zeroShare: none,
        pixelSpread: [spread, spread, spread],
        meanCode: same,
        rounding: none,
        cells: { columns: 12, rows: 12, values: [cells, cells, cells] as never },
      },
    };
  });
}

function estimated(filter: Filter, seen: Seen[], kinds: Record<string, string> = {}) {
  const session = sessionOf(seen, kinds);
  const patches = seen.map((one, i): ObservedPatch => {
    const patch = { id: `${one.scene}-${i}`, scene: one.scene, role: one.role, rect: RECT };
    return { patch, samples: samplesOf(one), bracket: [], fields: [], edges: [] };
  });
  const places = patches.map((one) => preparePatch(one, session, null));
  return estimateStrength(filter, { places, patches, session, space: SPACE });
}

test('an eighth of the light is three stops, beside its label', () => {
  const { density, faults, pictures } = estimated(ND, [{ scene: 'chart', role: 'neutral', lights: [[null, 0.4, 0.4], ['nd8', 0.05]] }]); // prettier-ignore
  expect(density!.stops.value).toBeCloseTo(3, 9);
  expect(density!.channels.r.value).toBeCloseTo(3, 9);
  expect(density!.error!.value).toBeCloseTo(0, 9);
  expect(density!.actsLike).toEqual({ ndFactor: 8 });
  expect(faults).toEqual([]);
  expect(pictures).toBe(1);
});

test('an unmarked filter has a strength and no error', () => {
  const unmarked = { ...ND, nominal: {} } as Filter;
  const { density } = estimated(unmarked, [
    {
      scene: 'chart',
      role: 'neutral',
      lights: [
        [null, 0.4],
        ['nd8', 0.05],
      ],
    },
  ]);
  expect(density).not.toHaveProperty('error');
});

describe('which places speak', () => {
  const at = (scene: string, role: Role, light: number): Seen => ({
    scene,
    role,
    lights: [
      [null, 0.4],
      ['nd8', light],
    ],
  });

  test('neutral patches before frames before fields; all are listed', () => {
    const [neutral, frame, field] = [0.05, 0.06, 0.07];
    const all = [at('wall', 'field', field), at('walk', 'frame', frame), at('chart', 'neutral', neutral)];
    expect(estimated(ND, all).density!.stops.value).toBeCloseTo(3, 9);
    expect(estimated(ND, all).density!.byScene.map(({ role }) => role)).toEqual(['field', 'frame', 'neutral']);
    expect(estimated(ND, all.slice(0, 2)).density!.stops.value).toBeCloseTo(Math.log2(0.4 / frame), 9);
    expect(estimated(ND, all.slice(0, 1)).density!.stops.value).toBeCloseTo(Math.log2(0.4 / field), 9);
  });

  test('a flare scene or a screen speaks only where nothing else does', () => {
    const flare = at('lamp', 'neutral', 0.1);
    const wall = at('wall', 'field', 0.05);
    const kinds = { lamp: 'flare', wall: 'flat' };
    expect(estimated(ND, [flare, wall], kinds).density!.stops.value).toBeCloseTo(3, 9);
    expect(estimated(ND, [flare], kinds).density!.stops.value).toBeCloseTo(2, 9);
  });

  test('places that disagree far beyond their ± are told, and the ± grows', () => {
    const three = (third: number) =>
      estimated(ND, [at('a', 'neutral', 0.05), at('b', 'neutral', 0.05), at('c', 'neutral', third)]);
    const apart = three(0.0515);
    expect(apart.faults.map(({ code }) => code)).toEqual(['scenes-disagree']);
    expect(apart.faults[0].message).toContain('Its places disagree by 0.04 stop');
    const agree = three(0.05);
    expect(agree.faults).toEqual([]);
    expect(apart.density!.stops.u95).toBeGreaterThan(10 * agree.density!.stops.u95);
  });
});

test('a strength that would be uncertain by more than 0.15 stop is withheld, with what most of it is', () => {
  const jump: Seen = {
    scene: 'chart',
    role: 'neutral',
    lights: [
      [null, 0.4],
      ['nd8', 0.05],
      [null, 0.8],
    ],
  };
  // In shooting order: bare, filter, bare.
  const { density, combined, faults } = estimated(ND, [jump]);
  expect(density).toBeUndefined();
  expect(combined).not.toBeNull();
  expect(faults[0]).toMatchObject({ code: 'light-jumped', severity: 'error', takes: ['chart-nd8-1'] });
  expect(faults[0].message).toMatch(
    /uncertain by \d\.\d\d stop, more than 0\.15; it is withheld\. Most of that is light drift\./,
  );
  // Halfway between 0.4 and 0.8 on a log scale, over 0.05: 3.5 stops, and what may tell another filter from this one.
  expect(faults[0].around!.value).toBeCloseTo(3.5, 6);
  expect(faults[0].around!.u95).toBeGreaterThan(0.15);
});

describe('why there is no figure', () => {
  test('no bare take', () => {
    const { combined, faults } = estimated(ND, [{ scene: 'chart', role: 'neutral', lights: [['nd8', 0.05]] }]);
    expect(combined).toBeNull();
    expect(faults).toEqual([
      expect.objectContaining({
        code: 'bare-missing',
        message: 'There is no usable bare take of “chart” to compare with.',
      }),
    ]);
  });

  test('a polarizer before polarized light alone', () => {
    const seen: Seen[] = [
      {
        scene: 'screen',
        role: 'neutral',
        lights: [
          [null, 0.4],
          ['pl', 0.2],
        ],
      },
    ];
    expect(estimated(PL, seen, { screen: 'screen' }).faults.map(({ code, severity }) => [code, severity])).toEqual([
      ['unpolarized-missing', 'warning'],
    ]);
  });

  test('a filter that wasn’t shot has none, and nothing is said', () => {
    const { combined, faults } = estimated(ND, [{ scene: 'chart', role: 'neutral', lights: [[null, 0.4]] }]);
    expect([combined, faults]).toEqual([null, []]);
  });
});

describe('a polarizer in light that is itself partly polarized', () => {
  /** Passes T·(1 ± p) of light with a degree p of polarization along and across its axis: T is the mean. */
  const at = (degrees: number[], p = 0.1): Seen => ({
    scene: 'chart',
    role: 'neutral',
    lights: [
      [null, 0.4],
      ['pl', ...degrees.map((angle) => 0.1 * (1 + p * Math.cos((2 * angle * Math.PI) / 180)))],
    ],
    rings: Object.fromEntries(degrees.map((angle, i) => [`pl-${i}`, angle])),
  });

  test.each([
    ['two angles 90° apart', [0, 90]],
    ['four angles', [10, 55, 100, 145]],
  ])('%s average it out, and it is told', (_, degrees) => {
    const { density, lightFaults } = estimated(PL, [at(degrees)]);
    expect(density!.stops.value).toBeCloseTo(2, 6);
    expect(lightFaults.map(({ code, severity }) => [code, severity])).toEqual([['light-polarized', 'info']]);
  });

  test('two angles that aren’t leave it open: the ± holds it', () => {
    const { density, lightFaults } = estimated(PL, [at([0, 45], 0.05)]);
    expect(lightFaults[0].severity).toBe('warning');
    expect(Math.abs(density!.stops.value - 2)).toBeLessThan(density!.stops.u95);
  });

  test('light that isn’t polarized needs no word', () => {
    expect(estimated(PL, [at([0, 45, 90], 0.002)]).lightFaults).toEqual([]);
  });
});
