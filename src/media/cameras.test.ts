/**
 * Cameras that don't tell their curve, from files on: seeded sessions of a stand-in camera against what its filters really take. The ±
 * must hold whatever the style; what can't be known is withheld. `npm run cameras` looks at many more.
 */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '@/core/measure';
import { parseSession } from '@/core/session/parse';
import type { CameraCheck } from '@/core/session/cameraCheck';
import { shootCheck, type ShutterMarks } from '@/simulator/camera/check';
import { drawProfile, type CameraClass, type CameraProfile } from '@/simulator/camera/profile';
import { randomPlan, type BenchKind } from '@/simulator/randomBench';
import { randomKinds } from '@/simulator/randomKinds';
import type { BenchPlan, ClipPlan, PlannedTake, TrueFilter } from '@/simulator/truth';
import { folderSource } from './folder';
import { measuredByFiles, type SessionFile, type ShotByFiles } from './testing/byFiles';

type Shot = ShotByFiles;
type Change = (session: SessionFile) => void;

/** A session of a gray card alone, small, shot and measured. */
function shoot(
  seed: string,
  kind: CameraClass,
  protocol: BenchPlan['protocol'],
  darker: readonly number[],
  change?: Change,
): Promise<Shot> {
  const drawn = randomPlan(seed, { ...STILL, protocol });
  return shootPlan({ ...drawn, ...SMALL, filters: drawn.filters.slice(0, 2), bareEvery: 9 }, kind, darker, change);
}

const STILL: BenchKind = { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 };
const SMALL = { width: 320, height: 216 };

function shootPlan(
  plan: BenchPlan,
  kind: CameraClass,
  darker: readonly number[],
  change?: Change,
  profile: CameraProfile | ((take: PlannedTake) => CameraProfile) = drawProfile(plan.seed, kind),
): Promise<Shot> {
  return measuredByFiles(plan, profile, darker, change);
}

const strengths = (shots: readonly Shot[]) =>
  shots.flatMap(({ rows }) => rows.filter(({ measure }) => measure === 'strength'));
const codes = ({ readings }: Shot) => readings.faults.map(({ code }) => code);
const LONG = 300_000;

test(
  'nothing more: locked strengths are withheld with the cheapest cure, matched ones given wide',
  async () => {
    const locked = await shoot('gate/none/1', 'curve', 'locked', []);
    expect(strengths([locked]).every(({ error }) => error === null)).toBe(true);
    const [fault] = locked.readings.filters[0].faults;
    expect([fault.code, fault.severity]).toEqual(['curve-unknown', 'error']);
    expect(fault.remedy).toContain('one and three stops darker');
    const matched = await shoot('gate/none/1', 'curve', 'matched', []);
    expect(codes(matched)).toContain('curve-unknown');
    for (const { error, u95 } of strengths([matched]).filter((row) => row.error !== null)) {
      expect(Math.abs(error!)).toBeLessThan(u95!);
      expect(u95).toBeGreaterThan(0.003);
    }
    expect(matched.readings.response.learned).toMatchObject({ checked: false, knownStops: 0 });
  },
  LONG,
);

test(
  'a dark picture at a wrong exposure is told or in the ±, never quietly wrong',
  async () => {
    const wrong = await shoot('gate/curve/1', 'curve', 'locked', [1, 3], (session) => {
      const take = session.takes.find(({ id }) => id === 'extra-2')!;
      take.exposure = { ...take.exposure, iso: 200 };
    });
    for (const { error, u95 } of strengths([wrong])) if (error !== null) expect(Math.abs(error)).toBeLessThan(3 * u95!);
  },
  LONG,
);

