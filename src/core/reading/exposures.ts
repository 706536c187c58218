/** Exposures and moments of pictures: the session speaks before the file; what neither knows is named. */
import { exposureLog2, isShutterMark, parseShutter, snapShutterMark } from '../formulas/optics/exposure';
import type { Session, Take } from '../session/schema';
import type { PictureFacts } from './facts';
import { missingExposure } from '../words/reading';

export interface ExposedShot {
  take: Take;
  facts: PictureFacts;
  /** Moment of a frame in its clip; `null` or missing for a still. */
  seconds?: number | null;
}

/** How the exposures of some pictures are to be read. */
export interface ExposureRules {
  /** Whether f-numbers count: always on a variable aperture, on a fixed one where every picture has one. */
  aperture: boolean;
  /** What a mark of the shutter stands for; `unknown` where neither the session tells nor an odd time gives it away. */
  marks: 'exact' | 'nominal' | 'unknown';
}

/** The rules that hold for pictures of one camera. */
export function exposureRules(shots: readonly ExposedShot[], { rig }: Pick<Session, 'rig'>): ExposureRules {
  const hasAperture = ({ take, facts }: ExposedShot) => (take.exposure.fNumber ?? facts.exposure.fNumber) !== undefined;
  // Electronic shutters tell odd times, and tell all of them as they are.
  const onlyMarks = shots.every((shot) => {
    const shutter = shutterOf(shot);
    return !shutter || isShutterMark(shutter);
  });
  return {
    aperture: rig.aperture === 'variable' || shots.every(hasAperture),
    marks: rig.shutterMarks ?? (onlyMarks ? 'unknown' : 'exact'),
  };
}

const shutterOf = ({ take, facts }: ExposedShot) =>
  take.exposure.shutter === undefined ? facts.exposure.shutterSeconds : parseShutter(take.exposure.shutter);

/** log2 of t·ISO/N², or what is missing, in words. A mark that may stand for two times counts as their middle, in stops. */
export function exposureOf(shot: ExposedShot, rules: ExposureRules): number | string {
  const { take, facts } = shot;
  const shutter = shutterOf(shot);
  const iso = take.exposure.iso ?? facts.exposure.iso;
  const fNumber = take.exposure.fNumber ?? facts.exposure.fNumber;
  const missing = [
    ...(shutter ? [] : ['shutter']),
    ...(iso === undefined ? ['ISO'] : []),
    ...(rules.aperture && fNumber === undefined ? ['aperture'] : []),
  ];
  if (!shutter || iso === undefined || missing.length > 0) return missingExposure(missing);
  const shutterSeconds = rules.marks === 'nominal' ? snapShutterMark(shutter) : shutter;
  return exposureLog2({ shutterSeconds, iso, fNumber: rules.aperture ? fNumber : undefined }) - markDoubt(shot, rules);
}

/**
 * Half of what a mark's two meanings lie apart, in stops: the written time less the series' exact one. 0 where the meaning is known. Two
 * pictures' ratio is in doubt by the difference of theirs: 1/1000 and 1/60 s by 0.03, 1/1000 and 1/125 s by nothing.
 */
export function markDoubt(shot: ExposedShot, { marks }: ExposureRules): number {
  const shutter = shutterOf(shot);
  return marks === 'unknown' && shutter ? Math.log2(shutter / snapShutterMark(shutter)) / 2 : 0;
}

/** Marks are rounded: 1/60 s stands for 1/64, f/5.6 for 5.657. What session and file tell may differ by this, in stops. */
const MARKS_APART = 0.15;

/** What the file's own data contradict of the session's exposure, and by how many stops in all; `null` where they agree or are silent. */
export function contradiction(
  { take, facts }: ExposedShot,
  { rig }: Pick<Session, 'rig'>,
): { what: string[]; stops: number } | null {
  const said = {
    shutter: take.exposure.shutter === undefined ? null : parseShutter(take.exposure.shutter),
    iso: take.exposure.iso ?? null,
    fNumber: rig.aperture === 'fixed' ? null : (take.exposure.fNumber ?? null),
  };
  const own = facts.exposure;
  const apart = [
    { what: 'shutter', difference: log2Ratio(own.shutterSeconds, said.shutter) },
    { what: 'ISO', difference: log2Ratio(own.iso, said.iso) },
    { what: 'aperture', difference: -2 * log2Ratio(own.fNumber, said.fNumber) },
  ];
  const wrong = apart.filter(({ difference }) => Math.abs(difference) > MARKS_APART);
  if (wrong.length === 0) return null;
  return {
    what: wrong.map(({ what }) => what),
    stops: Math.abs(apart.reduce((sum, one) => sum + one.difference, 0)),
  };
}

function log2Ratio(own: number | undefined, said: number | null): number {
  return own !== undefined && own > 0 && said !== null && said > 0 ? Math.log2(own / said) : 0;
}

/**
 * Moments of pictures in milliseconds: the take's time, refined by the files' own times where a take has several; the
 * files' times where the session has none. Where a moment is known nowhere, the order of the takes stands in.
 */
export function timesOf(shots: readonly ExposedShot[]): number[] {
  const own = ({ facts }: ExposedShot) => (facts.capturedAt === null ? NaN : Date.parse(facts.capturedAt));
  const firstOf = new Map<string, number>();
  for (const shot of shots) if (!firstOf.has(shot.take.id)) firstOf.set(shot.take.id, own(shot));
  const times = shots.map((shot) => {
    if (shot.take.capturedAt === undefined) return own(shot);
    if (typeof shot.seconds === 'number') return Date.parse(shot.take.capturedAt) + shot.seconds * 1000;
    const since = own(shot) - firstOf.get(shot.take.id)!;
    return Date.parse(shot.take.capturedAt) + (Number.isFinite(since) ? since : 0);
  });
  if (times.every(Number.isFinite)) return times;
  const order = [...new Set(shots.map((shot) => shot.take.id))];
  return shots.map((shot) => order.indexOf(shot.take.id) * 60000 + (shot.seconds ?? 0) * 1000);
}
