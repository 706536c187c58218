/** One patch made ready: pictures left out, light, repeats, white balance and response that are told. */
import type { ObservedPatch, PatchSample } from '../../reading/observations';
import type { PatchStatistics, Triple } from '../../reading/patchStatistics';
import { parseSession } from '../../session/parse';
import { preparePatch } from './preparedPatch';

const SESSION = parseSession({
  format: 'aurora-glade-session',
  version: 1,
  title: 'Bench',
  kits: [{ id: 'kit', filters: [{ id: 'nd8', kind: 'nd', nominal: { ndFactor: 8 } }] }],
  scenes: [{ id: 'chart', kind: 'chart' }],
  takes: [],
});

function statistics(light: number, change: Partial<PatchStatistics> = {}): PatchStatistics {
  const same: Triple = [light, light, light];
  const none: Triple = [0, 0, 0];
  return {
    pixelCount: 10_000,
    mean: same,
    zeroCorrection: none,
    topShare: none,
    zeroShare: none,
    pixelSpread: none,
    meanCode: same,
    rounding: none,
    cells: { columns: 12, rows: 12, values: [0, 1, 2].map(() => new Float64Array(144).fill(light)) as never },
    ...change,
  };
}

interface Made extends Partial<PatchSample> {
  light?: number;
  change?: Partial<PatchStatistics>;
}
let minute = 0;
function sample(filter: string | null, { light = 0.4, change, ...rest }: Made = {}): PatchSample {
  minute++;
  const take = rest.take ?? `${filter ?? 'bare'}-${minute}`;
  return {
    take,
    file: `${take}-${minute}.tif`,
    filter,
    timeMs: minute * 60_000,
    exposureLog2: 0,
    statistics: statistics(light, change),
    ...rest,
  };
}

function prepared(samples: PatchSample[], bracket: PatchSample[] = []) {
  const observed: ObservedPatch = {
    patch: { id: 'gray', scene: 'chart', role: 'neutral', rect: { x: 0.4, y: 0.4, width: 0.2, height: 0.2 } },
    samples,
    bracket,
    fields: [],
    edges: [],
  };
  return preparePatch(observed, SESSION, null);
}
const codes = (place: ReturnType<typeof prepared>) =>
  place.faults.map(({ filter, fault }) => [filter, fault.code, fault.severity]);

test('sound pictures: a series, and nothing to tell', () => {
  const place = prepared([sample(null), sample('nd8', { light: 0.05 }), sample(null)]);
  expect(place.faults).toEqual([]);
  expect(place.series!.shots).toHaveLength(3);
  expect([...place.seen]).toEqual(['nd8']);
});

describe('levels', () => {
  const share = (part: number): Triple => [0, part, 0];

  test('more than a thousandth clipped in one channel: left out', () => {
    const place = prepared([sample(null), sample('nd8', { take: 'run', change: { topShare: share(0.0011) } })]);
    expect(codes(place)).toEqual([['nd8', 'clipped', 'error']]);
    expect(place.faults[0].fault.message).toBe(
      'run: 0.11 % of “gray” is clipped, so its level is not known; the picture is left out.',
    );
    expect(place.series!.shots.map((shot) => shot.filter)).toEqual([null]);
    expect(place.seen.has('nd8')).toBe(true);
  });

  test('a thousandth is not', () =>
    expect(prepared([sample(null), sample('nd8', { change: { topShare: share(0.001) } })]).faults).toEqual([]));

  test('mostly black, or without light: left out; a hundredth black: a word', () => {
    const half = prepared([sample(null), sample('nd8', { change: { zeroShare: share(0.51) } })]);
    expect(codes(half)).toEqual([['nd8', 'too-dark', 'error']]);
    const unlit = prepared([sample(null), sample('nd8', { light: 0 })]);
    expect(codes(unlit)).toEqual([['nd8', 'too-dark', 'error']]);
    const some = prepared([sample(null), sample('nd8', { change: { zeroShare: share(0.02) } })]);
    expect(codes(some)).toEqual([['nd8', 'too-dark', 'warning']]);
    expect(some.series!.shots).toHaveLength(2);
    expect(prepared([sample(null), sample('nd8', { change: { zeroShare: share(0.01) } })]).faults).toEqual([]);
  });

  test('of a take’s pictures the worst speaks for all', () => {
    const take = 'run';
    const pictures = [0.002, 0.03, 0].map((part) => sample('nd8', { take, change: { topShare: share(part) } }));
    const place = prepared([sample(null), ...pictures]);
    expect(place.faults).toHaveLength(1);
    expect(place.faults[0].fault.message).toContain('3.0 % of “gray” is clipped');
    expect(place.faults[0].fault.message).toContain('So are 1 more of its 3 pictures.');
    expect(place.series!.shots).toHaveLength(2);
  });

  test('without a usable bare picture there is no series', () => {
    const place = prepared([sample(null, { change: { topShare: share(0.5) } }), sample('nd8')]);
    expect(place.series).toBeNull();
    expect(codes(place)).toEqual([[null, 'clipped', 'error']]);
  });
});

