/** Edges of known sharpness: what a filter keeps, which pictures are left out, and what made it soft. */
import type { EdgeObservation, ObservedPatch } from '../../reading/observations';
import type { EdgeReadings } from '../../session/readings';
import { prepareEdges, type EdgePlace } from './edgePlaces';
import type { EdgeResponse } from './edge';
import { keptSharpness, whySoft } from './keptSharpness';
import type { EdgeMeasurement } from './reduceEdge';

function response(mtf50: number, change: Partial<EdgeResponse> = {}): EdgeResponse {
  return {
    mtf50,
    mtf20: 1.5 * mtf50,
    u: 0.001,
    curve: [1, mtf50, 0],
    angleDegrees: 5,
    contrast: 0.8,
    contrastToNoise: 50,
    lengthPx: 80,
    runs: 'upright',
    ...change,
  };
}

const measured = (result: EdgeMeasurement['result'], change: Partial<EdgeMeasurement> = {}): EdgeMeasurement => ({
  result,
  topShare: 0,
  zeroShare: 0,
  codeStep: 200,
  ...change,
});

function shot(filter: string | null, take: string, file: string, value: EdgeMeasurement): EdgeObservation {
  return { take, file, filter, timeMs: 0, value, pixels: { x: 10, y: 20, width: 40, height: 80 } };
}

const CENTER = { x: 0.45, y: 0.45, width: 0.1, height: 0.1 };
const CORNER = { x: 0.05, y: 0.05, width: 0.1, height: 0.1 };
function edgePatch(edges: EdgeObservation[], id = 'edge', rect = CENTER): ObservedPatch {
  return { patch: { id, scene: 'chart', role: 'edge', rect }, samples: [], bracket: [], fields: [], edges };
}

const place = (edges: EdgeObservation[]): EdgePlace => prepareEdges([edgePatch(edges)]).places[0];

describe('kept sharpness', () => {
  const pair = (bare: number, filtered: number, change: Partial<EdgeResponse> = {}) =>
    place([
      shot(null, 'bare', 'b.tif', measured(response(bare, change))),
      shot('nd8', 'run', 'f.tif', measured(response(filtered, change))),
    ]);

  test('is the ratio of the MTF50, its noise relative', () => {
    const found = keptSharpness(pair(0.3, 0.24), 'nd8');
    if (!found || !('kept' in found)) throw new Error('nothing kept');
    expect(found.kept.retained.value).toBeCloseTo(0.8, 12);
    expect(found.kept.baselineMtf50.value).toBeCloseTo(0.3, 12);
    // Relative noise of 1/300 and 1/240, rounding of a quarter over 200 codes in both, 0.001 of the method; k = 2.
    const noise = 0.8 * Math.hypot(0.001 / 0.3, 0.001 / 0.24);
    const rounding = 0.8 * 0.25 * Math.hypot(1 / 200, 1 / 200);
    expect(found.kept.retained.u95).toBeCloseTo(2 * Math.hypot(noise, rounding, 0.001), 4);
    expect(found.kept.mtf20!.filtered).toBeCloseTo(0.36, 9);
    expect(found.kept.pictures!.filtered).toMatchObject({ file: 'f.tif', x: 10, y: 20 });
  });

  test('that would be uncertain by more than 0.12 is withheld, just below it isn’t', () => {
    const at = (u: number) => keptSharpness(pair(0.3, 0.3, { u }), 'nd8')!;
    const wide = at(0.02);
    expect('withheld' in wide && wide.withheld.code).toBe('edge-unusable');
    expect('kept' in at(0.012)).toBe(true);
  });

  test('of a filter that wasn’t shot here, or without a bare picture, there is none', () => {
    expect(keptSharpness(pair(0.3, 0.24), 'other')).toBeNull();
    const alone = place([shot('nd8', 'run', 'f.tif', measured(response(0.3)))]);
    expect(keptSharpness(alone, 'nd8')).toBeNull();
  });

  test('by some takes alone', () => {
    const two = place([
      shot(null, 'bare', 'b.tif', measured(response(0.3))),
      shot('nd8', 'low', 'l.tif', measured(response(0.27))),
      shot('nd8', 'high', 'h.tif', measured(response(0.15))),
    ]);
    const found = keptSharpness(two, 'nd8', new Set(['low']))!;
    expect('kept' in found && found.kept.retained.value).toBeCloseTo(0.9, 9);
  });

  test('bare takes that differ beyond their noise widen the ±', () => {
    const width = (other: number) => {
      const found = keptSharpness(
        place([
          shot(null, 'bare-1', 'b1.tif', measured(response(0.3))),
          shot(null, 'bare-2', 'b2.tif', measured(response(other))),
          shot('nd8', 'run', 'f.tif', measured(response(0.27))),
        ]),
        'nd8',
      )!;
      return 'kept' in found ? found.kept.retained.u95 : NaN;
    };
    expect(width(0.31)).toBeGreaterThan(5 * width(0.3005));
  });
});

