/** How a camera was set, and its check: what a series of bare pictures told of it with one profile, as it is kept with the rig. */
import { z } from 'zod';
import { CURVES } from '../light/camera/curve';

export const cameraSettingsSchema = z.looseObject({
  make: z.string().max(100).optional(),
  model: z.string().max(100).optional(),
  rendered: z.number().optional().describe('EXIF CustomRendered.'),
  contrast: z.number().optional().describe('EXIF Contrast: 0 normal, 1 soft, 2 hard.'),
  saturation: z.number().optional().describe('EXIF Saturation: 0 normal, 1 low, 2 high.'),
  sharpness: z.number().optional().describe('EXIF Sharpness: 0 normal, 1 soft, 2 hard.'),
});

export type CameraSettings = z.infer<typeof cameraSettingsSchema>;

/** What decides how light becomes codes; sharpness acts on detail alone. */
const NAMES = {
  make: 'maker',
  model: 'model',
  rendered: 'special rendering',
  contrast: 'contrast',
  saturation: 'saturation',
} as const;

/**
 * In which settings two files differ, in words. What one of them doesn't tell counts as alike: many programs drop it.
 */
export function settingsApart(a: CameraSettings = {}, b: CameraSettings = {}): string[] {
  return (Object.keys(NAMES) as (keyof typeof NAMES)[])
    .filter((key) => a[key] !== undefined && b[key] !== undefined && a[key] !== b[key])
    .map((key) => NAMES[key]);
}

const finite = z.number().refine(Number.isFinite, 'a finite number');
const numbers = (count: number, what: string) => z.array(finite).length(count, what);
const measured = z.looseObject({ value: finite, u95: finite.nonnegative() });

export const cameraCheckSchema = z
  .looseObject({
    format: z.literal('aurora-glade-camera-check', 'This file isn’t a camera check.'),
    version: z.literal(1, 'This check was written by a newer version.'),
    camera: z.string().max(200).default(''),
    profile: z.string().max(200).optional(),
    checkedAt: z.string().refine((value) => !Number.isNaN(Date.parse(value)), 'checkedAt is no time.'),
    pictures: z.number().int().positive(),
    settings: cameraSettingsSchema.default({}),
    file: z
      .looseObject({ transfer: z.string(), bitDepth: z.number(), lossy: z.boolean() })
      .describe('What the files told of themselves: the curve, as JSON, bits and whether they are compressed.'),
    isoSpeeds: z.array(finite.positive()).min(1),
    knots: numbers(CURVES, 'The curve has another number of knots.').describe(
      'η at full scale and every half stop down, then each channel’s own departures, stops.',
    ),
    factor: numbers((CURVES * (CURVES + 1)) / 2, 'The curve’s covariance has another size.').describe(
      'Rows of the lower Cholesky factor of the knots’ covariance, stops.',
    ),
    knownStops: finite.nonnegative(),
    automaticTone: finite
      .nonnegative()
      .describe(
        'What tone may follow the picture by without its edge’s pictures showing it: stops a stop, for each stop that a picture’s median moves.',
      ),
    localTone: measured
      .extend({ luma: z.number().optional().describe('Luma that it was seen at, share of full scale of the code.') })
      .optional()
      .describe('Gain on contrast with the surroundings.'),
    tells: z
      .array(z.looseObject({ stops: finite, u95: finite.nonnegative() }))
      .describe('How well a difference of so many stops down from the brightest usable light is told.'),
    range: z
      .tuple([finite, finite])
      .describe('Lightest and darkest light that pictures reached, stops from full scale.'),
    curve: z
      .array(z.looseObject({ code: finite, light: z.tuple([finite, finite, finite]), u95: finite.nonnegative() }))
      .describe(
        'By code (share of full scale, evenly spaced): log2 light of R, G, B; u95 of G against the middle code’s.',
      ),
    noise: z
      .array(z.looseObject({ stops: finite, code: finite, spread: finite }))
      .describe('By light: mean code and standard deviation of single pixels’ luma, codes of 8 bits.'),
    grain: finite
      .optional()
      .describe('Correlation of neighboring pixels’ luma in even places: 0 for noise of single pixels.'),
    marks: z.enum(['exact', 'nominal', 'either', 'alike']).describe('What shutter marks stand for.'),
    exposures: finite
      .nonnegative()
      .describe(
        'Standard deviation of what pictures differ from their exposures, stops; 0.002 is the least that is told.',
      ),
    balance: finite
      .nonnegative()
      .describe('Standard deviation of red and blue from picture to picture, stops; 0.001 is the least that is told.'),
    drift: finite.describe('Change of light over the series, by the even surface, stops.'),
    clipping: finite.optional().describe('Code at which highlights end, share of full scale.'),
    black: finite.optional().describe('Darkest mean code that was seen, share of full scale.'),
  })
  .describe('What a series of bare pictures told of a camera with one profile.');

export type CameraCheck = z.infer<typeof cameraCheckSchema>;
