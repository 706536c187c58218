/** A sitting while it goes on: alarms, beads and what comes next by hand; then whole simulated sittings with and without a mistake. */
import { shootLive } from '@/core/testing/liveSitting';
import { planTakes } from '@/simulator/plan';
import { drawSitting } from '@/simulator/randomSitting';
import { parseSession } from '../../session/parse';
import type { FilterReadings, Readings } from '../../session/readings';
import type { Session } from '../../session/schema';
import type { Check } from '../checks/check';
import { alarmsOf } from './alarms';
import { beadsOf, closedFilters, provisional } from './beads';
import { labelsByFilter, marksByLabel } from './byLabel';
import { liveView } from './live';

const take = (id: string, filter: string | null, files = 2, role = 'measure') => ({
  id,
  filter,
  scene: 'chart',
  role,
  files: Array.from({ length: files }, (_, i) => `${id}-${i}.tif`),
});
const planned = (id: string, filter: string | null, minute: number) => ({
  ...{ id, filter, scene: 'chart', role: 'measure', repeats: 2, short: 0, minute },
  setting: { shutterSeconds: 0.01, iso: 100, fNumber: 4 },
});

function sitting(
  takes: ReturnType<typeof take>[],
  plan: unknown = undefined,
  kinds: Record<string, string> = {},
): Session {
  const filters = [4, 8, 16].map((ndFactor) => ({ id: `nd${ndFactor}`, name: `ND${ndFactor}`, kind: kinds[`nd${ndFactor}`] ?? 'nd', nominal: { ndFactor } })); // prettier-ignore
  return parseSession({
    format: 'aurora-glade-session',
    version: 1,
    title: 'A sitting',
    rig: { camera: 'C', response: { kind: 'srgb' } },
    kits: [{ id: 'k', name: 'K', filters }],
    scenes: [{ id: 'chart', kind: 'chart' }],
    takes,
    patches: [],
    ...(plan === undefined ? {} : { plan }),
  });
}

const density = (
  filter: string,
  value: number,
  u95: number,
  budget: { source: string; u: number }[] = [],
): FilterReadings => ({ filter, faults: [], density: { stops: { value, u95 }, budget } }) as unknown as FilterReadings;
const readingsOf = (filters: FilterReadings[], faults: unknown[] = []): Readings =>
  ({ filters, faults }) as unknown as Readings;

/** A sitting of a variable filter of 2 to 5 stops whose marks were shot one after the other, and what each took. */
function turning(shot: readonly (readonly [mark: number, stops: number, u95?: number])[], closing = false) {
  const takes = [
    take('b1', null),
    ...shot.map(([mark]) => ({ ...take(`m${mark}`, 'vnd', 2, 'sweep'), setting: { mark } })),
    ...(closing ? [take('b2', null)] : []),
  ];
  const session = sitting([]);
  const vnd = { id: 'vnd', name: 'VND 2–5', kind: 'variable-nd', nominal: { stopsRange: [2, 5] } };
  const turned = { ...session, takes, kits: [{ ...session.kits[0], filters: [vnd] }] } as unknown as Session;
  const marks = shot.map(([mark, value, u95 = 0.02]) => ({ mark, stops: { value, u95 } }));
  return { session: turned, readings: [{ filter: 'vnd', faults: [], marks }] as unknown as FilterReadings[] };
}