describe('pictures of an edge', () => {
  const refused: [string, EdgeMeasurement, RegExp][] = [
    ['clipped', measured(response(0.3), { topShare: 0.0011 }), /0\.11 % of it is clipped/],
    ['black', measured(response(0.3), { zeroShare: 0.021 }), /2\.1 % of it is at code 0/],
    ['of few codes', measured(response(0.3), { codeStep: 9 }), /only 9 codes lie between/],
    ['refused by the measurement', measured({ refused: 'it is bent' }), /can’t be used, it is bent\./],
    ['noisy', measured(response(0.3, { contrastToNoise: 1.4 })), /contrast is only 1\.4 times the noise/],
  ];
  test.each(refused)('that are %s are left out, with the reason', (_, bad, words) => {
    const good = shot(null, 'bare', 'good.tif', measured(response(0.3)));
    const { places, faults } = prepareEdges([edgePatch([good, shot(null, 'bare', 'bad.tif', bad)])]);
    expect(places[0].usable.map(({ file }) => file)).toEqual(['good.tif']);
    expect(faults).toHaveLength(1);
    expect(faults[0].fault).toMatchObject({ code: 'edge-unusable', severity: 'error', takes: ['bare'] });
    expect(faults[0].fault.message).toMatch(words);
    expect(faults[0].fault.message).toMatch(/^1 of 2 pictures of bare: /);
  });

  test.each([
    ['clipped', { topShare: 0.001 }],
    ['black', { zeroShare: 0.02 }],
    ['of few codes', { codeStep: 10 }],
  ])('that are just not %s are used', (_, change) => {
    const edge = shot(null, 'bare', 'b.tif', measured(response(0.3), change));
    expect(prepareEdges([edgePatch([edge])]).faults).toEqual([]);
  });

  const several = (change: (edge: number) => number) =>
    [0, 1, 2, 3].map((edge) =>
      edgePatch(
        [
          shot(null, 'bare', 'b.tif', measured(response(0.3))),
          shot('nd8', 'run', 'one.tif', measured(response(0.28))),
          shot('nd8', 'run', 'two.tif', measured(response(change(edge)))),
        ],
        `edge-${edge}`,
      ),
    );

  test('a repeat that is softer by 7 % at most edges was shaken', () => {
    const { places, faults } = prepareEdges(several(() => 0.25));
    expect(faults.map(({ fault }) => fault.code)).toEqual(['soft-by-motion']);
    expect(faults[0].filter).toBe('nd8');
    expect(places.every(({ usable }) => usable.every(({ file }) => file !== 'two.tif'))).toBe(true);
  });

  test('one that is so at a single edge, or by less, wasn’t', () => {
    expect(prepareEdges(several((edge) => (edge === 0 ? 0.2 : 0.28))).faults).toEqual([]);
    expect(prepareEdges(several(() => 0.265)).faults).toEqual([]);
  });

  test('bare takes of unlike sharpness say that the focus moved', () => {
    const patches = [0, 1, 2].map((edge) =>
      edgePatch(
        [
          shot(null, 'bare-1', 'a.tif', measured(response(0.3))),
          shot(null, 'bare-2', 'b.tif', measured(response(0.27))),
        ],
        `edge-${edge}`,
      ),
    );
    const { faults } = prepareEdges(patches);
    expect(faults.map(({ filter, fault }) => [filter, fault.code, fault.takes])).toEqual([
      [null, 'focus-moved', ['bare-2']],
    ]);
    expect(faults[0].fault.message).toContain('10.0 %');
  });

  test('the outer part of the half diagonal is a corner', () => {
    const { places } = prepareEdges([edgePatch([], 'a'), edgePatch([], 'b', CORNER)]);
    expect(places.map(({ region }) => region)).toEqual(['center', 'corner']);
  });
});