test(
  'a session that says sRGB of its JPEGs isn’t believed either; a curve of its own is',
  async () => {
    const said = await shoot(
      'gate/processed/1',
      'processed',
      'locked',
      [],
      ({ rig }) => (rig.response = { kind: 'srgb' }),
    );
    expect(strengths([said]).every(({ error }) => error === null)).toBe(true);
    const believed = await shoot('gate/processed/1', 'processed', 'locked', [], ({ rig }) => (rig.response = { kind: 'curve', points: [[0, 0], [1, 1]] })); // prettier-ignore
    expect(believed.readings.response.learned).toBeUndefined();
  },
  LONG,
);

test(
  'a bracket of JPEGs is evidence like other bare pictures',
  async () => {
    const bracket = await shoot(
      'gate/processed/1',
      'processed',
      'matched',
      [1, 2, 3, 4],
      ({ rig }) => (rig.response = { kind: 'bracket' }),
    );
    expect(bracket.readings.response.learned).toMatchObject({ checked: true, knownStops: 4 });
    for (const { error, u95 } of strengths([bracket])) expect(Math.abs(error!)).toBeLessThan(u95!);
  },
  LONG,
);

describe('a graduated filter, whose dense half lies three stops down the curve', () => {
  const shootGraduated = (darker: readonly number[], scenes: BenchPlan['scenes'] = ['flat']) => {
    const grad: TrueFilter = {
      id: 'grad',
      name: 'GND0.9',
      kind: 'graduated-nd',
      nominal: { opticalDensity: 0.9 },
      stops: [0.05, 0.05, 0.05],
      graduation: { denseStops: [3, 2.95, 3.05], midline: 0.5, width: 0.25, angleDegrees: 0 },
    };
    return shootPlan({ ...randomPlan('gate/grad', STILL), ...SMALL, filters: [grad], scenes }, 'curve', darker);
  };

  test(
    'unchecked, its ± counts the curve',
    async () => {
      const { rows, readings } = await shootGraduated([]);
      const dense = rows.find(({ measure }) => measure === 'dense')!;
      expect(Math.abs(dense.error!)).toBeLessThan(dense.u95!);
      expect(dense.u95).toBeGreaterThan(0.5);
      expect(readings.filters[0].graduation!.difference.u95).toBeGreaterThan(0.5);
    },
    LONG,
  );

  test(
    'with two darker bare pictures it is told but for tone that may follow the pictures, and a chart beside it tells that too',
    async () => {
      const told = async (scenes: BenchPlan['scenes']) => {
        const { rows, readings } = await shootGraduated([1, 3], scenes);
        const dense = rows.find(({ measure }) => measure === 'dense')!;
        expect(Math.abs(dense.error!)).toBeLessThan(dense.u95!);
        return { u95: dense.u95!, codes: readings.faults.map(({ code }) => code) };
      };
      const wall = await told(['flat']);
      expect(wall.u95).toBeLessThan(0.35);
      expect(wall.codes).toContain('tone-undecided');
      const chart = await told(['chart', 'flat']);
      expect(chart.u95).toBeLessThan(0.5 * wall.u95);
      expect(chart.codes).not.toContain('tone-undecided');
    },
    LONG,
  );
});

test(
  'what turns: a ring’s ends, marks, unevenness and a graduated line are held by a ± that counts the curve once',
  async () => {
    const kinds = randomKinds('gate/turned/2', 16, 0.05);
    const plan: BenchPlan = {
      ...kinds,
      ...SMALL,
      protocol: 'matched',
      repeats: 1,
      scenes: ['flat', 'screen', 'water'],
    };
    const { rows, readings } = await shootPlan(plan, 'curve', []);
    expect(readings.response.learned).toMatchObject({ checked: false });
    const given = rows.filter(({ error }) => error !== null);
    const measures = new Set(given.map(({ measure }) => measure));
    for (const measure of ['brightest', 'axis', 'mark', 'unevenness', 'midline', 'width', 'tilt'] as const)
      expect(measures).toContain(measure);
    const off = given.filter(({ error, u95 }) => Math.abs(error!) > u95!);
    // Nineteen of twenty, and none far off.
    expect(off.length).toBeLessThanOrEqual(1 + given.length / 20);
    for (const { error, u95 } of off) expect(Math.abs(error!)).toBeLessThan(1.5 * u95!);
  },
  LONG,
);