describe('filters of several strengths', () => {
  test('each mark has its own, wider until a bare take comes after', () => {
    const { session, readings } = turning([[2, 2.1], [3, 3.2]]); // prettier-ignore
    const [open] = beadsOf(session, readings, [planned('m4', 'vnd', 3) as never], 0.03);
    expect(open).toMatchObject({ stops: null, label: null, labelSpan: [2, 5], state: 'wide', help: '1 take of it to be shot' }); // prettier-ignore
    expect(open.parts.map(({ at, stops }) => [at, stops.value])).toEqual([['mark 2', 2.1], ['mark 3', 3.2]]); // prettier-ignore
    // Twice .03 beside its own .02.
    expect(open.parts[0].stops.u95).toBeCloseTo(0.06325, 4);
    expect(beadsOf(session, readings, [], 0.03)[0]).toMatchObject({ state: 'wide', help: 'A bare take closes it in.' });
    const closed = turning([[2, 2.1], [3, 3.2]], true); // prettier-ignore
    expect(beadsOf(closed.session, closed.readings, [], 0.03)[0]).toMatchObject({ state: 'reached', help: null });
    expect(beadsOf(closed.session, closed.readings, [], 0.01)[0]).toMatchObject({ state: 'stuck' });
    // However well the others are known, a mark that is withheld is not reached.
    const fault = { severity: 'error', takes: ['m3'], message: 'Mark 3 is withheld.', remedy: 'Shoot it again.', around: { value: 3, u95: 0.3 } }; // prettier-ignore
    const [one] = closed.readings;
    const without = { ...one, marks: one.marks!.slice(0, 1), faults: [fault] } as unknown as FilterReadings;
    expect(beadsOf(closed.session, [without], [], 0.03)[0]).toMatchObject({ state: 'stuck', help: 'Mark 3 is withheld. Shoot it again.' }); // prettier-ignore
  });

  test('a graduated filter has two halves, a polarizer its brightest', () => {
    const { session } = turning([[2, 2]]);
    const reading = { value: 0.1, u95: 0.01 };
    const halves = { filter: 'vnd', faults: [], graduation: { clearStops: reading, denseStops: { value: 3, u95: 0.01 } } }; // prettier-ignore
    const turns = { filter: 'vnd', faults: [], polarizer: { brightest: reading } };
    const parts = (one: unknown) => beadsOf(session, [one as FilterReadings], [], 0.03)[0].parts.map(({ at }) => at);
    expect(parts(halves)).toEqual(['clear half', 'dense half']);
    expect(parts(turns)).toEqual(['brightest']);
    expect(parts({ filter: 'vnd', faults: [], polarizer: {} })).toEqual([]);
  });

  test('a ring that stood elsewhere is told by its mark, a label that is off is not', () => {
    const of = (shot: Parameters<typeof turning>[0]) => {
      const { session, readings } = turning(shot);
      return marksByLabel(session, readings).map(({ kind, takes }) => [kind, ...takes]);
    };
    expect(of([[2, 2.3], [3, 3.6], [4, 4.4]])).toEqual([]); // prettier-ignore
    // One mark alone: a stop and more.
    expect(of([[2, 2.9]])).toEqual([]);
    expect(of([[2, 3.1]])).toEqual([['wrong mark', 'm2']]);
    expect(of([[2, 3.1, 0.2]])).toEqual([]);
    // All marks 1.2 off alike: the label's.
    expect(of([[2, 3.2], [3, 4.2], [4, 5.2]])).toEqual([]); // prettier-ignore
    expect(of([[2, 2.1], [3, 4.6], [4, 4.1]])).toEqual([['wrong mark', 'm3']]); // prettier-ignore
    expect(of([[2, 2.1], [3, 3.1], [5, 3.2]])).toEqual([['wrong mark', 'm5']]); // prettier-ignore
    // Marks of a scale of its own promise nothing.
    expect(of([[1, 3.5], [2, 4.6]])).toEqual([]); // prettier-ignore
  });

  test('nor does it hide behind a mark that is withheld', () => {
    const { session } = turning([[2, 0]]);
    const told = (value: number, u95: number) => {
      const fault = { code: 'curve-unknown', severity: 'error', takes: ['m2'], message: 'Withheld.', around: { value, u95 } }; // prettier-ignore
      return marksByLabel(session, [{ filter: 'vnd', faults: [fault] }] as unknown as FilterReadings[]).length;
    };
    // A stop and a half off by .32 is beyond a stop and its ±; 1.3 off isn't.
    expect([told(3.5, 0.32), told(3.3, 0.32), told(2.1, 0.32)]).toEqual([1, 0, 0]);
  });

  test('what comes next says at which mark', () => {
    const { session, readings } = turning([[2, 3.4]]);
    const view = liveView(session, readingsOf(readings), [], 0.03);
    expect(view.again).toEqual(['m2']);
    expect(view.ahead[0]).toMatchObject({ filter: 'vnd', mark: 2, why: 'again' });
  });
});

