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
  /** Ratio of the filtered to the bare: of MTF50, or of the MTFs at `atFrequency`. */
  retained: readingSchema,
  /** Cycles/pixel; of an ordinary scene, which has no edge to tell an MTF50 by. */
  atFrequency: z.number().optional(),
  /** Of an edge: cycles/pixel. */
  baselineMtf50: readingSchema.optional(),
  mtf50: readingSchema.optional(),
  mtf20: z.object({ bare: z.number(), filtered: z.number() }).optional(),
  /** Of an edge: responses at 0, 1/64, … 1 cycles/pixel. */
  curves: z.object({ bare: curve, filtered: curve }).optional(),
  angleDegrees: z.number().optional(),
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
  /** Absent on ordinary scenes, where a bright thing could be taken for one. */
  hotSpot: readingSchema.optional(),
  unevenness: readingSchema.optional(),
  /** Of the darkest corner. */
  budget: z.array(budgetLineSchema).optional(),
  advice: z.string().optional(),
  map,
  lens: map,
  /** Whether it comes from an ordinary scene instead of an even wall. */
  ordinary: z.boolean().optional(),
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

const sweepPoint = z.looseObject({
  take: z.string(),
  /** Ring angle as noted; null where it wasn't. */
  degrees: z.number().nullable(),
  stops: readingSchema,
  /** Left out of the fit: its ratio doesn't belong to its angle. */
  doubtful: z.boolean().optional(),
  /** Color of the take, CIE a*, b* at L* 50. */
  color: z.object({ a: z.number(), b: z.number() }).optional(),
});

/** Coefficients of ratio = mean + cosine·cos 2θ + sine·sin 2θ, for drawing the fit. */
const ringCurve = z.object({ mean: z.number(), cosine: z.number(), sine: z.number() });

const cutSchema = z.looseObject({
  scene: z.string(),
  patch: z.string(),
  reference: z.string(),
  /** Ring angle at which it is largest; absent where no take noted one. */
  atDegrees: z.number().optional(),
  points: z.array(sweepPoint),
  curve: ringCurve.optional(),
  sentence: z.string().optional(),
});

const turn = z.looseObject({
  scene: z.string(),
  /** Darkening by heading, degrees from north. */
  points: z.array(z.looseObject({ heading: z.number(), stops: readingSchema })),
  /** Where the sun stood, and what a clear sky allows: [heading, stops]. */
  sun: z.object({ azimuth: z.number(), altitude: z.number() }).optional(),
  expected: z.array(z.tuple([z.number(), z.number()])).optional(),
  sentence: z.string(),
});

const polarizer = z.looseObject({
  /** Stops at the brightest and darkest ring angle before polarized light. */
  brightest: readingSchema.optional(),
  darkest: readingSchema.optional(),
  extinctionStops: readingSchema.optional(),
  /** Ring angle of the brightest, [0, 180). */
  axisDegrees: readingSchema.optional(),
  /** The axis less the screen's own, (−90, 90], where the session says that. */
  markOffsetDegrees: readingSchema.optional(),
  /** Of the strength in unpolarized light, what polarizing takes: that strength less the brightest. */
  ownShare: readingSchema.optional(),
  glareCut: readingSchema.optional(),
  skyDarkening: readingSchema.optional(),
  sweep: z
    .looseObject({
      scene: z.string(),
      points: z.array(sweepPoint),
      curve: ringCurve,
      residualStops: z.number(),
      /** What other numbers of evenly spread angles would leave uncertain: u95. */
      design: z.array(
        z.object({ angles: z.number(), brightest: z.number(), darkest: z.number(), axisDegrees: z.number() }),
      ),
      sentence: z.string(),
    })
    .optional(),
  glare: cutSchema.optional(),
  sky: cutSchema.optional(),
  turn: turn.optional(),
  budget: z.array(budgetLineSchema).optional(),
});

const markSchema = z.looseObject({
  mark: z.number(),
  stops: readingSchema,
  cast: cast.optional(),
  unevenness: readingSchema.optional(),
  /** Sharpness kept at the softest edge. */
  retained: readingSchema.optional(),
  map: map.optional(),
});

const variable = z.looseObject({
  /** Monotone curve through the marks: [mark, stops]. */
  curve: z.array(z.tuple([z.number(), z.number()])),
  /** Stops at the lightest and the darkest mark. */
  lightest: readingSchema,
  darkest: readingSchema,
  /** What the label's range is off by at both ends. */
  errors: z.object({ low: readingSchema, high: readingSchema }).optional(),
  hysteresis: readingSchema.optional(),
  /** Where unevenness passes a tenth of a stop. */
  crossBegins: z.looseObject({ mark: z.number(), stops: z.number(), axisDegrees: z.number().optional() }).optional(),
  /** Stops from the least loss to where the cross begins. */
  usable: z.tuple([z.number(), z.number()]),
  sentences: z.array(z.string()),
});

const graduation = z.looseObject({
  scene: z.string(),
  clearStops: readingSchema,
  denseStops: readingSchema,
  /** Fractions of the frame's height. */
  midline: readingSchema.optional(),
  transitionWidth: readingSchema,
  angleDegrees: readingSchema,
  /** hard, medium or soft. */
  transition: z.string(),
  /** Dense less clear. */
  difference: readingSchema,
  /** [distance from the line towards the dense side in heights, stops]. */
  profile: z.array(z.tuple([z.number(), z.number()])),
  residualStops: z.number(),
  map: map.optional(),
});

