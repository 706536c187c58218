/** How the camera moved in clips, with and without a filter. A filter changes it only through the shutter: the page says so. */
import { parseShutter, snapShutterMark } from '../../formulas/optics/exposure';
import type { Memory } from '../../reading/memory';
import { motionBetween, pyramidOfFrame, type GrayFrame } from './flow';
import { motionOf, type ClipMotion, type MotionStep } from './path';
import { median } from '../../formulas/statistics/median';
import type { FilterReadings, MotionReadings, Reading } from '../../session/readings';
import type { Session, Take } from '../../session/schema';
import { type PictureSource } from '../../reading/source';
import { UnreadablePicture } from '../../reading/facts';
import { cueAt, parseSubRip, type Cue } from '../../session/subrip';
import { angleSeen } from './openShutter';

export interface TakeMotion {
  take: Take;
  motion: ClipMotion;
}

/** What jumps further than this, pixels, at a smaller shutter angle than this is seen to stutter. Our own judgement. */
const STUTTER_PX = 4;
const STUTTER_DEGREES = 90;

/** Told and seen shutter angles may differ by this share: motion isn't that even. */
const TOLD_SHARE = 0.15;

/** Changes when what frames tell of motion changes. */
const MOTION = 2;
/** Changes when what frames tell of the shutter changes. */
const SHUTTER = 1;
/** Clips must be at least so long, seconds; a bench's short ones tell no motion. */
const LEAST_SECONDS = 2;

/** Motion of the first clip of each scene and filter, and of bare. What can't be read is told elsewhere. */
export async function measureMotion(
  session: Session,
  source: PictureSource,
  { filter, signal, memory }: { filter?: string; signal?: AbortSignal; memory?: Memory },
): Promise<TakeMotion[]> {
  if (!source.motion) return [];
  const found: TakeMotion[] = [];
  const seen = new Set<string>();
  for (const take of session.takes) {
    const key = `${take.scene} ${take.filter}`;
    const wanted = take.role === 'measure' && !take.turn && (!filter || take.filter === null || take.filter === filter);
    if (!wanted || seen.has(key)) continue;
    signal?.throwIfAborted();
    const motion = await motionOfTake(take, session, source, { signal, memory });
    if (!motion) continue;
    seen.add(key);
    found.push({ take, motion });
  }
  return found;
}

async function motionOfTake(
  take: Take,
  session: Session,
  source: PictureSource,
  { signal, memory }: { signal?: AbortSignal; memory?: Memory },
): Promise<ClipMotion | null> {
  const [file] = take.files;
  if (file === undefined) return null;
  const id = source.identify?.(file) ?? null;
  const name = `motion/${MOTION}/${id}/${take.span ? `${take.span.from}-${take.span.to}` : 'whole'}`;
  let moved = id === null ? undefined : ((await memory?.recall(name)) as Moved | undefined);
  if (!moved) {
    const found = await movedIn(file, take.span, source, signal);
    if (!found) return null;
    moved = found;
    if (id !== null) await memory?.keep(name, moved);
  }
  const { steps, scale } = moved;
  const seenAngle = await seenIn(file, id, take, moved, session, source, { signal, memory });
  const cues = await cuesOf(take, source);
  const exact = (seconds: number) => (session.rig.shutterMarks === 'nominal' ? snapShutterMark(seconds) : seconds);
  const said = take.exposure.shutter === undefined ? null : parseShutter(take.exposure.shutter);
  const found = motionOf(steps, scale, (seconds) => {
    const shutter = said ?? cueAt(cues, seconds)?.exposure.shutterSeconds;
    return shutter ? exact(shutter) : null;
  });
  if (!seenAngle) return found;
  if (found.blurPx) return { ...found, seenAngle };
  // Where nobody tells an exposure the blur itself says how long the shutter was open.
  const interval = median(steps.slice(1).map(({ seconds }, i) => seconds - steps[i].seconds));
  const { blurPx } = motionOf(steps, scale, () => (seenAngle.value / 360) * interval);
  return { ...found, seenAngle, ...(blurPx && { blurPx }) };
}

/** Shutter angle by the clip's own blur, remembered; `null` where it tells none. */
async function seenIn(
  file: string,
  id: string | null,
  { span }: Take,
  moved: Moved,
  session: Session,
  source: PictureSource,
  { signal, memory }: { signal?: AbortSignal; memory?: Memory },
): Promise<Reading | null> {
  const where = span ? `${span.from}-${span.to}` : 'whole';
  const name = `shutter/${SHUTTER}/${id}/${where}/${JSON.stringify(session.rig.response)}`;
  const known = id === null ? undefined : ((await memory?.recall(name)) as { angle: Reading | null } | undefined);
  if (known) return known.angle;
  const angle = await angleSeen(file, moved, session, source, signal);
  if (id !== null) await memory?.keep(name, { angle });
  return angle;
}

