/** Exposures and moments of pictures: the session speaks before the file; what neither knows is named. */
import { exposureLog2, parseShutter, snapShutterMark } from '../exposure';
import type { Session, Take } from '../session';
import type { PictureFacts } from '../source';

export interface ExposedShot {
  take: Take;
  facts: PictureFacts;
}

/** Whether f-numbers count: always on a variable aperture, on a fixed one where every picture has one. */
export function apertureCounts(shots: readonly ExposedShot[], session: Session): boolean {
  const known = ({ take, facts }: ExposedShot) => (take.exposure.fNumber ?? facts.exposure.fNumber) !== undefined;
  return session.rig.aperture === 'variable' || shots.every(known);
}

/** log2 of t·ISO/N², or a phrase that says what is missing. */
export function exposureOf({ take, facts }: ExposedShot, session: Session, usesAperture: boolean): number | string {
  const shutter =
    take.exposure.shutter === undefined ? facts.exposure.shutterSeconds : parseShutter(take.exposure.shutter);
  const iso = take.exposure.iso ?? facts.exposure.iso;
  const fNumber = take.exposure.fNumber ?? facts.exposure.fNumber;
  const missing = [
    !shutter && 'shutter',
    iso === undefined && 'ISO',
    usesAperture && fNumber === undefined && 'aperture',
  ].filter(Boolean);
  if (!shutter || iso === undefined || missing.length > 0)
    return `${missing.join(' and ')} ${missing.length > 1 ? 'are' : 'is'} neither in the session nor in the file`;
  const shutterSeconds = session.rig.shutterMarks === 'nominal' ? snapShutterMark(shutter) : shutter;
  return exposureLog2({ shutterSeconds, iso, fNumber: usesAperture ? fNumber : undefined });
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
    const since = own(shot) - firstOf.get(shot.take.id)!;
    return Date.parse(shot.take.capturedAt) + (Number.isFinite(since) ? since : 0);
  });
  if (times.every(Number.isFinite)) return times;
  const order = [...new Set(shots.map((shot) => shot.take.id))];
  return shots.map((shot) => order.indexOf(shot.take.id) * 60000);
}
