/** Walks before ordinary scenes, drawn at random, for accuracy and coverage. */
import { seededRandom } from './random';
import type { BenchPlan, ClipPlan, TrueFilter } from './truth';

export interface WalkKind {
  protocol: BenchPlan['protocol'];
  width: number;
  height: number;
  /** How it is filmed; stills of 16 bits when left out. */
  clips?: Pick<ClipPlan, 'codec' | 'bits' | 'quality'> & { response: 'bt709' | 'hlg' };
  /** Frames a second and frames; 12 and 24 when left out. */
  rate?: { framesPerSecond: number; frames: number; keyEvery?: number };
  /** A hand's sway, and its smear (see `WalkScene`), in place of shake. */
  sway?: { px: number; hertz: number };
  /** Stops of a cloud before everything after the filter. */
  cloud?: number;
  filters?: number;
  /** Scenes that walks share: painting one takes longer than measuring it. */
  landscapes?: number;
}

/** A walk with random filters, camera, pose, wind and light. */
export function randomWalk(seed: string, kind: WalkKind): BenchPlan {
  const random = seededRandom(`walk/${seed}`);
  const filters: TrueFilter[] = Array.from({ length: kind.filters ?? 1 }, (_, i) => {
    const strength = (kind.protocol === 'locked' ? 1 : 2) + (kind.protocol === 'locked' ? 3 : 5) * random.uniform();
    const cast = () => (random.uniform() - 0.5) * 0.3;
    return {
      id: `f${i}`,
      name: `F${i}`,
      kind: 'nd',
      nominal: { stops: Math.round(strength) },
      stops: [strength + cast(), strength, strength + cast()],
      // At 1200 wide; a wider picture sees it over more pixels.
      blurPx: (1200 / kind.width) * random.uniform(),
      cornerStops: 0.4 * random.uniform(),
    };
  });
  const scale = kind.width / 1920;
  const clips: ClipPlan | undefined = kind.clips && {
    codec: kind.clips.codec,
    bits: kind.clips.bits,
    quality: kind.clips.quality,
    chroma: '420',
    range: 'limited',
    framesPerSecond: 12,
    frames: 24,
    ...kind.rate,
    telemetry: true,
  };
  return {
    title: seed,
    seed,
    width: kind.width,
    height: kind.height,
    camera: {
      response: kind.clips?.response ?? 'linear',
      bitDepth: 16,
      fullWell: 15000,
      readNoise: 3,
      falloffStops: 0.2 + 0.6 * random.uniform(),
      blurPx: 0.6,
    },
    lamps: {
      driftStops: kind.cloud ? 0 : 0.2 * (random.uniform() - 0.5),
      flickerStops: 0.004 * random.uniform(),
      ...(kind.cloud ? { jump: { at: 0.75, stops: -kind.cloud } } : {}),
    },
    protocol: kind.protocol,
    bareLevel: 0.75,
    filters,
    repeats: 4,
    bareEvery: 1,
    startedAt: '2026-06-14T09:00:00Z',
    scenes: ['outdoor'],
    walk: {
      landscape: kind.landscapes ? `shared-${Math.floor(random.uniform() * kind.landscapes)}` : seed,
      driftPx: 40 * scale * random.uniform(),
      ...(kind.sway ? { sway: kind.sway } : { shakePx: 6 * scale * random.uniform() }),
      turnDegrees: 0.6 * random.uniform(),
      zoom: 0.01 * random.uniform(),
      tilt: 0.002 * random.uniform(),
      parallax: 0.6 * random.uniform(),
      wind: random.uniform(),
      walker: random.uniform() < 0.6,
    },
    ...(clips ? { clips } : {}),
  };
}

const WILD_STILLS = [[480, 270], [960, 540], [1600, 1200], [720, 1280], [801, 603], [1200, 800]]; // prettier-ignore
const WILD_CLIPS = [
  [1280, 720],
  [960, 540],
  [720, 1280],
  [848, 480],
];

/** A walk whose size, response, depth, noise, lens, light, poses and filters are all drawn: wider than what anything was tuned by. */
export function wildWalk(seed: string, filmed: boolean): BenchPlan {
  const random = seededRandom(`wild/${seed}`);
  const any = <T>(list: readonly T[]): T => list[Math.floor(random.uniform() * list.length)];
  const [width, height] = any(filmed ? WILD_CLIPS : WILD_STILLS);
  const protocol = any(['locked', 'matched', 'automatic'] as const);
  const codec = any(['h264', 'h265'] as const);
  const quality = Math.round(16 + 8 * random.uniform());
  const clips = { codec, bits: codec === 'h264' ? 8 : 10, quality, response: any(['bt709', 'hlg'] as const) } as const;
  const plan = randomWalk(seed, { width, height, protocol, filters: 2, ...(filmed ? { clips } : {}) });
  const still = {
    response: any(['linear', 'srgb', 'bt709', 'hlg', { gamma: 2.2 }] as const),
    bitDepth: any([8, 16] as const),
  };
  return {
    ...plan,
    camera: {
      ...plan.camera,
      ...(filmed ? {} : still),
      fullWell: 2500 * 2 ** (4 * random.uniform()),
      readNoise: 2 + 4 * random.uniform(),
      falloffStops: 1.2 * random.uniform(),
      blurPx: 0.45 + 0.55 * random.uniform(),
    },
    bareEvery: any([1, 2]),
    bareLevel: 0.5 + 0.35 * random.uniform(),
    filters: plan.filters.map((filter) => {
      const strength = 0.5 + (protocol === 'locked' ? 4 : 9.5) * random.uniform();
      const cast = () => (random.uniform() - 0.5) * 0.6;
      return {
        ...filter,
        nominal: { stops: Math.max(1, Math.round(strength)) },
        stops: [strength + cast(), strength, strength + cast()] as TrueFilter['stops'],
        cornerStops: 0.6 * random.uniform(),
      };
    }),
    walk: { ...plan.walk, turnDegrees: 1.5 * random.uniform(), zoom: 0.03 * random.uniform() },
  };
}
