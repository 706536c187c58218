/** The port through which the core gets pictures. `media` implements it for files, the simulator for renderings. */
import type { Exposure } from './exposure';
import type { FileEncoding } from './light';
import type { Picture, PixelRect } from './patches';

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

export interface PictureSource {
  /**
   * Reads facts and windows in one go.
   *
   * @param file path as in the session
   * @param choose gives the rectangles (inside the upright frame) once the size is known
   * @throws UnreadablePicture
   */
  read(file: string, choose: (facts: PictureFacts) => PixelRect[], signal?: AbortSignal): Promise<ReadWindows>;
  /** Text of a small file beside the session (a curve). Throws an Error with a sentence. */
  readText(file: string): Promise<string>;
}