describe('why pictures are soft', () => {
  interface Made {
    region?: 'center' | 'corner';
    runs?: 'upright' | 'level';
    patch?: string;
    u95?: number;
  }
  /** An edge behind a blur of σ pixels; bare's is 0.6 (MTF50 · σ = 0.18739). */
  function edge(
    sigma: number,
    { region = 'center', runs = 'upright', patch = 'edge', u95 = 0.004 }: Made = {},
  ): EdgeReadings {
    const [bare, filtered] = [0.18739 / 0.6, 0.18739 / Math.hypot(0.6, sigma)];
    return {
      patch,
      scene: 'chart',
      region,
      runs,
      baselineMtf50: { value: bare, u95: 0.001 },
      mtf50: { value: filtered, u95: 0.001 },
      mtf20: { bare: 0.4, filtered: 0.4 },
      retained: { value: filtered / bare, u95 },
      curves: { bare: [], filtered: [] },
      angleDegrees: 5,
    };
  }
  const both = (center: number, corner: number) => [
    edge(center, { region: 'center' }),
    edge(center, { region: 'center', runs: 'level' }),
    edge(corner, { region: 'corner' }),
    edge(corner, { region: 'corner', runs: 'level' }),
  ];

  test('nothing is soft', () => {
    expect(whySoft(both(0.05, 0.05))).toEqual({ cause: 'none' });
    expect(whySoft([])).toEqual({ cause: 'none' });
  });

  test('alike in center and corners: the filter', () => {
    const found = whySoft(both(0.5, 0.5));
    expect(found).toMatchObject({ cause: 'filter' });
    expect(found.cause === 'filter' && found.kept.center).toBeCloseTo(0.6 / Math.hypot(0.6, 0.5), 6);
  });

  test('corners alone: a shift of focus', () => expect(whySoft(both(0.1, 0.6)).cause).toBe('focus'));

  test('one direction alone: a shake', () => {
    const shaken = (upright: number, level: number) => [
      edge(upright, { runs: 'upright' }),
      edge(level, { runs: 'level' }),
    ];
    expect(whySoft(shaken(0.8, 0.1))).toEqual({ cause: 'shake', way: 'sideways' });
    expect(whySoft(shaken(0.1, 0.8))).toEqual({ cause: 'shake', way: 'up and down' });
  });

  test('in the center alone it can’t be told', () => {
    const center = [edge(0.5, { runs: 'upright' }), edge(0.5, { runs: 'level' })];
    expect(whySoft(center)).toEqual({ cause: 'untold' });
  });

  test('sharper than bare at several edges, or surely at one, is no filter’s doing', () => {
    const sharp = (patch: string, value: number) => ({ ...edge(0, { patch }), retained: { value, u95: 0.02 } });
    expect(whySoft([sharp('a', 1.05), sharp('b', 1.05)])).toEqual({ cause: 'sharper than bare', patches: ['a', 'b'] });
    expect(whySoft([sharp('a', 1.05), edge(0.05)])).toEqual({ cause: 'none' });
    expect(whySoft([sharp('a', 1.07), edge(0.05)])).toEqual({ cause: 'sharper than bare', patches: ['a'] });
  });
});
