/** Whether a take still shows the bare view, and where a patch lies in it. */
import type { Rect } from '../session/schema';
import { applyPose, type Alignment, type Pose } from './align';

export interface FrameSize {
  width: number;
  height: number;
}

/** The camera may move this much between takes: share of the frame's width, and degrees. */
export const MOST_SHIFT = 0.02;
export const MOST_ROTATION_DEGREES = 1;
const LEAST_CORRELATION = 0.35;
/** Displacements below this are not worth moving a patch for; the registration's own error is of that order. */
const LEAST_PX = 0.3;

/** How a take's view lies on the bare one: as it was, moved a little, another view, or nothing that could be laid on it. */
export type ViewState =
  { kind: 'same' } | { kind: 'moved'; pose: Pose } | { kind: 'other'; words: string } | { kind: 'lost'; words: string };

export function judgeView(alignment: Alignment, frame: FrameSize): ViewState {
  const { pose, correlation, hasStructure, isBlank } = alignment;
  // An even surface can't tell whether the camera moved, nor does it matter there.
  if (!hasStructure) return { kind: 'same' };
  if (correlation < LEAST_CORRELATION && isBlank)
    return {
      kind: 'lost',
      words: 'it shows nothing that could be laid on the bare picture: too dark, covered or blank',
    };
  if (correlation < LEAST_CORRELATION) return { kind: 'other', words: 'it does not show the view of the bare picture' };
  const shift = Math.hypot(pose.dx, pose.dy);
  const degrees = Math.abs((pose.b * 180) / Math.PI);
  if (shift > MOST_SHIFT * frame.width || degrees > MOST_ROTATION_DEGREES)
    return {
      kind: 'other',
      words: `the view moved by ${((100 * shift) / frame.width).toFixed(1)} % of the frame and ${degrees.toFixed(1)}°`,
    };
  const atCorner = Math.hypot(frame.width, frame.height) / 2;
  const largest = shift + Math.hypot(pose.a, pose.b) * atCorner;
  return largest < LEAST_PX ? { kind: 'same' } : { kind: 'moved', pose };
}

/** A patch of the bare frame in the frame of a take that moved: its center carried over, its size kept. */
export function carryRect(rect: Rect, pose: Pose, frame: FrameSize): Rect {
  const x = (rect.x + rect.width / 2 - 0.5) * frame.width;
  const y = (rect.y + rect.height / 2 - 0.5) * frame.height;
  const [tx, ty] = applyPose(pose, x, y);
  const inside = (start: number, length: number) => Math.min(1 - length, Math.max(0, start));
  return {
    ...rect,
    x: inside(rect.x + (tx - x) / frame.width, rect.width),
    y: inside(rect.y + (ty - y) / frame.height, rect.height),
  };
}