describe('beads', () => {
  const three = sitting([take('b1', null), take('t4', 'nd4'), take('t8', 'nd8')]);

  test('a filter is closed in by a bare take after it, of its own scene', () => {
    expect([...closedFilters(three)]).toEqual([]);
    const more = sitting([take('b1', null), take('t4', 'nd4'), take('b2', null), take('t8', 'nd8')]);
    expect([...closedFilters(more)]).toEqual(['nd4']);
    // Shot again after the bare one it is open once more; a darker bare picture closes nothing in.
    const again = sitting([take('b1', null), take('t4', 'nd4'), take('b2', null), take('t4-2', 'nd4'), take('d', null, 1, 'bracket')]); // prettier-ignore
    expect([...closedFilters(again)]).toEqual([]);
    // 0.03 stop of light that nobody followed, twice that as its u95.
    expect(provisional({ value: 3, u95: 0.08 }, false).u95).toBeCloseTo(0.1, 12);
    expect(provisional({ value: 3, u95: 0.08 }, true).u95).toBe(0.08);
  });

  test('how many pictures more: noise falls with their root, what else there is doesn’t', () => {
    const closed = sitting([
      take('b1', null),
      take('t4', 'nd4'),
      take('t8', 'nd8'),
      take('t16', 'nd16'),
      take('b2', null),
    ]);
    // u of 0.02 from noise of two pictures and 0.005 besides: for u95 0.03 noise may be √(0.015² − 0.005²) = 0.01414: four pictures.
    const wide = density('nd4', 2, 0.0412, [
      { source: 'noise', u: 0.02 },
      { source: 'marks', u: 0.005 },
    ]);
    // What can't be shot away alone is more than was asked for.
    const stuck = density('nd8', 3, 0.05, [
      { source: 'response', u: 0.024 },
      { source: 'noise', u: 0.005 },
    ]);
    const near = density('nd16', 4, 0.02, [{ source: 'noise', u: 0.01 }]);
    const [four, eight, sixteen] = beadsOf(closed, [wide, stuck, near], [], 0.03);
    expect(four).toMatchObject({ state: 'wide', more: 2, pictures: 2 });
    expect(eight).toMatchObject({ state: 'stuck', more: null });
    expect(eight.help).toMatch(/^More bare pictures/);
    expect(sixteen).toMatchObject({ state: 'reached', more: null, label: 4 });
    // One that is withheld says why, with what helps.
    const fault = {
      code: 'too-dark',
      severity: 'error',
      takes: ['t4'],
      message: 'It is withheld.',
      remedy: 'More light.',
    };
    const [withheld] = beadsOf(three, [{ filter: 'nd4', faults: [fault] } as never], [], 0.03);
    expect(withheld).toMatchObject({ state: 'withheld', stops: null, help: 'It is withheld. More light.' });
    // The same before its closing bare take.
    const [open] = beadsOf(three, [density('nd4', 2, 0.01)], [], 0.03);
    expect(open).toMatchObject({ state: 'wide', more: null, help: 'A bare take closes it in.' });
    expect(beadsOf(three, [], [planned('t16', 'nd16', 3) as never], 0.03)[2]).toMatchObject({ state: 'to shoot', planned: 1, stops: null }); // prettier-ignore
  });
});

