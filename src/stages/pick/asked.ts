/** What is asked of Pick: remembered by the browser, so that the field needs no typing. */
import { z } from 'zod';
import { PICK_SCHOOLS, pickFilters, type Picked } from '@/core/judging/pick/pick';
import { ROUGH_LIGHT } from '@/core/judging/pick/roughLight';
import { readLight } from '@/core/sitting/planning/lightBudget';
import type { PlanRig } from '@/core/sitting/planning/planRig';
import { targetSeconds, type Target } from '@/core/sitting/planning/target';
import type { PickKit, PickRig } from '@/server/pickList';
import { recall, remember } from '@/ui/remembered';

/** `NaN` while a field is empty, which JSON writes as null. */
const amount = z
  .number()
  .nullable()
  .transform((value) => value ?? NaN);
const askedSchema = z.object({
  kit: z.string(),
  rig: z.string(),
  light: z.string(),
  /** Words of a rough light; empty for what the meter says. */
  rough: z.string(),
  target: z.enum(['clips', 'hyperlapse', 'long exposure']),
  frameRate: amount,
  angle: amount,
  interval: amount,
  seconds: amount,
  iso: amount,
  fNumber: amount,
  school: z.enum(PICK_SCHOOLS.map((one) => one.school)),
  brightest: amount,
  stack: z.boolean(),
});
export type Asked = z.infer<typeof askedSchema>;

export const FIRST: Asked = {
  kit: '',
  rig: '',
  light: '1/1600 f/2.8 ISO 100',
  rough: '',
  target: 'clips',
  frameRate: 25,
  angle: 180,
  interval: 2,
  seconds: 10,
  iso: 100,
  fNumber: 2.8,
  school: 'darker',
  brightest: 1,
  stack: false,
};
const KEPT = 'glade.pick';
/** A rig for those who keep none. */
const ANY_RIG: PlanRig = {
  camera: 'Any camera',
  widest: 1,
  fixedAperture: false,
  baseIso: 100,
  highestIso: 6400,
  fastest: 1 / 8000,
  slowest: 60,
  step: 0,
  usableStops: 8,
  shutterMarks: 'exact',
};

/** What was asked last in this browser, as far as it can be read. */
export const lastAsked = (): Partial<Asked> => recall(KEPT, askedSchema.partial()) ?? {};

/** Remembers what is asked. */
export const keepAsked = (asked: Asked): void => remember(KEPT, asked);

/** What the kit answers. */
export interface Answer {
  /** Wanted shutter, seconds. */
  wanted: number;
  /** What can't be read, a sentence; nothing is picked then. */
  problem: string | null;
  /** The light is a rough guess, with its EV at ISO 100. */
  rough: number | null;
  /** Fixed f-number of the lens. */
  fixed: number | null;
  /** Best first. */
  picked: Picked[];
}

/** Picks for what is asked, with a kit and within a rig's limits. */
export function answerOf(asked: Asked, kit: PickKit | undefined, rig: PickRig | undefined): Answer {
  const limits = (asked.target === 'clips' ? rig?.clips : rig?.stills) ?? ANY_RIG;
  const rough = ROUGH_LIGHT.find((one) => one.words === asked.rough);
  const light = rough ? { ev100: rough.ev100 } : readLight(asked.light);
  const wanted = targetSeconds(targetOf(asked))!;
  const fNumber = limits.fixedAperture ? limits.widest : asked.fNumber;
  const problem =
    'problem' in light
      ? light.problem
      : !(wanted > 0 && Number.isFinite(wanted)) || !(asked.iso > 0) || !(fNumber > 0)
        ? 'Every setting is a number above 0.'
        : null;
  const common = { wanted, problem, rough: rough?.ev100 ?? null, fixed: limits.fixedAperture ? limits.widest : null };
  if (!kit || !('ev100' in light) || problem !== null) return { ...common, picked: [] };
  const request = {
    ev100: light.ev100,
    wanted,
    iso: asked.iso,
    fNumber,
    school: asked.school,
    brightest: asked.brightest,
    rig: limits,
    ...(rig?.narrowest ? { narrowest: rig.narrowest } : {}),
    stack: asked.stack,
  };
  return { ...common, picked: pickFilters(request, kit.filters) };
}

function targetOf({ target, frameRate, angle, interval, seconds }: Asked): Target {
  if (target === 'clips') return { kind: 'clips', frameRate, angle };
  if (target === 'hyperlapse') return { kind: 'hyperlapse', intervalSeconds: interval, angle };
  return { kind: 'long exposure', seconds };
}
