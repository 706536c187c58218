/** Clips in step: which moment of each is shown. */
import { momentInStep } from '@/core/viewing/route';
import type { Film } from '@/server/compare';
import type { FilmFrame } from './films';
import type { Shown } from './shown';

export interface Playback {
  /** Seconds of bare's clip (without one, from each clip's start on); `null` shows what was measured around the middle. */
  moment: number | null;
  /** While it moves small frames are shown, at rest the clips' own pixels. */
  moving: boolean;
  /** Moments by where the camera was, where telemetry tells it. */
  byRoute: boolean;
  /** Seconds that a clip is shifted by hand, by its hash. */
  shifts: Readonly<Record<string, number>>;
  frame: (sha256: string, seconds: number, length: number) => FilmFrame | null;
}

export const AT_REST: Playback = { moment: null, moving: false, byRoute: true, shifts: {}, frame: () => null };

/** Seconds of a picture's own clip, inside of it; `null` for a still, and where no moment is chosen. */
export function momentOf({ picture, bare }: Shown, { moment, byRoute, shifts }: Playback): number | null {
  const { film } = picture;
  if (!film || moment === null) return null;
  const isBare = bare?.sha256 === picture.sha256;
  const sameTime = isBare ? moment : moment - (bare?.film?.from ?? 0) + film.from;
  const own = film.steps && byRoute && !isBare ? momentInStep(film.steps, moment).other : sameTime;
  const last = Math.max(0, film.seconds - 1 / film.framesPerSecond);
  return Math.min(last, Math.max(0, own + (shifts[picture.sha256] ?? 0)));
}

/** The span that the time line runs over: bare's clip, or the longest one from its start on. `null` where nothing moves. */
export function spanOf(shown: readonly Shown[]): { from: number; to: number; framesPerSecond: number } | null {
  const bare = shown.find((one) => one.bare?.film)?.bare?.film;
  if (bare) return bare;
  const films = shown.flatMap(({ picture }) => picture.film ?? []);
  if (films.length === 0) return null;
  const length = ({ from, to }: Film) => to - from;
  const longest = films.reduce((a, b) => (length(b) > length(a) ? b : a));
  return { from: 0, to: length(longest), framesPerSecond: longest.framesPerSecond };
}

/** How far apart the cameras were at a moment, meters; `null` where telemetry doesn't say. */
export function apartAt({ picture }: Shown, { moment, byRoute }: Playback): number | null {
  const steps = picture.film?.steps;
  return steps && byRoute && moment !== null ? momentInStep(steps, moment).apart : null;
}