describe('alarms', () => {
  const session = sitting([take('b1', null), take('t4', 'nd4'), take('t8', 'nd8')]);
  const strengths = (entries: Record<string, [number, number]>) =>
    new Map(Object.entries(entries).map(([id, [value, u95]]) => [id, { value, u95 }]));

  test('far off its label: another filter where that one’s label fits, else the light', () => {
    expect(labelsByFilter(session, strengths({ nd4: [2.3, 0.05], nd8: [2.75, 0.02] }))).toEqual([]);
    const [swapped] = labelsByFilter(session, strengths({ nd4: [3.1, 0.02] }));
    expect(swapped).toMatchObject({ kind: 'wrong filter', takes: ['t4'], again: true });
    expect(swapped.message).toBe('ND4 takes 3.10 stops, 1.1 more than its label; ND8 would take so much.');
    const [light] = labelsByFilter(session, strengths({ nd4: [1.45, 0.02] }));
    expect(light).toMatchObject({ kind: 'light' });
    expect(light.advice).toMatch(/bare take now/);
    // Without a strength whole pictures tell what is far off, and leave the rest alone.
    const dark = labelsByFilter(session, strengths({}), strengths({ nd4: [6.1, 2.3] }));
    expect(dark.map(({ kind, takes, again }) => [kind, takes, again])).toEqual([['light', ['t4'], true]]);
    expect(dark[0].message).toMatch(/^ND4 takes about 6\.1 stops, 4\.1 more than its label/);
    expect(labelsByFilter(session, strengths({}), strengths({ nd4: [4, 1.9] }))).toEqual([]);
    expect(labelsByFilter(session, strengths({ nd4: [2.02, 0.02] }), strengths({ nd4: [6.1, 2.3] }))).toEqual([]);
    // A ± that reaches the label, and filters without one strength, are no alarm.
    expect(labelsByFilter(session, strengths({ nd4: [2.6, 0.3] }))).toEqual([]);
    const turning = sitting([take('t4', 'nd4')], undefined, { nd4: 'nd-polarizer' });
    expect(labelsByFilter(turning, strengths({ nd4: [3.1, 0.02] }))).toEqual([]);
  });

  test('one alarm a kind and take, the newest first; what is only missing yet is none', () => {
    const check = (code: string, takes: string[], severity = 'stop') =>
      ({ code, takes, severity, file: null, message: `${code}!`, advice: '', show: { kind: 'picture' } }) as Check;
    const fault = (code: string, takes: string[], severity = 'error') => ({
      code,
      takes,
      severity,
      message: `${code}.`,
    });
    const readings = readingsOf(
      [{ ...density('nd4', 2, 0.02), faults: [fault('clipped', ['t4'])] } as FilterReadings],
      [fault('bare-missing', ['t8']), fault('focus-moved', ['t8'], 'warning'), fault('processed', ['t8'], 'info')],
    );
    const checks = [check('clipped', ['t4'], 'look'), check('bare-once', ['t4', 't8'], 'look'), check('blurred', ['t8'], 'look')]; // prettier-ignore
    const alarms = alarmsOf({ session, readings, checks, strengths: new Map() });
    expect(alarms.map(({ kind, takes, again }) => [kind, takes, again])).toEqual([
      // The check only looked; measuring says that the take is of no use.
      ['soft', ['t8'], true],
      ['clipped', ['t4'], true],
    ]);
    // A take that a fault names twice is named once.
    expect(alarmsOf({ session, readings: readingsOf([], [fault('order-suspect', ['t4', 't4', 't8'])]), checks: [], strengths: new Map() })[0].takes).toEqual(['t4', 't8']); // prettier-ignore
    // Too bright with a filter may be another filter; bare it is the exposure alone.
    const bright = alarmsOf({ session, readings: null, checks: [check('clipped', ['t4']), check('clipped', ['b1'])], strengths: new Map() }); // prettier-ignore
    expect(bright.map(({ takes, advice }) => [takes[0], advice.split('.')[0]])).toEqual([
      ['t4', 'Look which filter is on'],
      ['b1', 'Shorten the shutter or lower the ISO by a stop, and shoot this take again'],
    ]);
    // A crossed polarizer is dark, and takes that are gone alarm nobody.
    const sweeping = sitting([take('s0', 'nd4', 1, 'sweep')]);
    expect(alarmsOf({ session: sweeping, readings: readingsOf([], [fault('too-dark', ['s0']), fault('clipped', ['gone'])]), checks: [], strengths: new Map() })).toEqual([]); // prettier-ignore
  });
});

