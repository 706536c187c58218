/** Checks on simulated footage, each spoiled in one way. */
import { resolveResponse } from '../../light/response';
import { lookOf, type Look } from '../intake/look';
import type { Session } from '../../session/schema';
import { parseSession } from '../../session/parse';
import { renderTake } from '@/simulator/bench';
import { planTakes } from '@/simulator/plan';
import { randomPlan } from '@/simulator/randomBench';
import { describeSession, fileName } from '@/simulator/session';
import type { BenchPlan } from '@/simulator/truth';
import { checkFootage } from './footageChecks';
import type { CheckedFile, Footage } from './check';

const KIND = {
  protocol: 'matched',
  bitDepth: 8,
  drift: 0,
  bend: 0,
  flicker: 0,
  repeats: 1,
  scenes: ['chart', 'flat'],
} as const;
const base: BenchPlan = { ...randomPlan('checks', { ...KIND, scenes: [...KIND.scenes] }), width: 480, height: 320 };
base.filters = base.filters.slice(0, 3);

const looks = new Map<string, Look>();

/** The look of a take; one that looks the same in several plans is rendered once. */
function lookAt(plan: BenchPlan, take: ReturnType<typeof planTakes>[number]): Look {
  const spoiled = plan.spoiled?.filter((one) => one.take === take.id);
  const key = JSON.stringify([take, plan.lamps, plan.bareLevel, plan.camera, plan.seed, spoiled]);
  const known = looks.get(key) ?? lookOf(renderTake(plan, take, 0));
  looks.set(key, known);
  return known;
}

function footageOf(plan: BenchPlan, change: (session: Session) => void = () => undefined): Footage {
  const session = parseSession(describeSession(plan, { id: 'kit', name: 'Kit' }));
  const files = new Map<string, CheckedFile>();
  for (const take of planTakes(plan)) {
    files.set(fileName(take, 0), {
      facts: {
        width: plan.width,
        height: plan.height,
        channels: 3,
        bitDepth: plan.camera.bitDepth,
        encoding: { transfer: 'srgb', source: null, toXyz: null, profile: null },
        exposure: {},
        capturedAt: null,
        whiteBalance: null,
      },
      look: lookAt(plan, take),
    });
  }
  change(session);
  return {
    session,
    files,
    telemetry: new Map(),
    decode: (facts) => resolveResponse(session.rig.response, facts.encoding, () => '').decode,
  };
}

const codes = (footage: Footage) => checkFootage(footage).map((one) => one.code);
const firstOf = (session: Session, filter: string | null, scene = 'chart') =>
  session.takes.find((take) => take.filter === filter && take.scene === scene && take.role === 'measure')!;
const [weak, , strong] = base.filters;

test('sound footage gives nothing to look at', () => expect(checkFootage(footageOf(base))).toEqual([]));

test('a clipped bare picture is told, with the cells where it is', () => {
  const bright = footageOf({ ...base, bareLevel: 1.6 });
  const clipped = checkFootage(bright).filter((one) => one.code === 'clipped');
  expect(clipped[0]).toMatchObject({ severity: 'stop', show: { kind: 'cells' } });
  expect(clipped[0].show.kind === 'cells' && clipped[0].show.cells.length).toBeGreaterThan(3);
});

test('locked exposure in 8 bits drowns the strongest filter', () => {
  const filters = base.filters.map((filter, i) =>
    i === 2 ? { ...filter, stops: [8, 8, 8] as [number, number, number] } : filter,
  );
  const found = checkFootage(footageOf({ ...base, protocol: 'locked', filters }));
  expect(found.map((one) => one.code)).toContain('too-dark');
  expect(found.some((one) => one.code === 'too-dark' && one.takes[0].includes(strong.id))).toBe(true);
});

test('files of two scenes exchanged show another view, exchanged filters are out of order', () => {
  const views = footageOf(base, (session) => {
    const [chart, flat] = [firstOf(session, weak.id), firstOf(session, weak.id, 'flat')];
    [chart.files, flat.files] = [flat.files, chart.files];
  });
  expect(codes(views)).toContain('another-view');
  const filters = footageOf(base, (session) => {
    const [one, other] = [firstOf(session, weak.id), firstOf(session, strong.id)];
    [one.files, other.files] = [other.files, one.files];
    [one.exposure, other.exposure] = [other.exposure, one.exposure];
  });
  const order = checkFootage(filters).find((one) => one.code === 'order');
  expect(order?.message).toContain('were they exchanged?');
});

