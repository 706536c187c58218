/** The readings file, version 1: every figure with its expanded uncertainty, faults for what is withheld. */
import { z } from 'zod';
import { cameraCheckSchema } from './cameraCheck';

export const readingSchema = z.looseObject({ value: z.number(), u95: z.number().nonnegative() });

export const budgetLineSchema = z.looseObject({
  source: z.string(),
  u: z.number().nonnegative().describe('Standard uncertainty in the unit of the figure.'),
  share: z.number().describe('Share of the variance, 0–1.'),
  degreesOfFreedom: z.number().nullable().describe('Effective degrees of freedom; null where there is no end to them.'),
  channels: z
    .array(z.number())
    .optional()
    .describe('Standard uncertainty of R, G, B that this line comes from, for figures of three channels, in stops.'),
});

export const faultSchema = z.looseObject({
  code: z.string(),
  severity: z.enum(['info', 'warning', 'error']),
  takes: z.array(z.string()),
  message: z.string(),
  remedy: z.string().optional().describe('What to shoot or do again.'),
  around: readingSchema
    .optional()
    .describe(
      'Of a withheld strength: what it came out as, stops. No figure: it tells no more than whether another filter was on.',
    ),
});

const density = z.looseObject({
  stops: readingSchema,
  channels: z.object({ r: readingSchema, g: readingSchema, b: readingSchema }),
  error: readingSchema.optional(),
  actsLike: z.looseObject({ ndFactor: z.number() }).optional(),
  byScene: z.array(z.looseObject({ scene: z.string(), role: z.string(), patch: z.string(), stops: readingSchema })),
  budget: z.array(budgetLineSchema),
  sensitivities: z
    .object({ r: z.number(), g: z.number(), b: z.number() })
    .optional()
    .describe('Change of the luminous stops for one stop of R, G, B: the sensitivity coefficients of the budget.'),
  degreesOfFreedom: z
    .number()
    .nullable()
    .optional()
    .describe('Effective degrees of freedom (Welch–Satterthwaite); null where there is no end to them.'),
  advice: z.string().optional().describe('What most of the ± comes from and what would make it smaller.'),
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
  retained: readingSchema.describe('Ratio of the filtered to the bare: of MTF50, or of the MTFs at `atFrequency`.'),
  atFrequency: z
    .number()
    .optional()
    .describe('Cycles/pixel; of an ordinary scene, which has no edge to tell an MTF50 by.'),
  baselineMtf50: readingSchema.optional().describe('Of an edge: cycles/pixel.'),
  mtf50: readingSchema.optional(),
  mtf20: z.object({ bare: z.number(), filtered: z.number() }).optional(),
  curves: z
    .object({ bare: curve, filtered: curve })
    .optional()
    .describe('Of an edge: responses at 0, 1/64, … 1 cycles/pixel.'),
  angleDegrees: z.number().optional(),
  region: z.enum(['center', 'corner']).optional(),
  runs: z.enum(['upright', 'level']).optional().describe('Which way the edge runs; it measures blur across itself.'),
  budget: z.array(budgetLineSchema).optional(),
  pictures: z
    .object({ bare: placeInPicture, filtered: placeInPicture })
    .optional()
    .describe('Where the edge lies in a picture of each kind, pixels of the upright frame.'),
});

const map = z.looseObject({ columns: z.number(), rows: z.number(), stops: z.array(z.number()) });
const shading = z.looseObject({
  scene: z.string(),
  corners: z
    .object({
      topLeft: readingSchema.optional(),
      topRight: readingSchema.optional(),
      bottomLeft: readingSchema.optional(),
      bottomRight: readingSchema.optional(),
    })
    .describe('Stops, negative is darker. A corner that is withheld is missing.'),
  worst: readingSchema.optional(),
  profile: z.array(z.tuple([z.number(), z.number()])).describe('Radius as a fraction of the half diagonal, stops.'),
  hotSpot: readingSchema.optional().describe('Absent on ordinary scenes, where a bright thing could be taken for one.'),
  unevenness: readingSchema.optional(),
  budget: z.array(budgetLineSchema).optional().describe('Of the darkest corner.'),
  advice: z.string().optional(),
  map,
  lens: map,
  ordinary: z.boolean().optional().describe('Whether it comes from an ordinary scene instead of an even wall.'),
});

