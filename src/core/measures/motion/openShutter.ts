/** The shutter angle that a clip's own blur tells: which frames are looked at for it, and how they are read. */
import { forEachConcurrently, PICTURES_AT_A_TIME } from '../../reading/concurrently';
import { linearTable } from '../../formulas/transfer/transfer';
import { resolveResponse, responseAtHand } from '../../light/response';
import { LEAST_GROUPS, openShare, type SmearFrame } from './smear';
import { longestRun, pathOf, type MotionStep } from './path';
import type { Reading } from '../../session/readings';
import type { Session } from '../../session/schema';
import { readWindows, type PictureSource } from '../../reading/source';
import { UnreadablePicture } from '../../reading/facts';

/** Frames of a group, and how far they lie apart, frames. */
const FRAMES = 5;
const STRIDES = [1, 2, 4];
const MOST_GROUPS = 5;
/** Squared ways from frame to frame must differ by so much within a group, pixels²: else smear changes too little to be seen. */
const LEAST_SPREAD = 0.8;
/** Frames of a group may have moved apart by this share of the width. */
const FARTHEST = 0.12;
/** Part of the frame that is looked at, own pixels. */
const PART = { width: 1024, height: 640 };
/** An angle that is less sure than this (95 %) isn't given: degrees, or a share of it. */
const UNSURE = { degrees: 12, share: 0.25 };

type Point = readonly [number, number];

/** Catmull–Rom through the frames' places. */
function between(points: readonly Point[], at: number): Point {
  const k = Math.min(points.length - 3, Math.max(1, Math.floor(at)));
  const s = at - k;
  const weights = [
    (-s + 2 * s ** 2 - s ** 3) / 2,
    (2 - 5 * s ** 2 + 3 * s ** 3) / 2,
    (s + 4 * s ** 2 - 3 * s ** 3) / 2,
    (s ** 3 - s ** 2) / 2,
  ];
  const mix = (axis: 0 | 1) => weights.reduce((sum, weight, i) => sum + weight * points[k - 1 + i][axis], 0);
  return [mix(0), mix(1)];
}

/**
 * Groups of frames that moved most differently, as indices into the places; the best first, none sharing a frame.
 *
 * @param points places of the view by frame, pixels
 * @param usable which frames may be looked at
 */
export function groupsOf(points: readonly Point[], width: number, usable: (index: number) => boolean): number[][] {
  const found: { frames: number[]; spread: number }[] = [];
  const inside = points.map((_, i) => i).filter((i) => i >= 2 && i < points.length - 2 && usable(i));
  for (const stride of STRIDES)
    for (let first = 0; first + stride * (FRAMES - 1) < inside.length; first += stride) {
      const frames = Array.from({ length: FRAMES }, (_, i) => inside[first + i * stride]);
      const [x0, y0] = points[frames[0]];
      const far = Math.max(...frames.map((i) => Math.hypot(points[i][0] - x0, points[i][1] - y0)));
      if (far > FARTHEST * width) continue;
      const tensors = frames.map((i) => {
        const [x, y] = [0, 1].map((axis) => (points[i + 1][axis] - points[i - 1][axis]) / 2);
        return [x * x, y * y, Math.SQRT2 * x * y];
      });
      let spread = 0;
      for (const a of tensors)
        for (const b of tensors) spread = Math.max(spread, Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]));
      if (spread >= LEAST_SPREAD) found.push({ frames, spread });
    }
  const used = new Set<number>();
  return found
    .sort((a, b) => b.spread - a.spread)
    .filter(({ frames }) => {
      if (frames.some((one) => used.has(one))) return false;
      for (const one of frames) used.add(one);
      return true;
    })
    .slice(0, MOST_GROUPS)
    .map(({ frames }) => frames);
}

/**
 * Shutter angle by the blur of a clip's frames, degrees; `null` where it moves too little or too evenly, isn't textured enough, or
 * has too few frames whose fine detail is their own.
 *
 * @param moved with `scale`, pixels of the whole frame that one of the steps' stands for, and the whole frame's `width`
 */
export async function angleSeen(
  file: string,
  { steps, scale, width }: { steps: readonly MotionStep[]; scale: number; width: number },
  session: Session,
  source: PictureSource,
  signal?: AbortSignal,
): Promise<Reading | null> {
  const run = longestRun(steps);
  const path = pathOf(run, scale);
  const points = path.map(({ x, y }): Point => [x, y]);
  const chosen = groupsOf(points, width, (index) => run[index].ownDetail === true);
  if (chosen.length < LEAST_GROUPS) return null;
  const groups: SmearFrame[][] = [];
  try {
    for (const frames of chosen) {
      signal?.throwIfAborted();
      const group: SmearFrame[] = [];
      // Frames of 4K: two decoders at a time hold enough.
      await forEachConcurrently([...frames.keys()], PICTURES_AT_A_TIME, async (i) => {
        const index = frames[i];
        const name = `${file}#t=${path[index].seconds.toFixed(4)}`;
        const way = (share: number): Point => {
          const [x, y] = between(points, index + share);
          return [x - points[index][0], y - points[index][1]];
        };
        group[i] = { frame: await lightAt(name, session, source, signal), way };
      });
      groups.push(group);
    }
  } catch (error) {
    if (error instanceof UnreadablePicture) return null;
    throw error;
  }
  const share = openShare(groups);
  if (!share) return null;
  const angle = { value: 360 * share.value, u95: 360 * share.u95 };
  return angle.u95 <= Math.max(UNSURE.degrees, UNSURE.share * angle.value) ? angle : null;
}

/** Light of a frame's middle by its luma, at own pixels. */
async function lightAt(name: string, session: Session, source: PictureSource, signal?: AbortSignal) {
  const { response } = session.rig;
  const curve = response.kind === 'curve' && response.file ? await source.readText(response.file).catch(() => '') : '';
  const { facts, windows } = await readWindows(source.open(name, signal), ({ width, height }) => {
    const [w, h] = [Math.min(width, PART.width), Math.min(height, PART.height)];
    return [{ x: (width - w) >> 1, y: (height - h) >> 1, width: w, height: h, luma: true }];
  });
  const { decode } = resolveResponse(responseAtHand(response, facts.encoding), facts.encoding, () => curve);
  const [{ data, channels, bitDepth, width, height }] = windows;
  const table = linearTable(decode[1] ?? decode[0], bitDepth);
  const green = channels === 3 ? 1 : 0;
  const light = Float32Array.from({ length: width * height }, (_, i) => table[data[i * channels + green]]);
  return { width, height, data: light };
}