test('a camera that was touched is told before measuring, with how far it moved', () => {
  const moved = (px: [number, number]) =>
    checkFootage(
      footageOf({ ...base, scenes: ['chart'], spoiled: [{ take: `chart-${weak.id}`, movedPx: px }] }),
    ).filter((one) => one.code === 'view-moved');
  const [small] = moved([5, 0]);
  expect(small).toMatchObject({ severity: 'look', show: { kind: 'beside' } });
  // 5 of 480 pixels.
  expect(Number(/([\d.]+) %/.exec(small.message)![1])).toBeCloseTo(1, 0);
  expect(moved([10.5, 0])[0].severity).toBe('stop');
  expect(moved([0.5, 0])).toEqual([]);
});

test('a graduated filter draws its line on an even wall: no other view; before a chart one that moved is told', () => {
  const line = { denseStops: [3, 3, 3] as [number, number, number], midline: 0.5, width: 0.1, angleDegrees: 1 };
  const grad = { id: 'grad', name: 'GND0.9', kind: 'graduated-nd' as const, nominal: { opticalDensity: 0.9 }, stops: [0, 0, 0] as [number, number, number], graduation: line }; // prettier-ignore
  const plan: BenchPlan = { ...base, filters: [grad], scenes: ['chart', 'flat'], protocol: 'locked' };
  expect(codes(footageOf(plan))).not.toContain('another-view');
  const moved = { ...plan, spoiled: [{ take: 'chart-grad', movedPx: [90, 40] as [number, number] }] };
  const told = checkFootage(footageOf(moved)).filter(({ code }) => code === 'another-view' || code === 'view-moved');
  expect(told.map(({ takes }) => takes)).toEqual([['chart-grad']]);
});

test('a shaken picture is softer than the others of its scene', () => {
  const shaken = { ...base, spoiled: [{ take: `chart-${weak.id}`, shakePx: [6, 0] as [number, number] }] };
  const found = checkFootage(footageOf(shaken)).find((one) => one.code === 'blurred');
  expect(found).toMatchObject({ takes: [firstOf(footageOf(base).session, weak.id).id], show: { kind: 'beside' } });
  expect(found?.message).toContain('softer across');
});

test('beside pictures that are far too dark, whose noise looks like detail, sharp ones are not soft; a clipped one is no soft one', () => {
  // Detail as the stand-in's pictures have it: .13 bare, .41 at a mean code of 4; white ones have lost theirs.
  const seen = (spoiled: BenchPlan['spoiled'], most: number) => {
    const footage = footageOf({ ...base, spoiled });
    const few = footage.session.takes.filter((one) => one.scene === 'chart').slice(0, most);
    const kept = { ...footage, session: { ...footage.session, takes: few } };
    return checkFootage(kept).filter(({ code }) => code === 'blurred').flatMap(({ takes }) => takes); // prettier-ignore
  };
  const ids = footageOf(base).session.takes.filter((one) => one.scene === 'chart').map(({ id }) => id); // prettier-ignore
  const dark = (id: string) => ({ take: id, exposureStops: -7 });
  expect(seen([dark(ids[1]), dark(ids[2])], 3)).toEqual([]);
  expect(seen([{ take: ids[3], exposureStops: 3.5 }], 4)).toEqual([]);
  // Out of focus it is told among its like, whatever dark ones are there.
  const soft = { take: ids[3], focusPx: { center: 3, corner: 3 } };
  expect(seen([soft, dark(ids[4])], 5)).toEqual([ids[3]]);
});

test('a picture that is tinted against its like is told; a variable filter’s other mark, and other scenes, are not', () => {
  const gains = (take: string): BenchPlan => ({ ...base, spoiled: [{ take, gainStops: [0.3, 0, -0.3] }] });
  const found = checkFootage(footageOf(gains('chart-bare-2')));
  expect(found.map(({ code, takes, severity }) => [code, takes, severity])).toEqual([
    ['white-balance-moved', ['chart-bare-2'], 'look'],
  ]);
  // In sRGB's codes 0.3 stop of red is 0.3 stop of light, whatever else the picture shows.
  expect(found[0].message).toMatch(/chart-bare-2\.tif is tinted against chart-bare-1\.tif, by 0\.(29|30|31) stop/);
  // Of one filter there is one picture: nothing to tell it by.
  expect(codes(footageOf(gains(`chart-${weak.id}`)))).toEqual([]);
  // Its second picture at another mark may be of another color.
  const marks = (mark: number | undefined) =>
    footageOf(gains('chart-bare-2'), (session) => {
      for (const [i, take] of session.takes.filter((one) => one.filter === null && one.scene === 'chart').entries())
        take.setting = mark === undefined ? undefined : { mark: mark + i };
    });
  expect(codes(marks(1))).not.toContain('white-balance-moved');
  expect(codes(marks(undefined))).toContain('white-balance-moved');
  const walk = footageOf(gains('chart-bare-2'), (session) => {
    session.scenes.find(({ id }) => id === 'chart')!.kind = 'outdoor';
  });
  expect(codes(walk)).not.toContain('white-balance-moved');
});

