/** What is found of an ordinary scene: its pictures, the pairs of them, and what is tried on the way. */
import type { Fall } from '../measures/sharpness/fall';
import type { FileEncoding } from '../light/response';
import type { RatioMap } from './ratioMap';
import type { SceneView } from './sceneView';
import type { Homography } from '../formulas/geometry/homography';
import type { Laid, LayView } from './lay';
import type { Patch } from '../session/schema';
import type { PictureFacts } from '../reading/facts';

export interface OrdinaryPicture {
  take: string;
  file: string;
  filter: string | null;
  /** Moment in its clip; `null` for a still. */
  seconds: number | null;
  /** Bits of its codes as they are stored. */
  bits: number;
  timeMs: number;
  /** log2 of t·ISO/N²; NaN where it isn't known. */
  exposureLog2: number;
  /** Half of what its shutter's two meanings lie apart, stops. */
  markDoubt: number;
  whiteBalance: { said: string | number | null; own: string | null };
  /** The encoding that its file only tells: a camera drew it, sharpened it and took noise away. `null` where it is believed. */
  told: FileEncoding | null;
  /** Mean code value per channel, a share of full scale. */
  meanCode: [number, number, number];
  /** Fall of its MTF against bare's, where it could be told. */
  fall?: Fall;
}

export interface OrdinaryPair {
  /** Places in the list of pictures. */
  first: number;
  second: number;
  homography: Homography;
  agreement: number;
  errorPx: number;
  map: RatioMap;
}

export interface OrdinaryScene {
  patch: Pick<Patch, 'id' | 'scene' | 'rect' | 'role'>;
  /** Pixels of the patch. */
  width: number;
  height: number;
  /** Those that were laid on a bare one, and the bare ones. */
  pictures: OrdinaryPicture[];
  pairs: OrdinaryPair[];
  /** Pictures that could not be laid on any: what they were tried on, and why not. */
  unpaired: { take: string; file: string; seconds: number | null; tried: string; words: string }[];
}

export interface Loaded {
  facts: PictureFacts;
  view: SceneView;
  lay: LayView;
}

/** What the pictures of one take tell against others; pictures are named by file. */
export interface Relation {
  facts: Record<string, PictureFacts>;
  stats: Record<string, Pick<OrdinaryPicture, 'meanCode'>>;
  pairs: { first: string; second: string; laid: Omit<Laid, 'blocks'>; map: RatioMap }[];
  /** From a picture to another of its take. */
  partners: Record<string, { file: string; homography: Homography }>;
  falls: Record<string, Fall>;
  unpaired: OrdinaryScene['unpaired'];
  unreadable: { file: string; words: string }[];
}

/** A picture that another one was laid on. */
export interface On {
  file: string;
  homography: Homography;
}

export type Load = (file: string) => Promise<Loaded>;

/** Where views come from; one that was dropped is read again when it is asked for. */
export interface Views {
  load: Load;
  drop: (files: readonly string[]) => void;
}
