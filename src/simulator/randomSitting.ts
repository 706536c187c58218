/** Sittings drawn at random, with one mistake or none: what somebody does wrong while shooting a kit on a bench. */
import { planTakes } from './plan';
import { seededRandom, type Random } from './random';
import type { BenchPlan, PlannedTake, Spoiled, TrueFilter } from './truth';

export const MISTAKES = [
  'clipped',
  'dark',
  'moved',
  'focus',
  'shake',
  'light',
  'white balance told',
  'white balance untold',
  'wrong filter',
  'wrong angle',
  'wrong mark',
] as const;
export type Mistake = (typeof MISTAKES)[number];

export interface DrawnSitting {
  plan: BenchPlan;
  mistake: Mistake | null;
  /** Id of the take from which on it shows; `null` of a clean sitting. */
  from: string | null;
}

/** Strengths of a kit that people buy, stops; labels hold to a few tenths. */
const STEPS = [2, 3, 4, 5, 6];
const LABEL_OFF = 0.1;
const MOST_OFF = 0.28;

/** A kit of five steps, two pictures a take, a bare take after every second filter; with a polarizer's sweep where a ring can be wrong. */
export function drawSitting(seed: string, mistake: Mistake | null): DrawnSitting {
  const random = seededRandom(seed);
  const between = (from: number, to: number) => from + (to - from) * random.uniform();
  const filters = STEPS.map((stops): TrueFilter => {
    const own = stops + Math.max(-MOST_OFF, Math.min(MOST_OFF, LABEL_OFF * random.normal()));
    const tint = () => 0.04 * random.normal();
    return {
      id: `nd${2 ** stops}`,
      name: `ND${2 ** stops}`,
      kind: 'nd',
      nominal: { ndFactor: 2 ** stops },
      stops: [own + tint(), own, own + tint()],
      blurPx: between(0, 0.3),
      cornerStops: between(0, 0.15),
    };
  });
  const sweeps = mistake === 'wrong angle' || (mistake === null && random.uniform() < 0.2);
  const polarizer: TrueFilter = {
    id: 'cpl',
    name: 'CPL',
    kind: 'polarizer',
    nominal: { stops: 1.5 },
    stops: [1.5, 1.5, 1.5],
    polarizer: { axisDegrees: between(-5, 5), extinctionStops: between(5, 9) },
  };
  const turns =
    mistake === 'wrong mark' || (mistake === null && !sweeps && seededRandom(`${seed}/turns`).uniform() < 0.25);
  const plan: BenchPlan = {
    title: seed,
    seed,
    width: 720,
    height: 480,
    camera: {
      response: 'srgb',
      bitDepth: 8,
      fullWell: 12_000,
      readNoise: 3,
      falloffStops: between(0.2, 0.6),
      blurPx: 0.65,
    },
    lamps: { driftStops: between(-0.04, 0.04), flickerStops: between(0, 0.004) },
    protocol: 'matched',
    bareLevel: between(0.7, 0.85),
    filters: sweeps ? [polarizer] : turns ? [...filters.slice(0, 2), variableFilter(seed)] : filters,
    repeats: 2,
    bareEvery: 2,
    startedAt: '2026-05-14T09:00:00Z',
    scenes: sweeps ? ['chart', 'screen'] : ['chart'],
    ...(sweeps
      ? { sweep: [0, 30, 60, 90, 120, 150, 180], polarization: { lightDegrees: between(-20, 20), degree: 0.98 } }
      : {}),
  };
  if (mistake === null) return { plan, mistake, from: null };
  const takes = planTakes(plan);
  const able = takes.slice(1).filter((take) => canFail(take, mistake, takes));
  const take = able[Math.floor(random.uniform() * able.length)];
  if (mistake === 'light') {
    // Between two takes: as a share of the session's takes, just before this one.
    const at = (takes.indexOf(take) - 0.5) / (takes.length - 1);
    const stops = (random.uniform() < 0.5 ? -1 : 1) * between(0.5, 1.2);
    // Brighter light would clip, and be told as that.
    const bareLevel = stops > 0 ? plan.bareLevel / 2 ** stops : plan.bareLevel;
    return { plan: { ...plan, bareLevel, lamps: { ...plan.lamps, jump: { at, stops } } }, mistake, from: take.id };
  }
  // A camera that tells its white balance tells it of every picture.
  const told = mistake === 'white balance told' ? takes.map(({ id }) => ({ take: id, whiteBalance: 'fixed' })) : [];
  const spoiled = { take: take.id, ...spoilOf(mistake, take, plan, random) };
  return { plan: { ...plan, spoiled: [...told, spoiled] }, mistake, from: take.id };
}

/** A variable filter of 2 to 5 stops, whose marks are as far off as bought ones' often are. */
function variableFilter(seed: string): TrueFilter {
  const random = seededRandom(`${seed}/variable`);
  const alike = 0.25 * random.normal();
  const marks = [2, 3, 4, 5].map((mark) => ({ mark, stops: mark + alike + 0.12 * random.normal() }));
  return {
    id: 'vnd',
    name: 'VND 2–5',
    kind: 'variable-nd',
    nominal: { stopsRange: [2, 5] },
    stops: [0, 0, 0],
    variable: { marks },
  };
}

/** Three angles say any curve, and four hardly which of them is wrong. */
const ANGLES_THAT_TELL = 5;

function canFail({ id, filter, role }: PlannedTake, mistake: Mistake, takes: readonly PlannedTake[]): boolean {
  if (mistake === 'wrong filter') return filter !== null;
  if (mistake === 'wrong mark') return takes.find((one) => one.id === id)?.setting?.mark !== undefined;
  if (mistake !== 'wrong angle') return true;
  const sweep = takes.filter((one) => one.role === 'sweep' && one.filter !== null);
  return role === 'sweep' && sweep.findIndex((one) => one.id === id) >= ANGLES_THAT_TELL - 1;
}

function spoilOf(mistake: Mistake, take: PlannedTake, plan: BenchPlan, random: Random): Partial<Spoiled> {
  const sign = () => (random.uniform() < 0.5 ? -1 : 1);
  const between = (from: number, to: number) => from + (to - from) * random.uniform();
  switch (mistake) {
    case 'clipped':
      // The gray patch lies well below white.
      return { exposureStops: between(3, 4) };
    case 'dark':
      return { exposureStops: -between(6, 8) };
    case 'moved':
      return { movedPx: [sign() * between(8, 60), sign() * between(0, 40)] };
    case 'focus':
      return { focusPx: { center: between(2, 4), corner: between(2, 4) } };
    case 'shake':
      return { shakePx: [between(2, 4), between(0, 1)] };
    case 'white balance told':
      return { whiteBalance: 'auto', gainStops: [between(0.1, 0.3), 0, -between(0.1, 0.3)] };
    case 'white balance untold':
      return { gainStops: [between(0.35, 0.6), 0, -between(0.35, 0.6)] };
    case 'wrong filter': {
      const others = plan.filters.filter(({ id }) => id !== take.filter?.id);
      return { otherFilter: others[Math.floor(random.uniform() * others.length)].id };
    }
    case 'wrong angle':
      return { notedDegrees: (((take.setting!.ringDegrees! + sign() * between(15, 40)) % 180) + 180) % 180 };
    case 'wrong mark': {
      const mark = take.setting!.mark!;
      // Within its range, from wherever it should stand.
      const turned = between(1.4, 1.9);
      return { otherMark: mark + turned > 5 ? mark - turned : mark + turned };
    }
    case 'light':
      return {};
  }
}
