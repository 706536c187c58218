/** Any media file as pictures: stills and raws by themselves, clips by their frames. */
import { reduceHere, type PlanReading, type ReducedPicture } from '@/core/reading/readReduced';
import type { ClipLook, Look } from '@/core/sitting/intake/look';
import type { Picture, PixelRect } from '@/core/reading/window';
import type { ChooseWindows, FrameOfClip, PictureSource, ReadWindows } from '@/core/reading/source';
import { frameOf, framesOfClip, inspectClip, isClip, readFrame } from './clips/frames';
import { motionFrames } from './clips/motionFrames';
import { probeClip } from './clips/probe';
import { inspectRaw, isRaw, readRaw } from './raw';
import { inspectStill, readStill, readStillAgain, type Inspected } from './stills';
import type { PictureThreads } from './threads';

/** Facts and look of a file that was read to its end; `show` gets a clip's moments. Throws UnreadablePicture. */
export async function inspectMedia(
  path: string,
  name: string,
  show?: (picture: Picture) => void | Promise<void>,
): Promise<Inspected<Look | ClipLook>> {
  if (isClip(name)) return inspectClip(path, name, show);
  return isRaw(name) ? inspectRaw(path, name) : inspectStill(path, name);
}

/** Facts and windows of any file, upright; of a clip the frame in its middle, or the one that the name asks for. */
export async function readMedia(path: string, name: string, choose: ChooseWindows): Promise<ReadWindows> {
  const frame = frameOf(name);
  if (frame) return readFrame(path, name, frame.moments, choose);
  if (isRaw(name)) return readRaw(path, name, choose);
  if (!isClip(name)) return readStill(path, name, choose);
  const frames = await framesOfClip(path, name);
  const middle = frames[frames.length >> 1];
  return readFrame(path, middle.file, frameOf(middle.file)!.moments, choose);
}

/** Where the file behind a name lies; throws UnreadablePicture. */
export type Locate = (file: string) => string | Promise<string>;

/** The reading part of a source: names of files, and of frames as `clip#t=seconds,seconds`. */
export function mediaReader(
  locate: Locate,
  threads: PictureThreads | null,
): Pick<PictureSource, 'read' | 'readAgain' | 'readReduced' | 'frames' | 'motion'> {
  async function read(file: string, choose: ChooseWindows, signal?: AbortSignal): Promise<ReadWindows> {
    const frame = frameOf(file);
    if (frame) return readFrame(await locate(frame.clip), file, frame.moments, choose, { signal });
    if (isRaw(file)) return readRaw(await locate(file), file, choose, signal);
    return readStill(await locate(file), file, choose);
  }
  return {
    read,
    async readAgain(file, rects, signal): Promise<Picture[]> {
      if (frameOf(file) || isRaw(file)) return (await read(file, () => [...rects], signal)).windows;
      return readStillAgain(await locate(file), file, rects as PixelRect[]);
    },
    async frames(file, span, count): Promise<FrameOfClip[] | null> {
      return isClip(file) ? framesOfClip(await locate(file), file, span, count) : null;
    },
    async motion(file, span, least, signal) {
      if (!isClip(file)) return null;
      const path = await locate(file);
      const { seconds } = await probeClip(path, file);
      const length = Math.min(seconds, span?.to ?? seconds) - Math.max(0, span?.from ?? 0);
      return length >= least ? motionFrames(path, file, span, signal) : null;
    },
    ...(threads && {
      async readReduced(file: string, plan: PlanReading, signal?: AbortSignal): Promise<ReducedPicture> {
        // A raw still is decoded by a process of its own already.
        if (isRaw(file)) return reduceHere({ read }, file, plan, signal);
        return threads.readReduced(await locate(frameOf(file)?.clip ?? file), file, plan, signal);
      },
    }),
  };
}
