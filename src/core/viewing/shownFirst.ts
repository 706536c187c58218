/** Frames that a verdict shows of each filter before anybody has touched it: what is measured makes them, so that nobody waits. */
import { patchesOfScene } from '../session/parse';
import type { MotionReadings, OrdinaryReadings, Readings } from '../session/readings';
import type { Rect, Session } from '../session/schema';

/** A part of a picture or of a clip's frame, in fractions. */
export interface FirstFrame {
  kind: 'frame';
  file: string;
  part: Rect;
}

/** A clip's frame at a moment, as it was shot. */
export interface FirstMoment {
  kind: 'moment';
  file: string;
  seconds: number;
}

/** The part of the frame that an ordinary scene's pairs are shown in. */
export function partOfPairs({ scene, patch }: Pick<OrdinaryReadings, 'scene' | 'patch'>, session: Session): Rect {
  const { x, y, width, height } = patchesOfScene(session, scene).find(({ id }) => id === patch)?.rect ?? WHOLE;
  return { x, y, width, height };
}
const WHOLE: Rect = { x: 0, y: 0, width: 1, height: 1 };

/** A clip's first moment that is told of, seconds. */
export const firstMoment = (clip?: Pick<MotionReadings, 'path' | 'waves'>): number =>
  clip?.waves[0]?.[0] ?? clip?.path[0]?.[0] ?? 0;

/** A moment as it is asked for: hundredths of a second. */
export const momentAsked = (seconds: number): string => seconds.toFixed(2);

/** All of it, filter by filter, each once. */
export function shownFirst(session: Session, readings: Pick<Readings, 'filters'>): (FirstFrame | FirstMoment)[] {
  const fileOf = (take?: string) => session.takes.find(({ id }) => id === take)?.files[0];
  const found = readings.filters.flatMap(({ ordinary = [], motion }): (FirstFrame | FirstMoment)[] => {
    const pairs = ordinary.flatMap((one) => {
      const part = partOfPairs(one, session);
      return one.pairs.slice(0, 1).flatMap(({ file, bareFile }) => [file, bareFile].map((name) => ({ kind: 'frame' as const, file: name, part }))); // prettier-ignore
    });
    const clips = motion ? [motion.bare, motion] : [];
    const moments = clips.flatMap((clip) => {
      const file = fileOf(clip?.take);
      return file ? [{ kind: 'moment' as const, file, seconds: Number(momentAsked(firstMoment(clip))) }] : [];
    });
    return [...pairs, ...moments];
  });
  return [...new Map(found.map((one) => [JSON.stringify(one), one])).values()];
}