/** How a clip's view goes from frame to frame, and the pixels of the whole frame that one of the small frames' stands for. */
interface Moved {
  steps: MotionStep[];
  scale: number;
  /** The whole frame's. */
  width: number;
}

async function movedIn(
  file: string,
  span: Take['span'],
  source: PictureSource,
  signal?: AbortSignal,
): Promise<Moved | null> {
  const frames = await source.motion!(file, span, LEAST_SECONDS, signal).catch(quiet);
  if (!frames) return null;
  const steps: MotionStep[] = [];
  let before: GrayFrame[] | null = null;
  let [scale, width] = [1, 0];
  try {
    for await (const { seconds, frame, pixel, ownDetail } of frames) {
      signal?.throwIfAborted();
      const pyramid = pyramidOfFrame(frame);
      if (before) steps.push({ seconds, motion: motionBetween(before, pyramid), ownDetail });
      before = pyramid;
      [scale, width] = [pixel, pixel * frame.width];
      // Others want their turn: a heartbeat, a stop.
      await new Promise((resolve) => setTimeout(resolve, 0));
    }
  } catch (error) {
    return quiet(error);
  }
  return { steps, scale, width };
}

function quiet(error: unknown): null {
  if (error instanceof UnreadablePicture) return null;
  throw error;
}

async function cuesOf(take: Take, source: PictureSource): Promise<Cue[]> {
  if (take.telemetry === undefined) return [];
  return source
    .readText(take.telemetry)
    .then(parseSubRip)
    .catch(() => []);
}

/** Adds what was found of a filter's clip, beside bare's of the same scene. */
export function addMotion(result: FilterReadings, motions: readonly TakeMotion[]): void {
  const own = motions.find(({ take }) => take.filter === result.filter);
  if (!own) return;
  const bare = motions.find(({ take }) => take.filter === null && take.scene === own.take.scene);
  const { motion, take } = own;
  if (!motion.jitterPx && !motion.wobblePx && !motion.blurPx) return;
  result.motion = {
    ...figuresOf(motion),
    scene: take.scene,
    take: take.id,
    path: motion.path,
    waves: motion.waves,
    ...(bare
      ? { bare: { ...figuresOf(bare.motion), take: bare.take.id, path: bare.motion.path, waves: bare.motion.waves } }
      : {}),
    sentences: sentencesOf(motion, bare?.motion ?? null),
  };
}

function figuresOf({
  jitterPx,
  wobblePx,
  blurPx,
  jumpPx,
  shutterAngle,
  seenAngle,
}: ClipMotion): Partial<MotionReadings> {
  return {
    ...(jitterPx && { jitterPx }),
    ...(wobblePx && { wobblePx }),
    ...(blurPx && { blurPx }),
    ...(jumpPx && { jumpPx }),
    ...(shutterAngle !== undefined && { shutterAngle }),
    ...(seenAngle && { seenAngle }),
  };
}

/** How much a clip's own jitter varies from part to part, pixels. */
function spreadOf({ path }: ClipMotion): number {
  const parts = 4;
  const size = Math.floor(path.length / parts);
  if (size < 5) return Infinity;
  const each = Array.from({ length: parts }, (_, i) => {
    const part = path.slice(i * size, (i + 1) * size);
    return Math.sqrt(part.reduce((sum, [, x, y]) => sum + x * x + y * y, 0) / part.length);
  });
  const mean = each.reduce((a, b) => a + b, 0) / parts;
  return Math.sqrt(each.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (parts - 1));
}

function sentencesOf(own: ClipMotion, bare: ClipMotion | null): string[] {
  const sentences: string[] = [];
  if (own.seenAngle && own.shutterAngle === undefined)
    sentences.push(
      `No exposure was told; its frames are smeared as by a shutter of ${own.seenAngle.value.toFixed(0)}° ± ${own.seenAngle.u95.toFixed(0)}°.`,
    );
  if (own.blurPx && own.shutterAngle !== undefined) {
    const angle = (one: ClipMotion) => `${one.shutterAngle!.toFixed(0)}°`;
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
    const spread = Math.hypot(spreadOf(own), spreadOf(bare));
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
