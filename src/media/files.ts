/** Any media file as pictures: stills and raws by themselves, clips by their frames. */
import { readWindows, type FrameOfClip, type OpenPicture, type PictureSource } from '@/core/reading/source';
import type { Picture } from '@/core/reading/window';
import type { ClipLook, Look } from '@/core/sitting/intake/look';
import { frameOf, framesOfClip, inspectClip, isClip, openFrame } from './clips/frames';
import { motionFrames } from './clips/motionFrames';
import { probeClip } from './clips/probe';
import { inspectRaw, isRaw, openRaw } from './raw';
import { inspectStill, openStill, readStillAgain, type Inspected } from './stills';
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

/** Opens any file, upright; of a clip the frame in its middle, or the one that the name asks for. Rejects with UnreadablePicture. */
export async function openMedia(path: string, name: string, signal?: AbortSignal): Promise<OpenPicture> {
  const frame = frameOf(name);
  if (frame) return openFrame(path, name, frame.moments, { signal });
  if (isRaw(name)) return openRaw(path, name, signal);
  if (!isClip(name)) return openStill(path, name, signal);
  const frames = await framesOfClip(path, name);
  const middle = frames[frames.length >> 1];
  return openFrame(path, middle.file, frameOf(middle.file)!.moments, { signal });
}

/** Where the file behind a name lies; throws UnreadablePicture. */
export type Locate = (file: string) => string | Promise<string>;

/** The reading part of a source: names of files, and of frames as `clip#t=seconds,seconds`. */
export function mediaReader(
  locate: Locate,
  threads: PictureThreads | null,
): Pick<PictureSource, 'open' | 'readAgain' | 'frames' | 'motion'> {
  // Of a frame the clip is what lies on the disk.
  const pathOf = async (file: string) => locate(frameOf(file)?.clip ?? file);
  return {
    async open(file, signal): Promise<OpenPicture> {
      const path = await pathOf(file);
      // A raw still is decoded by a process of its own already.
      return threads && !isRaw(file) ? threads.open(path, file, signal) : openMedia(path, file, signal);
    },
    async readAgain(file, rects, signal): Promise<Picture[]> {
      const path = await pathOf(file);
      if (!frameOf(file) && !isRaw(file)) return readStillAgain(path, file, rects);
      return (await readWindows(openMedia(path, file, signal), () => rects)).windows;
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
  };
}
