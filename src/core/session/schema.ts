/**
 * The session file, version 1. Zod is the single source of its types; `docs/schema/` is printed from here.
 * Unknown keys are kept, so that a file written by a newer version survives a round trip.
 */
import { z } from 'zod';
import { cameraCheckSchema } from './cameraCheck';
import { parseShutter } from '../formulas/optics/exposure';
import { FILTER_KINDS } from './notation';

/** A message that says what was expected and what stands there instead. */
function got(expected: string) {
  return (issue: { input?: unknown }) =>
    issue.input === undefined ? `missing; expected ${expected}` : `expected ${expected}, got ${shown(issue.input)}`;
}

function shown(value: unknown): string {
  const text = JSON.stringify(value);
  if (text === undefined) return String(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}

// What is expected of a value is its description in the published schema too.
const text = (what: string) =>
  z
    .string({ error: got(what) })
    .min(1, { error: got(what) })
    .describe(what);
const finite = (what: string) => z.number({ error: got(what) }).describe(what);
const positive = (what: string) => finite(what).positive({ error: got(what) });
const fraction = (what: string) =>
  finite(what)
    .min(0, { error: got(what) })
    .max(1, { error: got(what) });
function oneOf<const T extends readonly [string, ...string[]]>(values: T) {
  return z.enum(values, { error: got(values.map((value) => `"${value}"`).join(', ')) });
}
const list = <T extends z.ZodType>(item: T, what: string) => z.array(item, { error: got(what) }).describe(what);
const entry = <T extends z.ZodRawShape>(shape: T, what: string) =>
  z.looseObject(shape, { error: got(what) }).describe(what);

const id = text('an id (text)');

const nominal = entry(
  {
    ndFactor: finite('a filter factor of 1 or more')
      .min(1, { error: got('a filter factor of 1 or more') })
      .optional(),
    stops: finite('stops (0–24)')
      .min(0, { error: got('stops (0–24)') })
      .max(24, { error: got('stops (0–24)') })
      .optional(),
    opticalDensity: finite('an optical density (0–7.3)')
      .min(0, { error: got('an optical density (0–7.3)') })
      .max(7.3, { error: got('an optical density (0–7.3)') })
      .optional(),
    stopsRange: z.tuple([finite('stops'), finite('stops')], { error: got('a range [low, high] in stops') }).optional(),
  },
  'a strength such as {"ndFactor": 8}',
);

export const filterSchema = entry(
  {
    id,
    name: z.string({ error: got('text') }).optional(),
    kind: oneOf(FILTER_KINDS),
    nominal: nominal.default({}),
  },
  'a filter',
);

export const kitSchema = entry(
  {
    id: id.default('kit'),
    name: z.string({ error: got('text') }).optional(),
    maker: z.string({ error: got('text') }).optional(),
    price: entry({ amount: finite('an amount'), currency: text('a currency code') }, 'a price').optional(),
    filters: list(filterSchema, 'a list of filters'),
  },
  'a kit',
);

const points = list(
  z.tuple([finite('a code'), finite('linear light')], { error: got('a pair [code, linear]') }),
  'pairs [code, linear]',
);

export const responseSchema = z.discriminatedUnion(
  'kind',
  [
    z.looseObject({ kind: z.literal('linear') }),
    z.looseObject({ kind: z.literal('srgb') }),
    z.looseObject({ kind: z.literal('bt709') }),
    z.looseObject({ kind: z.literal('gamma'), gamma: positive('a gamma above 0') }),
    z.looseObject({ kind: z.literal('hlg') }),
    z.looseObject({ kind: z.literal('pq') }),
    z
      .looseObject({ kind: z.literal('curve'), file: text('a path').optional(), points: points.optional() })
      .refine((curve) => (curve.file === undefined) !== (curve.points === undefined), {
        error: 'a curve has either "file" or "points"',
      }),
    z.looseObject({ kind: z.literal('bracket') }),
    z.looseObject({ kind: z.literal('file') }),
  ],
  { error: got('a response {"kind": linear | srgb | bt709 | gamma | hlg | pq | curve | bracket | file}') },
);

const numbers = (count: number) =>
  list(finite('a number'), `${count} numbers`).length(count, { error: got(`${count} numbers`) });

export const colorSpaceSchema = z.union(
  [z.enum(['srgb', 'display-p3', 'rec2020']), z.looseObject({ toXyz: numbers(9), white: numbers(3).optional() })],
  { error: got('"srgb", "display-p3", "rec2020" or {"toXyz": [9 numbers]}') },
);

export const rigSchema = entry(
  {
    camera: z.string({ error: got('text') }).optional(),
    lens: z.string({ error: got('text') }).optional(),
    aperture: oneOf(['fixed', 'variable']).default('variable'),
    response: responseSchema.default({ kind: 'file' }),
    colorSpace: colorSpaceSchema.default('srgb'),
    shutterMarks: oneOf(['exact', 'nominal'])
      .optional()
      .describe(
        'Whether 1/60 s is 1/60 s or 2^-6 s. Left out, marks of the third-stop series count as something between, with what that leaves open in the ±; other times are exact.',
      ),
    baseIso: positive('an ISO speed').optional(),
    check: cameraCheckSchema.optional(),
  },
  'a rig',
);

export const shutterSchema = z
  .union([z.string(), z.number()], { error: got('"1/2000" or seconds') })
  .refine((value) => parseShutter(value) !== null, { error: got('"1/2000" or seconds') });

export const exposureSchema = entry(
  {
    shutter: shutterSchema.optional(),
    iso: positive('an ISO speed').optional(),
    fNumber: positive('an f-number').optional(),
  },
  'an exposure',
);

const timestamp = z
  .string({ error: got('a time such as "2026-05-14T09:02:00Z"') })
  .refine((value) => !Number.isNaN(Date.parse(value)), { error: got('a time such as "2026-05-14T09:02:00Z"') });

/** Relative to the session file and inside its folder: no leading slash, no drive, no "..". */
const relativePath = text('a path').refine(
  (path) => !/^(?:[/\\]|[A-Za-z]:)/.test(path) && !path.split(/[/\\]/).includes('..') && !path.includes('\0'),
  { error: got('a path inside the session’s folder') },
);

export const takeSchema = entry(
  {
    id,
    filter: z.string({ error: got('a filter id, or null for a bare take') }).nullable(),
    scene: text('a scene id'),
    role: oneOf(['measure', 'bracket', 'sweep']).default('measure'),
    files: list(relativePath, 'a list of file paths').min(1, { error: 'expected at least one file' }),
    capturedAt: timestamp.optional(),
    exposure: exposureSchema.default({}),
    setting: entry(
      { mark: finite('a mark').optional(), ringDegrees: finite('an angle in degrees').optional() },
      'a setting',
    ).optional(),
    whiteBalance: z.union([z.string(), z.number()], { error: got('text or kelvin') }).optional(),
    note: z.string({ error: got('text') }).optional(),
    telemetry: relativePath.optional(),
    turn: entry({ fromDegrees: finite('a heading in degrees'), toDegrees: finite('a heading in degrees') }, 'a turn')
      .optional()
      .describe(
        'The camera turned about during the take: headings at its start and end, degrees from north; more than 360° apart for several turns.',
      ),
    span: entry({ from: finite('seconds'), to: finite('seconds') }, 'a span').optional(),
  },
  'a take',
);

export const rectSchema = entry(
  {
    x: fraction('a fraction (0–1)'),
    y: fraction('a fraction (0–1)'),
    width: fraction('a fraction (0–1)').positive({ error: got('a width above 0') }),
    height: fraction('a fraction (0–1)').positive({ error: got('a height above 0') }),
  },
  'a rectangle',
);

export const patchSchema = entry(
  {
    id,
    scene: text('a scene id'),
    role: oneOf(['neutral', 'color', 'edge', 'field', 'black', 'glare', 'reference', 'sky', 'frame']),
    rect: rectSchema.default({ x: 0, y: 0, width: 1, height: 1 }),
    name: z
      .string({ error: got('text') })
      .optional()
      .describe('What people call it; its id stays in readings.'),
  },
  'a patch',
);

/** What a scene's polarized light is known by; all of it may be left out. */
export const opticsSchema = entry(
  {
    screenDegrees: finite('an angle in degrees')
      .optional()
      .describe('Ring angle at which a polarizer whose mark is right lets most of a screen’s light through.'),
    surface: oneOf(['water', 'glass', 'leaf', 'metal'])
      .optional()
      .describe('What reflects at the glare patches, and the angle of view from its normal.'),
    incidenceDegrees: finite('an angle in degrees (0–90)')
      .min(0, { error: got('an angle in degrees (0–90)') })
      .max(90, { error: got('an angle in degrees (0–90)') })
      .optional(),
    sunAngleDegrees: finite('an angle in degrees (0–180)')
      .min(0, { error: got('an angle in degrees (0–180)') })
      .max(180, { error: got('an angle in degrees (0–180)') })
      .optional()
      .describe(
        'Angle between the view at the sky patches and the sun; or place and view, from which it follows with the take’s time.',
      ),
    place: entry({ latitude: finite('degrees north'), longitude: finite('degrees east') }, 'a place').optional(),
    view: entry(
      { azimuth: finite('a heading in degrees'), altitude: finite('degrees above the horizon') },
      'a direction of view',
    ).optional(),
  },
  'what is known of the light',
);

export const sceneSchema = entry(
  {
    id,
    kind: oneOf(['chart', 'flat', 'flare', 'outdoor', 'water', 'sky', 'screen']),
    optics: opticsSchema.optional(),
  },
  'a scene',
);

export const sessionSchema = entry(
  {
    format: z.literal('aurora-glade-session', { error: got('"aurora-glade-session"') }),
    version: z.literal(1, { error: got('1 (newer files need a newer Aurora Glade)') }),
    title: z.string({ error: got('text') }).default('Untitled session'),
    place: z
      .string({ error: got('text') })
      .optional()
      .describe('Where it was shot, in words.'),
    date: z
      .string({ error: got('text') })
      .optional()
      .describe('The day it was shot, such as "2026-05-14".'),
    notes: z
      .string({ error: got('text') })
      .optional()
      .describe('What the reviewer notes of the whole sitting.'),
    rig: rigSchema.default({
      aperture: 'variable',
      response: { kind: 'file' },
      colorSpace: 'srgb',
    }),
    kits: list(kitSchema, 'a list of kits').default([]),
    scenes: list(sceneSchema, 'a list of scenes'),
    takes: list(takeSchema, 'a list of takes'),
    patches: list(patchSchema, 'a list of patches').default([]),
  },
  'a session',
).superRefine((session, context) => {
  const complain = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message });
  const unique = (ids: { id: string; path: (string | number)[] }[]) => {
    const seen = new Set<string>();
    for (const { id: name, path } of ids) {
      if (seen.has(name)) complain(path, `"${name}" is used twice; ids are unique in their list`);
      seen.add(name);
    }
    return seen;
  };
  unique(session.kits.map((kit, i) => ({ id: kit.id, path: ['kits', i, 'id'] })));
  const filters = unique(
    session.kits.flatMap((kit, k) =>
      kit.filters.map((filter, f) => ({ id: filter.id, path: ['kits', k, 'filters', f, 'id'] })),
    ),
  );
  const scenes = unique(session.scenes.map((scene, i) => ({ id: scene.id, path: ['scenes', i, 'id'] })));
  unique(session.takes.map((take, i) => ({ id: take.id, path: ['takes', i, 'id'] })));
  unique(session.patches.map((patch, i) => ({ id: patch.id, path: ['patches', i, 'id'] })));
  session.takes.forEach((take, i) => {
    if (take.filter !== null && !filters.has(take.filter))
      complain(['takes', i, 'filter'], `expected a filter of the kits or null, got "${take.filter}"`);
    if (!scenes.has(take.scene)) complain(['takes', i, 'scene'], `expected one of the scenes, got "${take.scene}"`);
  });
  session.patches.forEach((patch, i) => {
    if (!scenes.has(patch.scene)) complain(['patches', i, 'scene'], `expected one of the scenes, got "${patch.scene}"`);
  });
});

export type Session = z.infer<typeof sessionSchema>;
export type Kit = z.infer<typeof kitSchema>;
export type Filter = z.infer<typeof filterSchema>;
export type Response = z.infer<typeof responseSchema>;
export type Scene = z.infer<typeof sceneSchema>;
export type Optics = z.infer<typeof opticsSchema>;
export type Take = z.infer<typeof takeSchema>;
export type Patch = z.infer<typeof patchSchema>;
export type Rect = z.infer<typeof rectSchema>;
