/** Sentences on how a clip moved: smear, stutter, shake. A filter changes these only through the shutter. */
import type { Reading } from '../session/readings';

export interface MotionFound {
  jitterPx?: Reading;
  blurPx?: Reading;
  jumpPx?: Reading;
  /** Degrees: by the exposures that are told, and by the smear of the frames. */
  shutterAngle?: number;
  seenAngle?: Reading;
  /** How much its jitter varies from part to part, pixels; Infinity where it is too short to tell. */
  spreadPx: number;
  /** Frames, and those that couldn't be laid on the one before. */
  frames: number;
  lost: number;
}

/** What jumps further than this, pixels, at a smaller shutter angle than this is seen to stutter. Our own judgement. */
const STUTTER_PX = 4;
const STUTTER_DEGREES = 90;

/** Told and seen shutter angles may differ by this share: motion isn't that even. */
const TOLD_SHARE = 0.15;

/** What a filter's clip shows of movement, beside the bare clip of the same scene. */
export function motionInWords(own: MotionFound, bare: MotionFound | null): string[] {
  const sentences: string[] = [];
  if (own.seenAngle && own.shutterAngle === undefined)
    sentences.push(
      `No exposure was told; its frames are smeared as by a shutter of ${own.seenAngle.value.toFixed(0)}° ± ${own.seenAngle.u95.toFixed(0)}°.`,
    );
  if (own.blurPx && own.shutterAngle !== undefined) {
    const angle = (one: MotionFound) => `${one.shutterAngle!.toFixed(0)}°`;
    const other =
      bare?.blurPx && bare.shutterAngle !== undefined
        ? ` Bare it drew ${bare.blurPx.value.toFixed(1)} px at ${angle(bare)}.`
        : '';
    sentences.push(
      `A point draws ${own.blurPx.value.toFixed(1)} px while the shutter is open, at a shutter angle of ${angle(own)}; 180° is what eyes are used to.${other}`,
    );
    const stutters = own.jumpPx && own.jumpPx.value > STUTTER_PX && own.shutterAngle < STUTTER_DEGREES;
    if (stutters)
      sentences.push(
        `It jumps ${own.jumpPx!.value.toFixed(1)} px from frame to frame and is smeared over ${((100 * own.shutterAngle) / 360).toFixed(0)} % of that alone: it will be seen to stutter.`,
      );
  }
  if (own.seenAngle && own.shutterAngle !== undefined) {
    const { value, u95 } = own.seenAngle;
    const apart = Math.abs(value - own.shutterAngle) > Math.max(u95, TOLD_SHARE * own.shutterAngle);
    sentences.push(
      `Its frames are smeared as by a shutter of ${value.toFixed(0)}° ± ${u95.toFixed(0)}°, ${apart ? `and not of the ${own.shutterAngle.toFixed(0)}° that was told: the log, the frame rate or a stabiliser is worth a look` : 'as was told'}.`,
    );
  }
  if (own.jitterPx && bare?.jitterPx) {
    const apart = own.jitterPx.value - bare.jitterPx.value;
    const spread = Math.hypot(own.spreadPx, bare.spreadPx);
    const limit = Math.hypot(own.jitterPx.u95, bare.jitterPx.u95, Number.isFinite(spread) ? spread : 0);
    sentences.push(
      Math.abs(apart) <= limit
        ? `It shakes as much as bare did: the difference of ${Math.abs(apart).toFixed(2)} px is no more than the clips themselves vary.`
        : `It shakes ${Math.abs(apart).toFixed(2)} px ${apart > 0 ? 'more' : 'less'} than bare did: wind and hand, since a filter changes nothing of the camera’s path.`,
    );
  }
  if (own.lost > 0)
    sentences.push(
      `${own.lost} of ${own.frames} frames could not be laid on the one before: a cut, or nothing to hold on to.`,
    );
  return sentences;
}