describe('light', () => {
  test('a drift names all bare takes, a jump the two around it', () => {
    const drift = prepared([0.4, 0.42, 0.44, 0.46].map((light) => sample(null, { light })));
    expect(codes(drift)).toEqual([[null, 'light-drifted', 'warning']]);
    expect(drift.faults[0].fault.takes).toHaveLength(4);
    const jump = prepared([
      sample(null, { take: 'a' }),
      sample(null, { take: 'b' }),
      sample(null, { take: 'c', light: 0.5 }),
    ]);
    expect(codes(jump)).toEqual([[null, 'light-jumped', 'warning']]);
    expect(jump.faults[0].fault.takes).toEqual(['b', 'c']);
    expect(jump.faults[0].fault.message).toContain('0.32 stop between b and c');
  });

  test('is told by one patch of a scene alone', () => {
    const observed: ObservedPatch = {
      patch: { id: 'gray', scene: 'chart', role: 'neutral', rect: { x: 0, y: 0, width: 1, height: 1 } },
      samples: [sample(null), sample(null, { light: 0.6 })],
      bracket: [],
      fields: [],
      edges: [],
    };
    expect(preparePatch(observed, SESSION, null, false).faults).toEqual([]);
  });
});

describe('repeats', () => {
  const repeats = (lights: number[], change: Made = {}) =>
    prepared([sample(null), ...lights.map((light) => sample('nd8', { take: 'run', light, ...change }))]);

  test('more than a twentieth of a stop apart are asked about', () => {
    expect(codes(repeats([0.1, 0.1 * 2 ** 0.06]))).toEqual([['nd8', 'repeats-disagree', 'warning']]);
    expect(repeats([0.1, 0.1 * 2 ** 0.04]).faults).toEqual([]);
  });

  test('of a clip: its exposure or light moved', () => {
    const clip = repeats([0.1, 0.11], { frame: true });
    expect(codes(clip)).toEqual([['nd8', 'exposure-moved', 'warning']]);
    expect(clip.faults[0].fault.message).toContain('its frames lie 0.14 stop apart');
  });
});

describe('white balance', () => {
  const balanced = (bare: PatchSample['whiteBalance'], filtered: PatchSample['whiteBalance']) =>
    codes(prepared([sample(null, { whiteBalance: bare }), sample('nd8', { whiteBalance: filtered })]));

  test('that differs from bare’s withholds the cast', () => {
    expect(balanced({ said: 'daylight', own: null }, { said: 'cloudy', own: null })).toEqual([
      ['nd8', 'white-balance-moved', 'error'],
    ]);
    expect(balanced({ said: null, own: '5600 K' }, { said: null, own: '4300 K' })).toEqual([
      ['nd8', 'white-balance-moved', 'error'],
    ]);
  });

  test('the session’s word and the file’s aren’t compared with each other', () => {
    expect(balanced({ said: 'daylight', own: null }, { said: null, own: 'manual' })).toEqual([]);
    expect(balanced({ said: 'daylight', own: 'manual' }, { said: 'daylight', own: 'manual' })).toEqual([]);
  });

  test('automatic in both is a warning of the scene', () =>
    expect(balanced({ said: null, own: 'auto' }, { said: null, own: 'auto' })).toEqual([
      [null, 'white-balance-moved', 'warning'],
    ]));
});

describe('a response that doesn’t fit', () => {
  /** A surface that comes out off by some stops at a picture exposed two stops more. */
  const seen = (off: number, setting?: string) => [
    sample(null),
    sample('nd8', { light: 0.05, setting }),
    sample('nd8', { light: 0.05 * 4 * 2 ** off, exposureLog2: 2 }),
  ];

  test('is told from one surface at two exposures, with its size', () => {
    const place = prepared(seen(0.06));
    expect(codes(place)).toEqual([['nd8', 'response-misfit', 'warning']]);
    expect(place.faults[0].fault.message).toContain('0.06 stop different over exposures 2.0 stops apart');
    expect(prepared(seen(0.04)).faults).toEqual([]);
  });

  test('isn’t told from pictures less than a stop apart, nor from two settings of a ring', () => {
    const near = [sample(null), sample('nd8', { light: 0.05 }), sample('nd8', { light: 0.1, exposureLog2: 0.9 })];
    expect(prepared(near).faults).toEqual([]);
    expect(prepared(seen(0.3, 'ring 30 mark ?')).faults).toEqual([]);
  });

  test('bracket pictures speak too, unless they are clipped', () => {
    const bracket = (change?: Partial<PatchStatistics>) => [sample(null, { light: 0.9, exposureLog2: 1, change })];
    expect(codes(prepared([sample(null)], bracket()))).toEqual([[null, 'response-misfit', 'warning']]);
    expect(prepared([sample(null)], bracket({ topShare: [1, 1, 1] })).faults).toEqual([]);
  });
});
