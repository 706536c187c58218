/**
 * Every fault of stills, each by a session that the simulator spoils: the fault is told, names its takes, and no figure that
 * the spoiling made wrong is given without it.
 */
import { expectedLuminousStops } from '@/simulator/expected/color';
import { measureSession } from '../measure';
import { previewOf } from '../laying/preview';
import type { Fault, Readings } from '../session/readings';
import type { Session } from '../session/schema';
import { randomPlan, type BenchKind } from '@/simulator/randomBench';
import { simulateSession } from '@/simulator/session';
import type { BenchPlan, Spoiled } from '@/simulator/truth';

const KIND: BenchKind = { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 2 };
const base: BenchPlan = { ...randomPlan('faults', KIND), seed: 'faults of one kind each' };
base.filters = base.filters.slice(0, 2).map((filter, i) => ({ ...filter, blurPx: [0.1, 0.7][i] }));
const [first, second] = base.filters;

function measure(
  spoiled: Omit<Spoiled, 'take'> & { take?: string },
  { previews = false, change = () => undefined }: { previews?: boolean; change?: (session: Session) => void } = {},
  plan: BenchPlan = base,
): Promise<Readings> {
  const { session, source } = simulateSession(
    { ...plan, spoiled: [{ take: `chart-${first.id}`, ...spoiled }] },
    previews ? previewOf : undefined,
  );
  change(session);
  return measureSession(session, source, { createdAt: '2026-05-14T12:00:00Z', generator: 'test' });
}

const find = (readings: Readings, id = first.id) => readings.filters.find((one) => one.filter === id)!;
const withCode = (faults: Fault[], code: string) => faults.filter((one) => one.code === code);
const kept = (readings: Readings, id = first.id) =>
  (find(readings, id).sharpness ?? []).map((edge) => edge.retained.value);

test('nothing spoiled, nothing told', async () => {
  const readings = await measure({});
  expect(readings.faults).toEqual([]);
  expect(readings.filters.flatMap((one) => one.faults)).toEqual([]);
  expect(find(readings, second.id).verdict.softness).toMatch(/as by the filter itself/);
});

test('one repeat shaken: told, left out, and sharpness is what the other says', async () => {
  const [sound, shaken] = [await measure({}), await measure({ index: 1, shakePx: [0.7, 0.7] })];
  const [told] = withCode(find(shaken).faults, 'soft-by-motion');
  expect(told).toMatchObject({ severity: 'warning', takes: [`chart-${first.id}`] });
  expect(told.message).toContain(`chart-${first.id}-2.tif`);
  kept(sound).forEach((value, i) => expect(Math.abs(kept(shaken)[i] - value)).toBeLessThan(0.02));
});

test('all repeats shaken sideways: blur of one direction is no filter’s', async () => {
  const readings = await measure({ shakePx: [1.2, 0] });
  expect(withCode(find(readings).faults, 'soft-by-motion')[0].message).toContain('sideways');
});

test('focus that moved between bare and filter, center and corners apart', async () => {
  const readings = await measure({ focusPx: { center: 0.2, corner: 1.4 } });
  const [told] = withCode(find(readings).faults, 'focus-moved');
  expect(told.message).toMatch(/shift of focus/);
  expect(find(readings).verdict.softness).toBe(told.message);
});

test('pictures sharper than bare are a focus that moved', async () => {
  const readings = await measure(
    { take: 'chart-bare-1', focusPx: { center: 0.9, corner: 0.9 } },
    {
      change: (session) => (session.takes = session.takes.filter((take) => take.id !== 'chart-bare-2')),
    },
  );
  expect(withCode(find(readings).faults, 'focus-moved')[0].message).toContain('which no filter does');
});

test('bare takes of unlike sharpness: told, and the ± covers it', async () => {
  const [sound, moved] = [
    await measure({}),
    await measure({ take: 'chart-bare-2', focusPx: { center: 0.5, corner: 0.5 } }),
  ];
  expect(withCode(moved.faults, 'focus-moved')[0].takes).toEqual(['chart-bare-2']);
  find(moved).sharpness?.forEach((edge) => {
    const truth = find(sound).sharpness!.find((one) => one.patch === edge.patch)!.retained.value;
    expect(Math.abs(edge.retained.value - truth)).toBeLessThanOrEqual(edge.retained.u95);
  });
});

