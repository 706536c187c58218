/** What a picture file says of itself, and files that can't be read. */
import type { Exposure } from '../formulas/optics/exposure';
import type { MeanSteps } from '../light/camera/compression';
import type { FileEncoding } from '../light/response';

/** Sizes are upright. */
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
  /** The lens, as EXIF names it. */
  lens?: string;
  /** Of a clip's frame: when in the clip it is shown, seconds. */
  frameSeconds?: number;
  /** Of a still that is kept with losses: how coarsely its blocks' means are kept. */
  compression?: MeanSteps;
  /** True where a second picture brightens this one for bright screens (ISO 21496-1): it is left out, and the camera drew for such screens. */
  gainMap?: true;
  /** True of a raw still. */
  raw?: boolean;
  /** Of a clip; `bits` are those of its codes as they are stored, `steps` what its key frames keep of means. */
  clip?: { seconds: number; framesPerSecond: number; codec: string; bits: number; steps?: MeanSteps };
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

/** A picture's name as people say it: a clip's frame (`run.mp4#t=2.48,2.52`) by its moment. */
export function frameInWords(file: string): string {
  const [clip, moments] = file.split('#t=');
  return moments === undefined ? file : `${clip} at ${Number(moments.split(',')[0]).toFixed(2)} s`;
}
