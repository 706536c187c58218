/** The port through which the core gets pictures. `media` implements it for files, the simulator for renderings. */
import type { Exposure } from '../formulas/optics/exposure';
import type { ReadReduced } from './readReduced';
import type { FileEncoding } from '../light/response';
import type { GrayFrame } from '../measures/motion/flow';
import type { Picture, PixelRect } from './window';
import type { Preview } from '../laying/preview';

/** What a picture file says of itself. Sizes are upright. */
export interface PictureFacts {
  width: number;
  height: number;
  channels: 1 | 3;
  bitDepth: 8 | 16;
  encoding: FileEncoding;
  exposure: Partial<Exposure>;
  /** ISO 8601, where the file knows it. */
  capturedAt: string | null;
  whiteBalance: string | null;
  /** Of a clip's frame: when in the clip it is shown, seconds. */
  frameSeconds?: number;
  /** True of a raw still. */
  raw?: boolean;
  /** Of a clip; `bits` are those of its codes as they are stored. */
  clip?: { seconds: number; framesPerSecond: number; codec: string; bits: number };
}

/** A picture that can't be read, with a sentence for people. */
export class UnreadablePicture extends Error {
  constructor(
    readonly file: string,
    readonly reason: string,
  ) {
    super(`${file}: ${reason}`);
    this.name = 'UnreadablePicture';
  }
}

export interface ReadWindows {
  facts: PictureFacts;
  /** Code values of each rectangle asked for, in order, upright. */
  windows: Picture[];
}

/**
 * Chooses the rectangles to read (inside the upright frame) once size and view of a picture are known. Sources that can't
 * give a view leave it out; the camera counts as still then.
 */
export type ChooseWindows = (facts: PictureFacts, preview: Preview | null) => WindowRect[];

/** A rectangle to read; `luma` asks for the luma plane alone where the file keeps one apart (clips). */
export type WindowRect = PixelRect & { luma?: boolean };

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
   * Reads facts and windows in one go.
   *
   * @param file path as in the session
   * @throws UnreadablePicture
   */
  read(file: string, choose: ChooseWindows, signal?: AbortSignal): Promise<ReadWindows>;
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
  /** Reads and reduces where the pixels are (another thread); sources without it hand out windows instead. */
  readReduced?: ReadReduced;
  /** Changes whenever the content does; `null` where that isn't known, and nothing is remembered. */
  identify?(file: string): string | null;
  /** Text of a small file beside the session (a curve). Throws an Error with a sentence. */
  readText(file: string): Promise<string>;
}

/** A picture's name as people say it: a clip's frame (`run.mp4#t=2.48,2.52`) by its moment. */
export function frameInWords(file: string): string {
  const [clip, moments] = file.split('#t=');
  return moments === undefined ? file : `${clip} at ${Number(moments.split(',')[0]).toFixed(2)} s`;
}