test('an exposure that the file contradicts', async () => {
  const readings = await measure({ exposureStops: 1 });
  const [told] = withCode(find(readings).faults, 'exposure-moved');
  expect(told.message).toContain('1.0 stop');
  expect(withCode(find(readings, second.id).faults, 'exposure-moved')).toEqual([]);
});

test('one repeat exposed otherwise, the files silent: the repeats disagree', async () => {
  const readings = await measure({ index: 1, exposureStops: 0.4 });
  const told = withCode(find(readings).faults, 'repeats-disagree').map(({ severity, message }) => [severity, message]);
  expect(told).toEqual([
    ['warning', expect.stringContaining('lie 0.40 stop apart')],
    ['error', expect.stringContaining('it is withheld. Most of that is repeats.')],
  ]);
});

test('white balance that the camera chose, and one that changed', async () => {
  const all = base.filters.map((filter) => `chart-${filter.id}`);
  const auto = { ...base, spoiled: undefined };
  const spoiled = ['chart-bare-1', 'chart-bare-2', ...all].map((take) => ({ take, whiteBalance: 'auto' }));
  const { session, source } = simulateSession({ ...auto, spoiled });
  for (const take of session.takes) delete take.whiteBalance;
  const automatic = await measureSession(session, source, { createdAt: '', generator: 'test' });
  expect(withCode(automatic.faults, 'white-balance-moved')[0]).toMatchObject({ severity: 'warning' });
  expect(find(automatic).cast).toBeDefined();

  // The session's word for it and the file's aren't compared with each other.
  const mixed = await measure(
    { whiteBalance: 'manual' },
    { change: ({ takes }) => delete takes.find((take) => take.id === `chart-${first.id}`)!.whiteBalance },
  );
  expect(withCode(find(mixed).faults, 'white-balance-moved')).toEqual([]);
  expect(find(mixed).cast).toBeDefined();

  const changed = spoiled.map(({ take }) => ({ take, whiteBalance: take === all[0] ? '4300 K' : '5600 K' }));
  const silent = simulateSession({ ...auto, spoiled: changed });
  for (const take of silent.session.takes) delete take.whiteBalance;
  const moved = await measureSession(silent.session, silent.source, { createdAt: '', generator: 'test' });
  expect(withCode(find(moved).faults, 'white-balance-moved')[0].severity).toBe('error');
  expect(find(moved).cast).toBeUndefined();
});

describe('the view', () => {
  const small = { ...base, width: 600, height: 400, repeats: 1 };
  const look = (spoiled: Omit<Spoiled, 'take'>) => measure(spoiled, { previews: true }, small);

  test('moved by one percent: patches follow, nothing is told', async () => {
    const readings = await look({ movedPx: [6.4, -2.7] });
    const truth = expectedLuminousStops(first.stops);
    expect(find(readings).faults.filter((one) => one.code !== 'edge-unusable')).toEqual([]);
    expect(find(readings).density!.stops.value).toBeCloseTo(truth, 2);
  }, 600_000);

  test('moved by five percent: left out', async () => {
    const readings = await look({ movedPx: [30, 0] });
    expect(withCode(find(readings).faults, 'view-moved')[0].severity).toBe('error');
    expect(find(readings).density).toBeUndefined();
  }, 600_000);

  test('covered by the cap: nothing to lay on the bare picture', async () => {
    const readings = await look({ covered: true });
    expect(withCode(find(readings).faults, 'registration-failed')[0].severity).toBe('error');
    expect(find(readings)).not.toHaveProperty('density');
    expect(find(readings)).not.toHaveProperty('sharpness');
  }, 600_000);
});

test('edges that are clipped are refused, with the share', async () => {
  const readings = await measure({ exposureStops: 2 });
  const told = withCode(find(readings).faults, 'edge-unusable');
  expect(told.length).toBeGreaterThan(0);
  expect(told[0].message).toMatch(/clipped/);
});

test('a bracket with one wrong exposure fits no response, with its size', async () => {
  const drawn = randomPlan('faults/bracket', { ...KIND, repeats: 1, bracket: true });
  const plan = { ...drawn, width: 600, height: 400, filters: [first] };
  const readings = await measure(
    { take: 'bracket-4', exposureStops: 0.5 },
    {
      change: ({ takes }) => takes.forEach((take) => (take.files = take.files.slice(0, 1))),
    },
    plan,
  );
  expect(withCode(readings.faults, 'response-misfit')[0].message).toMatch(/0\.0\d stop off/);
});
