/** The readings file, version 1: every figure with its expanded uncertainty, faults for what is withheld. */
import { z } from 'zod';

export const readingSchema = z.looseObject({ value: z.number(), u95: z.number().nonnegative() });

export const budgetLineSchema = z.looseObject({
  source: z.string(),
  /** Standard uncertainty in the unit of the figure. */
  u: z.number().nonnegative(),
  /** Share of the variance, 0–1. */
  share: z.number(),
  /** Effective degrees of freedom; null where there is no end to them. */
  degreesOfFreedom: z.number().nullable(),
  /** Standard uncertainty of R, G, B that this line comes from, for figures of three channels, in stops. */
  channels: z.array(z.number()).optional(),
});

export const faultSchema = z.looseObject({
  code: z.string(),
  severity: z.enum(['info', 'warning', 'error']),
  takes: z.array(z.string()),
  message: z.string(),
  /** What to shoot or do again. */
  remedy: z.string().optional(),
});

const density = z.looseObject({
  stops: readingSchema,
  channels: z.object({ r: readingSchema, g: readingSchema, b: readingSchema }),
  error: readingSchema.optional(),
  actsLike: z.looseObject({ ndFactor: z.number() }).optional(),
  byScene: z.array(z.looseObject({ scene: z.string(), role: z.string(), patch: z.string(), stops: readingSchema })),
  budget: z.array(budgetLineSchema),
  /** Change of the luminous stops for one stop of R, G, B: the sensitivity coefficients of the budget. */
  sensitivities: z.object({ r: z.number(), g: z.number(), b: z.number() }).optional(),
  /** Effective degrees of freedom (Welch–Satterthwaite); null where there is no end to them. */
  degreesOfFreedom: z.number().nullable().optional(),
  /** What most of the ± comes from and what would make it smaller. */
  advice: z.string().optional(),
});

export const CAST_DIRECTIONS = ['neutral', 'warm', 'red', 'magenta', 'violet', 'cool', 'cyan', 'green'] as const;

const cast = z.looseObject({
  a: readingSchema,
  b: readingSchema,
  deltaE00: readingSchema,
  miredShift: readingSchema.optional(),
  direction: z.enum(CAST_DIRECTIONS),
  gains: z.object({ r: z.number(), g: z.number(), b: z.number() }),
  budget: z.array(budgetLineSchema),
});

const curve = z.array(z.number());
const placeInPicture = z.object({
  file: z.string(),
  x: z.number(),
  y: z.number(),
  width: z.number(),
  height: z.number(),
});
const sharpness = z.looseObject({
  patch: z.string(),
  scene: z.string(),
  /** Cycles/pixel. */
  baselineMtf50: readingSchema,
  mtf50: readingSchema,
  mtf20: z.object({ bare: z.number(), filtered: z.number() }),
  /** Ratio of the two. */
  retained: readingSchema,
  /** Responses at 0, 1/64, … 1 cycles/pixel. */
  curves: z.object({ bare: curve, filtered: curve }),
  angleDegrees: z.number(),
  region: z.enum(['center', 'corner']).optional(),
  /** Which way the edge runs; it measures blur across itself. */
  runs: z.enum(['upright', 'level']).optional(),
  budget: z.array(budgetLineSchema).optional(),
  /** Where the edge lies in a picture of each kind, pixels of the upright frame. */
  pictures: z.object({ bare: placeInPicture, filtered: placeInPicture }).optional(),
});

const map = z.looseObject({ columns: z.number(), rows: z.number(), stops: z.array(z.number()) });
const shading = z.looseObject({
  scene: z.string(),
  /** Stops, negative is darker. A corner that is withheld is missing. */
  corners: z.object({
    topLeft: readingSchema.optional(),
    topRight: readingSchema.optional(),
    bottomLeft: readingSchema.optional(),
    bottomRight: readingSchema.optional(),
  }),
  worst: readingSchema.optional(),
  /** Radius as a fraction of the half diagonal, stops. */
  profile: z.array(z.tuple([z.number(), z.number()])),
  hotSpot: readingSchema,
  unevenness: readingSchema,
  /** Of the darkest corner. */
  budget: z.array(budgetLineSchema).optional(),
  advice: z.string().optional(),
  map,
  lens: map,
});

const flare = z.looseObject({
  scene: z.string(),
  veilPercent: readingSchema,
  ghosts: z.array(z.object({ x: z.number(), y: z.number(), stops: z.number(), radius: z.number() })),
  /** Light filtered over bare above its surroundings, stops, over the whole frame. */
  map: map.optional(),
  /** The patches that the veil was measured on, and a picture of each kind to look at. */
  patches: z.object({ black: z.string(), neutral: z.string() }).optional(),
  pictures: z.object({ bare: z.string(), filtered: z.string() }).optional(),
});

export const verdictSchema = z.looseObject({
  label: z.string(),
  sentence: z.string(),
  cast: z.string().optional(),
  sharpness: z.string().optional(),
  /** What made it soft, as far as the edges can tell. */
  softness: z.string().optional(),
  sharpnessAdvice: z.string().optional(),
  corners: z.string().optional(),
  hotSpot: z.string().optional(),
  repeatsToSettle: z.number().int().positive().nullable().optional(),
});

export const filterReadingsSchema = z.looseObject({
  filter: z.string(),
  kit: z.string(),
  nominalStops: z.number().nullable(),
  density: density.optional(),
  cast: cast.optional(),
  sharpness: z.array(sharpness).optional(),
  shading: shading.optional(),
  flare: flare.optional(),
  verdict: verdictSchema,
  faults: z.array(faultSchema),
});

export const readingsSchema = z.looseObject({
  format: z.literal('aurora-glade-readings'),
  version: z.literal(1),
  session: z.string(),
  createdAt: z.string(),
  generator: z.string(),
  response: z.looseObject({ kind: z.string(), residualStops: z.number().optional() }),
  filters: z.array(filterReadingsSchema),
  faults: z.array(faultSchema),
});

export type Reading = z.infer<typeof readingSchema>;
export type BudgetLine = z.infer<typeof budgetLineSchema>;
export type Fault = z.infer<typeof faultSchema>;
export type Severity = Fault['severity'];
export type DensityReadings = z.infer<typeof density>;
export type CastReadings = z.infer<typeof cast>;
export type SharpnessReadings = z.infer<typeof sharpness>;
export type CastDirection = (typeof CAST_DIRECTIONS)[number];
export type Verdict = z.infer<typeof verdictSchema>;
export type FilterReadings = z.infer<typeof filterReadingsSchema>;
export type Readings = z.infer<typeof readingsSchema>;
