/** Small sessions for tests: drawn, shot and measured in the time of a few frames, with what they should show beside what was found. */
import { measureSession } from '../measure';
import type { FilterReadings, Readings } from '../session/readings';
import type { Session } from '../session/schema';
import { compareWithTruth, type Compared, type Comparison } from '@/simulator/expected/compare';
import { simulateSession } from '@/simulator/session';
import type { BenchPlan, TrueFilter } from '@/simulator/truth';

const OPTIONS = { createdAt: '2026-05-14T12:00:00Z', generator: 'test' };

/** A plain ND filter of the same strength in all channels. */
export function plainFilter(id: string, stops: number, more: Partial<TrueFilter> = {}): TrueFilter {
  return {
    id,
    name: id.toUpperCase(),
    kind: 'nd',
    nominal: { stops: Math.round(stops) },
    stops: [stops, stops, stops],
    ...more,
  };
}

/** A steady bench of 16 bits, linear, 240 × 160, with two filters; one picture a take. */
export function smallBench(more: Partial<BenchPlan> = {}): BenchPlan {
  return {
    title: 'A small bench',
    seed: 'small',
    width: 240,
    height: 160,
    camera: { response: 'linear', bitDepth: 16, fullWell: 12000, readNoise: 3, falloffStops: 0.3, blurPx: 0.6 },
    lamps: { driftStops: 0 },
    protocol: 'matched',
    bareLevel: 0.9,
    filters: [plainFilter('nd4', 2.1), plainFilter('nd8', 2.9)],
    repeats: 1,
    bareEvery: 1,
    startedAt: '2026-05-14T09:00:00Z',
    scenes: ['chart'],
    ...more,
  };
}

/** A camera that hardly makes noise. */
export const QUIET_CAMERA: BenchPlan['camera'] = { ...smallBench().camera, fullWell: 60_000 };

/** An even wall before a camera that hardly makes noise, through one filter. */
export function quietWall(filter: TrueFilter): BenchPlan {
  return smallBench({ width: 300, height: 200, scenes: ['flat'], camera: QUIET_CAMERA, filters: [filter] });
}

export interface Worked {
  readings: Readings;
  session: Session;
  of: (filter: string) => FilterReadings;
  /** What a measure found beside the truth, for one filter or all. */
  compared: (measure: Compared, filter?: string) => Comparison[];
  /** Codes of all faults, of the session and of its filters. */
  codes: string[];
}

/** Shoots and measures a plan; edges are left out where they aren't asked for, since they cost most. */
export async function work(
  plan: BenchPlan,
  change: (session: Session) => void = () => undefined,
  edges = false,
): Promise<Worked> {
  const { session, source } = simulateSession(plan);
  if (!edges) session.patches = session.patches.filter((patch) => patch.role !== 'edge');
  change(session);
  const readings = await measureSession(session, source, OPTIONS);
  const all = compareWithTruth(plan, readings);
  return {
    readings,
    session,
    of: (filter) => readings.filters.find((one) => one.filter === filter)!,
    compared: (measure, filter) =>
      all.filter((one) => one.measure === measure && (filter === undefined || one.filter === filter)),
    codes: [...readings.faults, ...readings.filters.flatMap((one) => one.faults)].map((one) => one.code),
  };
}

/** Standard uncertainty of a level's log2 over so many pixels, from its electrons and the read noise alone (closed form). */
export function noiseOfLevel({ fullWell, readNoise }: BenchPlan['camera'], level: number, pixels: number): number {
  const electrons = level * fullWell;
  return Math.sqrt(electrons + readNoise ** 2) / electrons / Math.sqrt(pixels) / Math.LN2;
}
