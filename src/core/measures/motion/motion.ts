/** How the camera moved in clips, with and without a filter. A filter changes it only through the shutter: the page says so. */
import { parseShutter, snapShutterMark } from '../../formulas/optics/exposure';
import type { Memory } from '../../reading/memory';
import { motionBetween, pyramidOfFrame, type GrayFrame } from './flow';
import { motionOf, type ClipMotion, type MotionStep } from './path';
import { median } from '../../formulas/statistics/averages';
import type { MotionReadings, Reading } from '../../session/readings';
import { motionInWords } from '../../words/motion';
import type { Session, Take } from '../../session/schema';
import { type PictureSource } from '../../reading/source';
import { UnreadablePicture } from '../../reading/facts';
import { cueAt, parseSubRip, type Cue } from '../../session/subrip';
import { angleSeen } from './openShutter';

export interface TakeMotion {
  take: Take;
  motion: ClipMotion;
}

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

/** What was found of a filter's clip, beside bare's of the same scene; `null` where there is none. */
export function estimateMotion(filter: string, motions: readonly TakeMotion[]): MotionReadings | null {
  const own = motions.find(({ take }) => take.filter === filter);
  if (!own) return null;
  const bare = motions.find(({ take }) => take.filter === null && take.scene === own.take.scene);
  const { motion, take } = own;
  if (!motion.jitterPx && !motion.wobblePx && !motion.blurPx) return null;
  return {
    ...figuresOf(motion),
    scene: take.scene,
    take: take.id,
    path: motion.path,
    waves: motion.waves,
    ...(bare
      ? { bare: { ...figuresOf(bare.motion), take: bare.take.id, path: bare.motion.path, waves: bare.motion.waves } }
      : {}),
    sentences: motionInWords(
      { ...motion, spreadPx: spreadOf(motion) },
      bare ? { ...bare.motion, spreadPx: spreadOf(bare.motion) } : null,
    ),
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
