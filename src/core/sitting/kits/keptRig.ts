/** A rig as it is kept: a camera with its lenses, what it can be set to, and the aircraft that carries it. */
import { z } from 'zod';
import type { PlanRig } from '../planning/planRig';
import { cameraCheckSchema } from '../../session/cameraCheck';
import { needsDarkBares } from '../../light/camera/trust';
import { responseSchema, type Session } from '../../session/schema';

export const lensSchema = z
  .looseObject({
    name: z.string().min(1, 'Give every lens a name.'),
    aperture: z.enum(['fixed', 'variable']).default('variable'),
    widest: z
      .number('The widest f-number is a number above 0.')
      .positive('The widest f-number is a number above 0.')
      .describe('Widest f-number; the only one of a fixed aperture.'),
    narrowest: z.number().positive().optional(),
    focalLengthMm: z.number().positive().optional(),
    fieldOfViewDegrees: z.number().positive().max(360).optional().describe('Across the picture, degrees.'),
    fixedFocus: z.boolean().default(false),
  })
  .refine(({ widest, narrowest }) => narrowest === undefined || narrowest >= widest, {
    error: 'The narrowest aperture has a larger f-number than the widest.',
  });

const shutters = z
  .looseObject({ fastest: z.number().positive(), slowest: z.number().positive() })
  .refine(({ fastest, slowest }) => fastest <= slowest, { error: 'The fastest shutter is slower than the slowest.' });

export const profileSchema = z.looseObject({
  name: z.string().min(1, 'Give every profile a name.'),
  response: responseSchema,
  bitDepth: z.number().int().min(8).max(16).default(8),
  check: cameraCheckSchema.optional().describe('What a series of bare pictures told of the camera with this profile.'),
  before: cameraCheckSchema.optional().describe('The check before that one.'),
});

export const keptRigSchema = z
  .looseObject({
    camera: z.string().min(1, 'Give the camera a name.'),
    lenses: z.array(lensSchema).min(1, 'A rig has at least one lens.'),
    baseIso: z.number('Base ISO is a number above 0.').positive('Base ISO is a number above 0.'),
    highestIso: z.number('Highest ISO is a number above 0.').positive('Highest ISO is a number above 0.'),
    step: z
      .union([z.literal(0), z.literal(1 / 3), z.literal(0.5), z.literal(1)])
      .default(1 / 3)
      .describe('Stops between settings; 0 for any value.'),
    shutterMarks: z.enum(['exact', 'nominal']).default('nominal'),
    stills: shutters,
    video: shutters,
    frameRates: z.array(z.number().positive().max(1000)).default([]),
    profiles: z.array(profileSchema).default([]),
    batteryMinutes: z.number().positive().optional(),
    aircraft: z.looseObject({ massGrams: z.number().positive(), limitGrams: z.number().positive() }).optional(),
  })
  .refine(({ baseIso, highestIso }) => baseIso <= highestIso, { error: 'The highest ISO lies below the base ISO.' });

export type KeptRig = z.infer<typeof keptRigSchema>;
export type KeptLens = z.infer<typeof lensSchema>;

/** Stops from clipping down to where noise takes over, by bit depth: 6 for 8 bits, 9 for raw and 16. Our own judgement. */
export function usableStopsOf(bitDepth: number): number {
  return bitDepth <= 8 ? 6 : bitDepth <= 10 ? 7.5 : 9;
}

/** A kept rig as a plan takes it, with one of its lenses, for stills or clips. */
export function planRigOf(rig: KeptRig, lens: KeptLens, what: 'stills' | 'clips'): PlanRig {
  const { fastest, slowest } = what === 'stills' ? rig.stills : rig.video;
  return {
    camera: rig.camera,
    widest: lens.widest,
    fixedAperture: lens.aperture === 'fixed',
    baseIso: rig.baseIso,
    highestIso: rig.highestIso,
    fastest,
    slowest,
    step: rig.step,
    shutterMarks: rig.shutterMarks,
    usableStops: usableStopsOf(rig.profiles[0]?.bitDepth ?? 8),
    ...(rig.batteryMinutes === undefined ? {} : { batteryMinutes: rig.batteryMinutes }),
  };
}

/**
 * What a session takes along of a profile: a published response, the check, and what shutter marks mean where the check tells. Which
 * standard curve it is the files tell themselves: a rig that says sRGB may film BT.709.
 */
export function handedOn({ response, check }: KeptRig['profiles'][number]): Partial<Session['rig']> {
  const marks = check?.marks === 'exact' || check?.marks === 'nominal' ? { shutterMarks: check.marks } : {};
  return { ...(needsDarkBares(response) ? {} : { response }), ...(check ? { check, ...marks } : {}) };
}

/** The rig that a newcomer starts from. */
export const NEW_RIG: KeptRig = {
  camera: '',
  lenses: [{ name: 'Lens', aperture: 'variable', widest: 2.8, fixedFocus: false }],
  baseIso: 100,
  highestIso: 3200,
  step: 1 / 3,
  shutterMarks: 'nominal',
  stills: { fastest: 1 / 8000, slowest: 30 },
  video: { fastest: 1 / 8000, slowest: 1 / 24 },
  frameRates: [24, 25, 30],
  profiles: [{ name: 'Standard', response: { kind: 'srgb' }, bitDepth: 8 }],
};