test('bares, exposures, files, times, names and clocks that are missing or contradict', () => {
  const without = footageOf(base, (session) => {
    session.takes = session.takes.filter((take) => take.filter !== null || take.scene !== 'flat');
  });
  expect(checkFootage(without)[0]).toMatchObject({ code: 'bare-missing', severity: 'stop' });
  const once = footageOf(base, (session) => {
    const keep = firstOf(session, null).id;
    session.takes = session.takes.filter((take) => take.filter !== null || take.scene === 'flat' || take.id === keep);
  });
  expect(codes(once)).toEqual(['bare-once']);
  const spoiled = footageOf(base, (session) => {
    firstOf(session, weak.id).exposure = {};
    firstOf(session, strong.id).files = ['gone.tif'];
  });
  expect(codes(spoiled)).toEqual(expect.arrayContaining(['exposure-missing', 'file-missing']));
  const late = footageOf(base, (session) => {
    firstOf(session, weak.id).capturedAt = '2026-05-14T23:00:00Z';
  });
  expect(codes(late)).toEqual(['time-gap']);
  const clock = footageOf(base);
  const take = firstOf(clock.session, weak.id);
  const facts = { ...clock.files.get(take.files[0])!.facts };
  facts.capturedAt = new Date(Date.parse(take.capturedAt!) + 3_600_000).toISOString();
  const told = checkFootage({
    ...clock,
    files: new Map([...clock.files, [take.files[0], { ...clock.files.get(take.files[0])!, facts }]]),
  });
  expect(told.map((one) => one.message)).toEqual([expect.stringContaining('1 h ahead of the log')]);
  const named = footageOf(base, (session) => {
    const one = firstOf(session, weak.id);
    one.filter = strong.id;
  });
  expect(codes(named)).toContain('name-contradicts');
});

test('a profile that differs is told', () => {
  const footage = footageOf(base);
  const path = firstOf(footage.session, weak.id).files[0];
  const file = footage.files.get(path)!;
  const other = { ...file, facts: { ...file.facts, encoding: { ...file.facts.encoding, transfer: 'hlg' as const } } };
  expect(codes({ ...footage, files: new Map([...footage.files, [path, other]]) })).toContain('mixed-profiles');
});

test('gain maps are told once, with the setting to look for', () => {
  const footage = footageOf(base);
  const mapped = new Map(
    [...footage.files].map(([path, file]) => [path, { ...file, facts: { ...file.facts, gainMap: true as const } }]),
  );
  expect(codes(footage)).not.toContain('gain-map');
  const told = checkFootage({ ...footage, files: mapped }).filter((one) => one.code === 'gain-map');
  expect(told).toHaveLength(new Set(footage.session.takes.map((take) => take.scene)).size);
  expect(told[0].severity).toBe('look');
  expect(told[0].advice).toContain('high dynamic range');
});

test('a clip whose level or colors move, with and without telemetry that says so', () => {
  const footage = footageOf(base);
  const take = firstOf(footage.session, weak.id);
  const file = footage.files.get(take.files[0])!;
  const moments = (light: (i: number) => number[]) =>
    [0, 1, 2, 3, 4].map((i) => ({ seconds: i, light: light(i), top: 0, detail: file.look!.detail }));
  const seen = (light: (i: number) => number[], cues = footage.telemetry) =>
    checkFootage({
      ...footage,
      telemetry: cues,
      files: new Map([
        ...footage.files,
        [take.files[0], { ...file, look: { ...file.look!, moments: moments(light) } }],
      ]),
    }).map((one) => [one.code, one.severity]);
  expect(seen(() => [0.2, 0.2, 0.2])).toEqual([]);
  expect(seen((i) => [0.2 + 0.02 * i, 0.2 + 0.02 * i, 0.2 + 0.02 * i])).toEqual([['exposure-moved', 'look']]);
  expect(seen((i) => [0.2 + 0.01 * i, 0.2, 0.2])).toEqual([['white-balance-moved', 'look']]);
  take.telemetry = 'a.srt';
  const cue = (from: number, kelvin: number) => ({
    from,
    to: from + 2,
    exposure: { shutterSeconds: 1 / 100, iso: 100 },
    ev: null,
    colorTemperature: kelvin,
    place: null,
  });
  expect(seen(() => [0.2, 0.2, 0.2], new Map([['a.srt', [cue(0, 5600), cue(2, 4300)]]]))).toEqual([
    ['white-balance-moved', 'stop'],
  ]);
});
