/** What a camera's check promises, as a figure and as a sentence. */
import type { CameraCheck } from '../session/cameraCheck';

/** A difference counts as told where its u95 is at most this, stops. */
const TOLD = 0.05;

/** The most stops that are told well, and how well; the least difference where none is. */
export function promiseOf({ tells }: Pick<CameraCheck, 'tells'>): { stops: number; u95: number } | null {
  const good = tells.filter(({ u95 }) => u95 <= TOLD);
  return good.at(-1) ?? tells[0] ?? null;
}

/** The same as a sentence without its full stop. */
export function promiseInWords(check: Pick<CameraCheck, 'tells'>): string {
  const promise = promiseOf(check);
  if (!promise) return 'Tells less than a stop';
  const { stops, u95 } = promise;
  // Rounded up, so that it never looks better than it is.
  return `Tells stops to ±${(Math.ceil(1000 * u95) / 1000).toFixed(3)} over ${stops} ${stops === 1 ? 'stop' : 'stops'}`;
}