test(
  'a filmed bench, its curve learned of two darker clips: strengths and casts are held',
  async () => {
    const clips: ClipPlan = { codec: 'h264', bits: 8, quality: 18, chroma: '420', range: 'limited', framesPerSecond: 12, frames: 4, telemetry: true }; // prettier-ignore
    const drawn = randomPlan('gate/film/1', { ...STILL, protocol: 'matched' });
    const plan: BenchPlan = {
      ...drawn,
      width: 640,
      height: 360,
      filters: drawn.filters.slice(0, 2),
      bareEvery: 9,
      clips,
    };
    const { rows, readings } = await shootPlan(plan, 'curve', [1, 3]);
    expect(readings.response.learned).toMatchObject({ checked: true });
    const given = rows.filter(
      ({ measure, error }) => ['strength', 'a*', 'b*', 'ΔE00'].includes(measure) && error !== null,
    );
    expect(given).toHaveLength(8);
    for (const { error, u95 } of given) expect(Math.abs(error!)).toBeLessThan(1.2 * u95!);
  },
  LONG,
);

describe('a camera’s check', () => {
  const kind = 'processed';
  const profileOf = (seed: string, change: Partial<CameraProfile> = {}): CameraProfile => ({
    ...drawProfile(seed, kind),
    settings: { make: 'Stand-in', model: 'One', contrast: 0 },
    ...change,
  });

  const DRIFT = 0.05;
  async function checkOf(plan: BenchPlan, profile: CameraProfile, marks?: ShutterMarks) {
    const folder = await mkdtemp(join(tmpdir(), 'checks-'));
    try {
      const lamps = { ...plan.lamps, driftStops: DRIFT };
      await shootCheck({ ...plan, seed: `${plan.seed}/check`, lamps }, profile, folder, marks);
      const session = parseSession(JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8')));
      const readings = await measureSession(session, folderSource(folder), { createdAt: '', generator: '' });
      return { check: readings.check!, faults: readings.faults.map(({ code }) => code) };
    } finally {
      await rm(folder, { recursive: true });
    }
  }

  const seed = 'gate/check/1';
  const drawn = randomPlan(seed, { ...STILL, protocol: 'locked' });
  const plan = { ...drawn, ...SMALL, filters: drawn.filters.slice(0, 2), bareEvery: 9 };
  let check: CameraCheck;
  beforeAll(async () => {
    check = (await checkOf(plan, profileOf(seed))).check;
  }, LONG);

  const measured = (profile: CameraProfile, darker: readonly number[] = []) =>
    shootPlan(plan, kind, darker, ({ rig }) => void Object.assign(rig, { check }), profile);

  test(
    'tells locked strengths of a later sitting, which it couldn’t tell alone',
    async () => {
      const later = await measured(profileOf(seed));
      expect(later.readings.response.learned).toMatchObject({ checked: true, check: { checkedAt: check.checkedAt } });
      for (const { error, u95 } of strengths([later])) {
        expect(Math.abs(error!)).toBeLessThan(Math.min(0.035, u95!));
        expect(u95).toBeLessThan(0.12);
      }
    },
    LONG,
  );

  test('says what the camera does', () => {
    expect(check).toMatchObject({ pictures: 22, isoSpeeds: [100], settings: { model: 'One', contrast: 0 }, knownStops: 8 }); // prettier-ignore
    // Its light drifts by as much as the lamps do (bare takes are at its surface's exposures there and back).
    expect(check.drift).toBeCloseTo(DRIFT, 1);
    expect(Math.abs(check.drift - DRIFT)).toBeLessThan(0.02);
    expect(check.automaticTone).toBeLessThan(0.02);
    // The mosaic and its noise reduction.
    expect(check.grain).toBeGreaterThan(0.1);
    expect(check.noise.length).toBeGreaterThan(10);
    // A twentieth of a stop over five, as was asked of a check.
    expect(check.tells.find(({ stops }) => stops === 4)!.u95).toBeLessThan(0.05);
  });

  test(
    'another style of the same camera is refused by its settings, or contradicted by its pictures',
    async () => {
      const set = await measured(profileOf(seed, { settings: { make: 'Stand-in', model: 'One', contrast: 2 } }));
      expect(codes(set)).toContain('check-refused');
      expect(strengths([set]).every(({ error }) => error === null)).toBe(true);
      // The file doesn't tell it: a much harder style.
      const { style } = drawProfile(seed, kind);
      const hard = profileOf(seed, { style: { ...style, contrast: 0.6, exponents: [1.4, 1.4, 1.4] } });
      // One darker bare picture shows it; without it the session says that nothing would.
      const unseen = await measured(hard);
      expect(codes(unseen)).toContain('check-unwitnessed');
      const silent = await measured(hard, [3]);
      for (const { error, u95 } of strengths([silent]))
        if (error !== null) expect(Math.abs(error)).toBeLessThan(3 * u95!);
      expect(codes(silent)).toContain('check-contradicted');
    },
    LONG,
  );

  test(
    'none of a camera whose tone follows the picture, which its surface alone wouldn’t show',
    async () => {
      const none = await checkOf(plan, { ...profileOf(seed), automaticTone: -0.08 });
      expect(none.check).toBeUndefined();
      expect(none.faults).toContain('tone-automatic');
    },
    LONG,
  );

  test(
    'marks: a bracket of whole stops written as engraved fits the series’ exact powers',
    async () => {
      // 1/1000 for 2^-10: what cameras engrave.
      expect((await checkOf(plan, profileOf(seed), 'engraved')).check.marks).toBe('nominal');
    },
    LONG,
  );
});

test(
  'a picture drawn with another contrast than the others is left out and told',
  async () => {
    const seed = 'gate/settings/1';
    const set = (contrast: number): CameraProfile => ({ ...drawProfile(seed, 'curve'), settings: { contrast } });
    const drawn = randomPlan(seed, STILL);
    const plan = { ...drawn, ...SMALL, filters: drawn.filters.slice(0, 2), bareEvery: 9 };
    const odd = await shootPlan(plan, 'curve', [1, 3], undefined, (take) => set(take.filter?.id === 'f0' ? 2 : 0));
    const [first, second] = odd.readings.filters;
    expect(first.faults.map(({ code }) => code)).toContain('settings-moved');
    expect(first.density).toBeUndefined();
    expect(second.density).toBeDefined();
  },
  LONG,
);

test(
  'a white balance that wanders from picture to picture is told, and casts hold it',
  async () => {
    const seed = 'gate/balance/1';
    const drawn = randomPlan(seed, STILL);
    const plan = { ...drawn, ...SMALL, filters: drawn.filters.slice(0, 2), bareEvery: 1 };
    const wanders: CameraProfile = { ...drawProfile(seed, 'curve'), wanderingBalance: 0.03 };
    const shot = await shootPlan(plan, 'curve', [1, 3], undefined, wanders);
    expect(codes(shot)).toContain('white-balance-wanders');
    const casts = shot.rows.filter(({ measure, error }) => ['a*', 'b*'].includes(measure) && error !== null);
    expect(casts.length).toBeGreaterThan(0);
    for (const { error, u95 } of casts) expect(Math.abs(error!)).toBeLessThan(1.3 * u95!);
    // The same camera with a fixed balance isn't suspected.
    const fixed = await shootPlan(plan, 'curve', [1, 3]);
    expect(codes(fixed)).not.toContain('white-balance-wanders');
  },
  LONG,
);