const flare = z.looseObject({
  scene: z.string(),
  veilPercent: readingSchema,
  ghosts: z.array(z.object({ x: z.number(), y: z.number(), stops: z.number(), radius: z.number() })),
  map: map.optional().describe('Light filtered over bare above its surroundings, stops, over the whole frame.'),
  patches: z
    .object({ black: z.string(), neutral: z.string() })
    .optional()
    .describe('The patches that the veil was measured on, and a picture of each kind to look at.'),
  pictures: z.object({ bare: z.string(), filtered: z.string() }).optional(),
});

const sweepPoint = z.looseObject({
  take: z.string(),
  degrees: z.number().nullable().describe("Ring angle as noted; null where it wasn't."),
  stops: readingSchema,
  doubtful: z.boolean().optional().describe("Left out of the fit: its ratio doesn't belong to its angle."),
  color: z.object({ a: z.number(), b: z.number() }).optional().describe('Color of the take, CIE a*, b* at L* 50.'),
});

/** Coefficients of ratio = mean + cosine·cos 2θ + sine·sin 2θ, for drawing the fit. */
const ringCurve = z.object({ mean: z.number(), cosine: z.number(), sine: z.number() });

const cutSchema = z.looseObject({
  scene: z.string(),
  patch: z.string(),
  reference: z.string(),
  atDegrees: z.number().optional().describe('Ring angle at which it is largest; absent where no take noted one.'),
  points: z.array(sweepPoint),
  curve: ringCurve.optional(),
  sentence: z.string().optional(),
});

const turn = z.looseObject({
  scene: z.string(),
  points: z
    .array(z.looseObject({ heading: z.number(), stops: readingSchema }))
    .describe('Darkening by heading, degrees from north.'),
  sun: z
    .object({ azimuth: z.number(), altitude: z.number() })
    .optional()
    .describe('Where the sun stood, and what a clear sky allows: [heading, stops].'),
  expected: z.array(z.tuple([z.number(), z.number()])).optional(),
  sentence: z.string(),
});

