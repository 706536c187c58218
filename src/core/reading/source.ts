/**
 * The port through which the core gets pictures. `media` implements it for files, the simulator for renderings.
 *
 * A picture is read in two passes: opening it tells its facts and shows a small view of it; by these it is decided which windows are
 * wanted, and they are read, or reduced where the pixels are.
 */
import type { Preview } from '../laying/preview';
import type { GrayFrame } from '../measures/motion/flow';
import type { ReadPlan, Reduced } from './asked';
import type { PictureFacts } from './facts';
import type { Picture, PixelRect, WindowRect } from './window';

/** A picture that was opened. Whoever opened it closes it. */
export interface OpenPicture {
  facts: PictureFacts;
  /** A small view; sources that can't give one leave the camera to count as still. */
  preview: Preview | null;
  /** Code values of rectangles inside the upright frame, in order, upright. Rejects with UnreadablePicture. */
  windows(rects: readonly WindowRect[]): Promise<Picture[]>;
  /** Windows reduced where the pixels are held (another thread), in order; where it is missing they are reduced here. */
  reduce?(plan: ReadPlan): Promise<Reduced[]>;
  /** Lets the pixels go. */
  close(): void;
}

/** A frame of a clip, small and gray. */
export interface MotionFrame {
  seconds: number;
  frame: GrayFrame;
  /** Pixels of the whole frame that one of the small frame stands for. */
  pixel: number;
  /** Whether its fine detail is its own: coded by itself, or with so many bits that nothing is merely taken over from other frames. */
  ownDetail: boolean;
}

/** One frame of a clip: a name that can be read like a picture's, and its moment in the clip. */
export interface FrameOfClip {
  file: string;
  seconds: number;
}

export interface PictureSource {
  /**
   * Opens a picture.
   *
   * @param file path as in the session
   * @throws UnreadablePicture
   */
  open(file: string, signal?: AbortSignal): Promise<OpenPicture>;
  /**
   * Windows of a picture that was read whole before. Rows that no window touches need not be decoded: that the file is
   * sound is known. Sources without it read the whole picture again.
   */
  readAgain?(file: string, rects: readonly PixelRect[], signal?: AbortSignal): Promise<Picture[]>;
  /**
   * The frames of a clip to measure, evenly over a span of seconds; `null` for a picture. Rejects with UnreadablePicture. Sources
   * without it have no clips.
   *
   * @param count how many; as many as a take needs when left out
   */
  frames?(file: string, span?: { from: number; to: number }, count?: number): Promise<FrameOfClip[] | null>;
  /**
   * Every frame of a clip's beginning, for telling how the camera moved; `null` for a still, and for a clip shorter than `least`
   * seconds. Rejects with UnreadablePicture. Sources without it tell no motion.
   */
  motion?(
    file: string,
    span: { from: number; to: number } | undefined,
    least: number,
    signal?: AbortSignal,
  ): Promise<AsyncIterable<MotionFrame> | null>;
  /** Changes whenever the content does; `null` where that isn't known, and nothing is remembered. */
  identify?(file: string): string | null;
  /**
   * Words that two files share where their content is the same, byte by byte; files that can't be read have none. Sources without it
   * compare nothing.
   */
  contentsOf?(files: readonly string[]): Promise<ReadonlyMap<string, string>>;
  /** Text of a small file beside the session (a curve). Throws an Error with a sentence. */
  readText(file: string): Promise<string>;
}

export interface ReadWindows {
  facts: PictureFacts;
  /** Code values of each rectangle asked for, in order, upright. */
  windows: Picture[];
}

/** Both passes in one go: opens a picture, reads the windows that are chosen by what it says of itself, and closes it. */
export async function readWindows(
  opening: Promise<OpenPicture>,
  choose: (facts: PictureFacts, preview: Preview | null) => readonly WindowRect[],
): Promise<ReadWindows> {
  const picture = await opening;
  try {
    const { facts, preview } = picture;
    return { facts, windows: await picture.windows(choose(facts, preview)) };
  } finally {
    picture.close();
  }
}
