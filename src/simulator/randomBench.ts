/** Bench sessions drawn at random, for coverage and accuracy. */
import { seededRandom } from './random';
import type { BenchPlan, TrueFilter } from './truth';

export interface BenchKind {
  protocol: BenchPlan['protocol'];
  bitDepth: 8 | 16;
  /** Stops over the session: straight, bent in the middle at most, from shot to shot. */
  drift: number;
  bend: number;
  flicker: number;
  repeats: number;
  scenes?: BenchPlan['scenes'];
  /** Three times the noise: a ninth of the electrons. */
  noisy?: boolean;
  /** An S-shaped response, recovered from an eight-step bracket. */
  bracket?: boolean;
  linear?: boolean;
}

/** What cameras are tried with: a chart and a wall under lamps that drift a little. */
export const CHART_AND_WALL: BenchKind = {
  protocol: 'matched',
  bitDepth: 16,
  drift: 0.05,
  bend: 0,
  flicker: 0,
  repeats: 1,
  scenes: ['chart', 'flat'],
};

/** A session with five random filters of 2–7 stops and casts up to about ΔE00 8. */
export function randomPlan(seed: string, kind: BenchKind): BenchPlan {
  const random = seededRandom(seed);
  const filters: TrueFilter[] = Array.from({ length: 5 }, (_, i) => {
    const strength = 2 + 5 * random.uniform();
    const cast = () => (random.uniform() - 0.5) * 0.3;
    return {
      id: `f${i}`,
      name: `F${i}`,
      kind: 'nd',
      nominal: { stops: Math.round(strength) },
      stops: [strength + cast(), strength, strength + cast()],
      blurPx: 0.9 * random.uniform(),
      cornerStops: 0.5 * random.uniform(),
    };
  });
  const responses = ['srgb', 'bt709'] as const;
  return {
    title: seed,
    seed,
    width: 1200,
    height: 800,
    camera: {
      response: kind.bracket
        ? 's-curve'
        : kind.linear || (kind.bitDepth === 16 && random.uniform() < 0.4)
          ? 'linear'
          : responses[Math.floor(random.uniform() * 2)],
      bitDepth: kind.bitDepth,
      fullWell: kind.noisy ? 12000 / 9 : 12000,
      readNoise: kind.noisy ? 1 : 3,
      falloffStops: 0.6 * random.uniform(),
      blurPx: 0.6,
    },
    lamps: {
      driftStops: kind.drift * (random.uniform() < 0.5 ? -1 : 1),
      bendStops: kind.bend * (random.uniform() - 0.5),
      flickerStops: kind.flicker,
    },
    protocol: kind.protocol,
    bareLevel: 0.9,
    filters,
    repeats: kind.repeats,
    bareEvery: 2,
    startedAt: '2026-05-14T09:00:00Z',
    scenes: kind.scenes ?? ['chart'],
    ...(kind.bracket ? { bracket: 8 } : {}),
  };
}