const colorSchema = z.looseObject({
  patch: z.string(),
  scene: z.string(),
  chromaRatio: readingSchema,
  hueShiftDegrees: readingSchema,
  /** Stops that the patch got darker against the neutral or reference patch. */
  contrastStops: readingSchema,
  /** The chroma ratio as shot, with the darkening left in. */
  asShotRatio: z.number(),
  atDegrees: z.number().optional(),
});

const clipMotion = z.looseObject({
  /** Pixels of the whole frame (formats.md, Motion). */
  jitterPx: readingSchema.optional(),
  wobblePx: readingSchema.optional(),
  blurPx: readingSchema.optional(),
  /** How far a point jumps from frame to frame. */
  jumpPx: readingSchema.optional(),
  /** Degrees; by the exposures that are told. */
  shutterAngle: z.number().optional(),
  /** Degrees; by the smear of the frames themselves. */
  seenAngle: readingSchema.optional(),
  take: z.string(),
  /** [seconds, x, y]: the frame's center off its one-second mean. */
  path: z.array(z.tuple([z.number(), z.number(), z.number()])),
  /** [seconds, pixels]: the band that moved most beyond the frame. */
  waves: z.array(z.tuple([z.number(), z.number()])),
});

const motion = clipMotion.extend({
  scene: z.string(),
  /** The bare clip of the same scene. */
  bare: clipMotion.optional(),
  sentences: z.array(z.string()),
});

/** What was found on an ordinary scene: which pictures were laid on which, and what was left out of the map between them. */
const ordinary = z.looseObject({
  scene: z.string(),
  patch: z.string(),
  /** Pixels of the patch. */
  width: z.number(),
  height: z.number(),
  columns: z.number(),
  rows: z.number(),
  pairs: z.array(
    z.looseObject({
      take: z.string(),
      file: z.string(),
      seconds: z.number().nullable(),
      bareTake: z.string(),
      bareFile: z.string(),
      bareSeconds: z.number().nullable(),
      /** From the filtered frame to the bare one; half widths from the center, row-major 3 × 3. */
      homography: z.array(z.number()),
      /** Share of the blocks with something to see in which both show the same. */
      agreement: z.number(),
      /** Standard uncertainty of where points land, pixels. */
      errorPx: z.number(),
      /** A digit a cell, row by row: 0 used, 1 outside, 2 clipped, 3 dark, 4 moved, 5 in another light. */
      cells: z.string(),
    }),
  ),
  unpaired: z.array(
    z.looseObject({
      take: z.string(),
      file: z.string(),
      seconds: z.number().nullable(),
      tried: z.string(),
      words: z.string(),
    }),
  ),
  /** Of polarizers: how much darker kinds of area became, and how much of the frame they cover. */
  areas: z.array(z.looseObject({ area: z.string(), stops: readingSchema, share: z.number() })).optional(),
});

/** The light of a scene over its pictures, stops against its first bare one; filtered pictures with the filter's strength added back. */
const lightLine = z.looseObject({
  scene: z.string(),
  points: z.array(
    z.looseObject({
      take: z.string(),
      filter: z.string().nullable(),
      /** ISO 8601. */
      at: z.string(),
      stops: z.number(),
      u95: z.number(),
    }),
  ),
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
  /** How well the polarizer polarizes. */
  polarizer: z.string().optional(),
  repeatsToSettle: z.number().int().positive().nullable().optional(),
  /** Pictures that the strength rests on. */
  takes: z.number().int().nonnegative().optional(),
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
  colors: z.array(colorSchema).optional(),
  marks: z.array(markSchema).optional(),
  variable: variable.optional(),
  polarizer: polarizer.optional(),
  graduation: graduation.optional(),
  motion: motion.optional(),
  ordinary: z.array(ordinary).optional(),
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
  light: z.array(lightLine).optional(),
  faults: z.array(faultSchema),
});

export type Reading = z.infer<typeof readingSchema>;
export type BudgetLine = z.infer<typeof budgetLineSchema>;
export type Fault = z.infer<typeof faultSchema>;
export type Severity = Fault['severity'];
export type DensityReadings = z.infer<typeof density>;
export type CastReadings = z.infer<typeof cast>;
export type SharpnessReadings = z.infer<typeof sharpness>;
/** Sharpness told by an edge. */
export type EdgeReadings = SharpnessReadings &
  Required<Pick<SharpnessReadings, 'baselineMtf50' | 'mtf50' | 'mtf20' | 'curves' | 'angleDegrees'>>;
export type ShadingReadings = z.infer<typeof shading>;
export type FlareReadings = z.infer<typeof flare>;
export type PolarizerReadings = z.infer<typeof polarizer>;
export type SkyTurn = z.infer<typeof turn>;
export type CutReadings = z.infer<typeof cutSchema>;
export type SweepPoint = z.infer<typeof sweepPoint>;
export type MarkReadings = z.infer<typeof markSchema>;
export type VariableReadings = z.infer<typeof variable>;
export type GraduationReadings = z.infer<typeof graduation>;
export type MotionReadings = z.infer<typeof motion>;
export type OrdinaryReadings = z.infer<typeof ordinary>;
export type LightLine = z.infer<typeof lightLine>;
export type ColorReadings = z.infer<typeof colorSchema>;
export type CastDirection = (typeof CAST_DIRECTIONS)[number];
export type Verdict = z.infer<typeof verdictSchema>;
export type FilterReadings = z.infer<typeof filterReadingsSchema>;
export type Readings = z.infer<typeof readingsSchema>;

/** Whether it was told by an edge, not by an ordinary scene. */
export function isEdge(one: SharpnessReadings): one is EdgeReadings {
  return one.curves !== undefined;
}
