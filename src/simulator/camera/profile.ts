/** What a stand-in camera does between light and file: each step may be left out, its strength is drawn from a seed. */
import type { CameraSettings } from '@/core/session/cameraCheck';
import { seededRandom, type Random } from '../random';

/** How steeply and where a picture style departs from the standard curve; all in shares of full scale of the code. */
export interface PictureStyle {
  /** Share of a steep S about the middle; negative is flat. */
  contrast: number;
  /** Code of black. */
  lift: number;
  /** From where highlights are pressed together; 1 for none. */
  shoulder: number;
  /** Exponent on the code, per channel. */
  exponents: readonly [number, number, number];
}

export interface CameraProfile {
  style: PictureStyle;
  /** Gain that makes up for the lens's falloff: share of it that is taken away. */
  shadingGain: number;
  /** Whether light passes a mosaic of color filters, a matrix behind it and their interpolation. */
  mosaic: boolean;
  /** Standard deviation of the white balance from picture to picture, stops of red and of blue. */
  wanderingBalance: number;
  /** Share of the noise that is taken away, more of it in dark pictures. */
  noiseReduction: number;
  /** Share of an unsharp mask that is added, and its radius in pixels. */
  sharpening: number;
  sharpeningRadius: number;
  /** Gain on what a picture differs from its own blur by (a 25th of its width); 0 for none. */
  localTone: number;
  /** Exponent on codes for a stop that the picture's median lies above an eighth; 0 for none. */
  automaticTone: number;
  /** Draws by the standard curve of films (ITU-R BT.709) instead of sRGB's. */
  filmed?: boolean;
  /** How a picture is written: JPEG's quality and its color at half resolution; exact codes when left out. */
  jpeg?: { quality: number; halfColor: boolean };
  /** What its files tell of the camera and how it was set. */
  settings?: CameraSettings;
}

/** The standard curve and nothing else, in exact codes. */
export const PLAIN_PROFILE: CameraProfile = {
  style: { contrast: 0, lift: 0, shoulder: 1, exponents: [1, 1, 1] },
  shadingGain: 0,
  mosaic: false,
  wanderingBalance: 0,
  noiseReduction: 0,
  sharpening: 0,
  sharpeningRadius: 1,
  localTone: 0,
  automaticTone: 0,
};

/** What is switched on: `curve` a style alone, then what files of cameras show beside it, then tone that adapts. */
export type CameraClass = 'curve' | 'processed' | 'local' | 'automatic';
export const CAMERA_CLASSES: readonly CameraClass[] = ['curve', 'processed', 'local', 'automatic'];

/** A camera of a class, by seed. */
export function drawProfile(seed: string, kind: CameraClass): CameraProfile {
  const random = seededRandom(`${seed}/profile`);
  const profile: CameraProfile = { ...PLAIN_PROFILE, style: drawStyle(random) };
  if (kind === 'curve') return profile;
  const between = (low: number, high: number) => low + (high - low) * random.uniform();
  Object.assign(profile, {
    shadingGain: between(0, 0.9),
    mosaic: true,
    noiseReduction: between(0.2, 0.8),
    sharpening: between(0.3, 1.2),
    sharpeningRadius: between(0.7, 1.3),
    jpeg: { quality: Math.round(between(88, 96)), halfColor: random.uniform() < 0.6 },
  } satisfies Partial<CameraProfile>);
  const sign = random.uniform() < 0.5 ? -1 : 1;
  if (kind === 'local') profile.localTone = sign * between(0.05, 0.25);
  if (kind === 'automatic') profile.automaticTone = sign * between(0.03, 0.1);
  return profile;
}

function drawStyle(random: Random): PictureStyle {
  const exponent = 0.85 + 0.35 * random.uniform();
  const own = () => exponent * (1 + 0.02 * random.normal());
  return {
    contrast: -0.25 + 0.8 * random.uniform(),
    lift: 0.03 * random.uniform(),
    shoulder: 0.7 + 0.3 * random.uniform(),
    exponents: [own(), exponent, own()],
  };
}

/** Code of a code by a style: rises over 0…1. */
export function styled({ contrast, lift, shoulder, exponents }: PictureStyle, code: number, channel: number): number {
  const powered = Math.max(0, code) ** exponents[channel];
  const bounded = Math.min(1, powered);
  const steep = bounded * bounded * (3 - 2 * bounded);
  const bent = bounded + contrast * (steep - bounded);
  const lifted = lift + (1 - lift) * bent;
  if (lifted <= shoulder || shoulder >= 1) return lifted;
  // As steep as before at the shoulder, half as steep at white.
  const over = (lifted - shoulder) / (1 - shoulder);
  return shoulder + (1 - shoulder) * (over + 0.5 * over * over * (1 - over));
}