const polarizer = z.looseObject({
  brightest: readingSchema.optional().describe('Stops at the brightest and darkest ring angle before polarized light.'),
  darkest: readingSchema.optional(),
  extinctionStops: readingSchema.optional(),
  axisDegrees: readingSchema.optional().describe('Ring angle of the brightest, [0, 180).'),
  markOffsetDegrees: readingSchema
    .optional()
    .describe("The axis less the screen's own, (−90, 90], where the session says that."),
  ownShare: readingSchema
    .optional()
    .describe('Of the strength in unpolarized light, what polarizing takes: that strength less the brightest.'),
  glareCut: readingSchema.optional(),
  skyDarkening: readingSchema.optional(),
  sweep: z
    .looseObject({
      scene: z.string(),
      points: z.array(sweepPoint),
      curve: ringCurve,
      residualStops: z.number(),
      design: z
        .array(z.object({ angles: z.number(), brightest: z.number(), darkest: z.number(), axisDegrees: z.number() }))
        .describe('What other numbers of evenly spread angles would leave uncertain: u95.'),
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
  retained: readingSchema.optional().describe('Sharpness kept at the softest edge.'),
  map: map.optional(),
});

const variable = z.looseObject({
  curve: z.array(z.tuple([z.number(), z.number()])).describe('Monotone curve through the marks: [mark, stops].'),
  lightest: readingSchema.describe('Stops at the lightest and the darkest mark.'),
  darkest: readingSchema,
  errors: z
    .object({ low: readingSchema, high: readingSchema })
    .optional()
    .describe("What the label's range is off by at both ends."),
  hysteresis: readingSchema.optional(),
  crossBegins: z
    .looseObject({ mark: z.number(), stops: z.number(), axisDegrees: z.number().optional() })
    .optional()
    .describe('Where unevenness passes a tenth of a stop.'),
  usable: z.tuple([z.number(), z.number()]).describe('Stops from the least loss to where the cross begins.'),
  sentences: z.array(z.string()),
});

const graduation = z.looseObject({
  scene: z.string(),
  clearStops: readingSchema,
  denseStops: readingSchema,
  midline: readingSchema.optional().describe("Fractions of the frame's height."),
  transitionWidth: readingSchema,
  angleDegrees: readingSchema,
  transition: z.string().describe('hard, medium or soft.'),
  difference: readingSchema.describe('Dense less clear.'),
  profile: z
    .array(z.tuple([z.number(), z.number()]))
    .describe('[distance from the line towards the dense side in heights, stops].'),
  residualStops: z.number(),
  map: map.optional(),
});

const colorSchema = z.looseObject({
  patch: z.string(),
  scene: z.string(),
  chromaRatio: readingSchema,
  hueShiftDegrees: readingSchema,
  contrastStops: readingSchema.describe(
    'Stops of its own luminance that the patch got darker than the neutral or reference patch.',
  ),
  asShotRatio: z.number().describe('The chroma ratio as shot, with the darkening left in.'),
  atDegrees: z.number().optional(),
});

const clipMotion = z.looseObject({
  jitterPx: readingSchema.optional().describe('Pixels of the whole frame (formats.md, Motion).'),
  wobblePx: readingSchema.optional(),
  blurPx: readingSchema.optional(),
  jumpPx: readingSchema.optional().describe('How far a point jumps from frame to frame.'),
  shutterAngle: z.number().optional().describe('Degrees; by the exposures that are told.'),
  seenAngle: readingSchema.optional().describe('Degrees; by the smear of the frames themselves.'),
  take: z.string(),
  path: z
    .array(z.tuple([z.number(), z.number(), z.number()]))
    .describe("[seconds, x, y]: the frame's center off its one-second mean."),
  waves: z
    .array(z.tuple([z.number(), z.number()]))
    .describe('[seconds, pixels]: the band that moved most beyond the frame.'),
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
  width: z.number().describe('Pixels of the patch.'),
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
      homography: z
        .array(z.number())
        .describe('From the filtered frame to the bare one; half widths from the center, row-major 3 × 3.'),
      agreement: z.number().describe('Share of the blocks with something to see in which both show the same.'),
      errorPx: z.number().describe('Standard uncertainty of where points land, pixels.'),
      cells: z
        .string()
        .describe('A digit a cell, row by row: 0 used, 1 outside, 2 clipped, 3 dark, 4 moved, 5 in another light.'),
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
  areas: z
    .array(z.looseObject({ area: z.string(), stops: readingSchema, share: z.number() }))
    .optional()
    .describe('Of polarizers: how much darker kinds of area became, and how much of the frame they cover.'),
});

/** The light of a scene over its pictures, stops against its first bare one; filtered pictures with the filter's strength added back. */
const lightLine = z.looseObject({
  scene: z.string(),
  points: z.array(
    z.looseObject({
      take: z.string(),
      filter: z.string().nullable(),
      at: z.string().describe('ISO 8601.'),
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
  softness: z.string().optional().describe('What made it soft, as far as the edges can tell.'),
  sharpnessAdvice: z.string().optional(),
  corners: z.string().optional(),
  hotSpot: z.string().optional(),
  polarizer: z.string().optional().describe('How well the polarizer polarizes.'),
  repeatsToSettle: z.number().int().positive().nullable().optional(),
  takes: z.number().int().nonnegative().optional().describe('Pictures that the strength rests on.'),
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

/** Of cameras that only tell a standard curve: what was learned of theirs. */
const learnedSchema = z.looseObject({
  checked: z.boolean().describe('Whether pictures of one view at known different exposures told the curve’s slope.'),
  knownStops: z.number().describe('Largest known difference of exposures within one view, stops.'),
  share: z
    .looseObject({ filter: z.string(), ofU95: z.number(), u95: z.number() })
    .optional()
    .describe(
      'Of the filter whose strength the curve makes most uncertain: its u95, and how much of it is the curve’s.',
    ),
  curve: z
    .array(z.tuple([z.number(), z.number(), z.number()]))
    .describe('[code as a share of full scale, log2 of light, its u95 against the middle code] of green.'),
  check: z
    .looseObject({ checkedAt: z.string() })
    .optional()
    .describe('The check of this camera that the estimate began with.'),
  automaticTone: readingSchema
    .optional()
    .describe('Stops a stop, for each stop that a picture’s median moves; where it was found.'),
  localTone: readingSchema.optional().describe('Gain on contrast with the surroundings, as a bare picture shows it.'),
});

export const readingsSchema = z.looseObject({
  format: z.literal('aurora-glade-readings'),
  version: z.literal(1),
  session: z.string(),
  createdAt: z.string(),
  generator: z.string(),
  response: z.looseObject({
    kind: z.string(),
    residualStops: z.number().optional(),
    learned: learnedSchema.optional(),
  }),
  filters: z.array(filterReadingsSchema),
  check: cameraCheckSchema.optional(),
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
