/** Jitter, rolling waves and blur of a clip (formats.md, Motion), from the motion of frame after frame. */
import type { Reading } from '../../session/readings';
import type { FrameMotion } from './flow';

export interface MotionStep {
  /** When the later frame is shown, seconds of the clip. */
  seconds: number;
  /** `null` where the two frames don't show the same. */
  motion: FrameMotion | null;
  /** Of the later frame, see `MotionFrame`; false when left out. */
  ownDetail?: boolean;
}

export interface ClipMotion {
  jitterPx?: Reading;
  wobblePx?: Reading;
  blurPx?: Reading;
  /** How far a point jumps from frame to frame, pixels: seen as stutter where it isn't smeared over half of the way. */
  jumpPx?: Reading;
  /** Shutter angle of the exposure that was told, degrees: 360 is open all the time from frame to frame. */
  shutterAngle?: number;
  /** Shutter angle that the smear of the frames tells, degrees; nobody need tell an exposure for it. */
  seenAngle?: Reading;
  /** [seconds, x, y]: the frame's center off its one-second mean, pixels. */
  path: [number, number, number][];
  /** [seconds, pixels]: the largest band's motion beyond the frame's. */
  waves: [number, number][];
  /** Frames that could not be laid on the one before. */
  lost: number;
  frames: number;
}

/** Half of the one-second mean. */
const HALF_WINDOW = 0.5;
/** A clip must last so long beyond the mean's own window, seconds. */
const LEAST_SECONDS = 1;
/** What registering two frames leaves uncertain, pixels of the small frame, and as a share: seen over simulated clips. */
const FLOOR_PX = 0.02;
const SHARE = 0.03;

/**
 * @param pixel pixels of the whole frame that one of the small frame stands for
 * @param exposureAt seconds that the shutter is open at a moment; `null` where nobody says
 */
export function motionOf(
  steps: readonly MotionStep[],
  pixel: number,
  exposureAt: (seconds: number) => number | null,
): ClipMotion {
  const lost = steps.filter((one) => one.motion === null).length;
  const found: ClipMotion = { path: [], waves: [], lost, frames: steps.length + 1 };
  const reading = (value: number): Reading => ({ value, u95: Math.hypot(2 * FLOOR_PX * pixel, SHARE * value) });

  // The longest stretch without a gap: across a gap the path is not known.
  const run = longestRun(steps);
  const centers = pathOf(run, pixel);
  const [start, end] = [centers[0]?.seconds ?? 0, centers.at(-1)?.seconds ?? 0];
  const off = centers.flatMap((center): [number, number, number][] => {
    if (center.seconds < start + HALF_WINDOW || center.seconds > end - HALF_WINDOW) return [];
    const window = centers.filter((one) => Math.abs(one.seconds - center.seconds) <= HALF_WINDOW + 1e-6);
    const mean = (of: 'x' | 'y') => window.reduce((sum, one) => sum + one[of], 0) / window.length;
    return [[center.seconds, center.x - mean('x'), center.y - mean('y')]];
  });
  if (end - start >= 2 * HALF_WINDOW + LEAST_SECONDS) {
    found.path = off;
    found.jitterPx = reading(rms(off.map(([, x, y]) => Math.hypot(x, y))));
  }

  const told = steps.flatMap(({ motion, seconds }) =>
    motion ? [{ seconds, bands: motion.bands.filter((band) => band !== null) }] : [],
  );
  const squares = told.flatMap(({ bands }) => bands.map(({ both }) => pixel ** 2 * both));
  if (told.length >= 10) {
    found.wobblePx = reading(Math.sqrt(Math.max(0, squares.reduce((sum, one) => sum + one, 0) / squares.length)));
    found.waves = told.map(({ seconds, bands }) => [
      seconds,
      pixel * Math.max(0, ...bands.map(({ dx, dy }) => Math.hypot(dx, dy))),
    ]);
  }

  const jumps = run.map(({ motion }) => pixel * Math.hypot(motion!.dx, motion!.dy));
  if (jumps.length >= 10) found.jumpPx = reading(jumps.reduce((sum, one) => sum + one, 0) / jumps.length);

  const blurs = run.slice(1).flatMap(({ seconds, motion }, i) => {
    const exposure = exposureAt(seconds);
    const before = run[i];
    if (exposure === null || !motion || !before.motion || i === 0) return [];
    const interval = seconds - before.seconds;
    // The speed at a frame is that of the motions to and from it.
    const length = (Math.hypot(motion.dx, motion.dy) + Math.hypot(before.motion.dx, before.motion.dy)) / 2;
    return interval > 0 ? [{ blur: (pixel * length * exposure) / interval, angle: (360 * exposure) / interval }] : [];
  });
  if (blurs.length >= 10) {
    found.blurPx = reading(blurs.reduce((sum, one) => sum + one.blur, 0) / blurs.length);
    found.shutterAngle = blurs.reduce((sum, one) => sum + one.angle, 0) / blurs.length;
  }
  return found;
}

const rms = (values: readonly number[]) =>
  values.length === 0 ? 0 : Math.sqrt(values.reduce((sum, one) => sum + one * one, 0) / values.length);

/** The longest stretch of steps without a gap. */
export function longestRun(steps: readonly MotionStep[]): MotionStep[] {
  let [best, now]: MotionStep[][] = [[], []];
  for (const step of steps) {
    now = step.motion ? [...now, step] : [];
    if (now.length > best.length) best = now;
  }
  return best;
}

/** Where the frame's center was carried to, in pixels of the whole frame. */
export function pathOf(run: readonly MotionStep[], pixel: number): { seconds: number; x: number; y: number }[] {
  let [x, y] = [0, 0];
  return run.map(({ seconds, motion }) => {
    x += pixel * motion!.dx;
    y += pixel * motion!.dy;
    return { seconds, x, y };
  });
}