test('a withheld strength still tells that another filter is on, by itself or by whole pictures, whichever is surer', () => {
  const session = sitting([take('b1', null), take('t4', 'nd4'), take('t8', 'nd8')]);
  const withheld = (value: number, u95: number): Readings => {
    const fault = { code: 'curve-unknown', severity: 'error', takes: ['t4'], message: 'Withheld.', around: { value, u95 } }; // prettier-ignore
    return readingsOf([{ filter: 'nd4', faults: [fault] } as unknown as FilterReadings]);
  };
  const told = (readings: Readings, rough?: [number, number]) =>
    liveView(session, readings, [], 0.02, rough && new Map([['nd4', { value: rough[0], u95: rough[1] }]])).alarms.map(({ kind }) => kind); // prettier-ignore
  // One stop off its label, at ±0.16 of which the bound of 0.15 makes no figure.
  expect(told(withheld(3.02, 0.16))).toEqual(['wrong filter']);
  expect(told(withheld(3.02, 0.16), [2.6, 0.8])).toEqual(['wrong filter']);
  expect(told(withheld(3.02, 0.9))).toEqual([]);
  expect(told(withheld(3.02, 0.9), [3, 0.35])).toEqual(['wrong filter']);
  expect(told(withheld(2.3, 0.16))).toEqual([]);
  // It stays withheld.
  expect(liveView(session, withheld(3.02, 0.16), [], 0.02).beads[0]).toMatchObject({ state: 'withheld', stops: null });
});

test('what comes next: spoiled takes, the plan, pictures that bring a ± down, and a bare one to close them in', () => {
  const plan = {
    takes: [planned('b1', null, 0), planned('t4', 'nd4', 2), planned('t8', 'nd8', 4), planned('b2', null, 6)],
  };
  const session = sitting([take('b1', null), take('t4', 'nd4')], plan);
  const spoiled = readingsOf([], [{ code: 'clipped', takes: ['t4'], severity: 'error', message: 'x' }]);
  const view = liveView(session, spoiled, [], 0.02);
  expect(view.again).toEqual(['t4']);
  expect(view.ahead.map(({ planned: id, why }) => [id, why])).toEqual([['t4', 'again'], ['t8', 'planned'], ['b2', 'planned']]); // prettier-ignore
  // Two minutes a take by the plan.
  expect(view.minutes).toBe(6);
  const all = sitting([take('b1', null), take('t4', 'nd4'), take('t8', 'nd8'), take('b2', null)], plan);
  const wide = liveView(all, readingsOf([density('nd4', 2, 0.04, [{ source: 'noise', u: 0.02 }]), density('nd8', 3, 0.01)]), [], 0.02); // prettier-ignore
  expect(wide.ahead.map(({ filter, pictures, why }) => [filter, pictures, why])).toEqual([['nd4', 6, 'closer'], [null, 1, 'bare']]); // prettier-ignore
  expect(wide.reached).toBe(1);
});

/** Small ones, looked at just before and after the mistake; `npm run live` goes through fifty of each, after every take. */
const SMALL = { width: 480, height: 320 };

test.each([
  ['focus', ['soft']],
  ['wrong filter', ['wrong filter', 'light']],
] as const)('a simulated sitting with a mistake (%s) is told before the next take but one', async (mistake, kinds) => {
  const { plan, from } = drawSitting(`test ${mistake}`, mistake);
  const takes = planTakes(plan).map(({ id }) => id);
  const at = takes.indexOf(from!);
  const steps = await shootLive({ ...plan, ...SMALL }, { look: (_, count) => Math.abs(count - 1 - at) <= 1 });
  const [before, ...after] = steps;
  expect(before.take).toBe(takes[at - 1]);
  expect(before.view.alarms).toEqual([]);
  const told = after.flatMap(({ view }) => view.alarms.map((one) => one.kind));
  expect(kinds.some((kind) => told.includes(kind))).toBe(true);
});

test('a clean sitting alarms nobody, and what it says of strengths while it goes on holds at its end', async () => {
  const { plan } = drawSitting('test clean', null);
  const steps = await shootLive(
    { ...plan, ...SMALL },
    { look: (_, count) => count === 1 || count % 3 === 0 || count > 8 },
  );
  expect(steps.flatMap(({ view }) => view.alarms)).toEqual([]);
  const last = steps.at(-1)!.view;
  for (const { view } of steps)
    for (const { filter, stops } of view.beads) {
      const end = last.beads.find((one) => one.filter === filter)!.stops!;
      if (stops) expect(Math.abs(stops.value - end.value)).toBeLessThanOrEqual(Math.hypot(stops.u95, end.u95));
    }
  expect(last.beads.every(({ stops }) => stops !== null)).toBe(true);
});
