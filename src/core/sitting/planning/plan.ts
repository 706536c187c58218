/** The list of takes of a sitting: in which order, with which settings, and what can't be exposed. */
import { z } from 'zod';
import { polarizes } from '../../session/polarizing';
import { kitSchema, type Filter } from '../../session/schema';
import { lightNeed, shortOf, wantedExposure, type LightNeed } from './lightBudget';
import { labelledStrength } from './labelledStrength';
import { targetSchema } from './target';
import { planRigSchema, settingFor, type PlanRig, type Setting } from './planRig';

export const PLAN_SCENES = ['chart', 'flat', 'screen'] as const;
export type PlanScene = (typeof PLAN_SCENES)[number];

/** A lens that a scene is shot through. */
export const planLensSchema = z.looseObject({
  name: z.string(),
  widest: z.number().positive(),
  fixedAperture: z.boolean().default(false),
  fNumber: z.number().positive(),
  fieldOfViewDegrees: z.number().positive().optional(),
});

export const planRequestSchema = z.looseObject({
  title: z.string().default('Untitled plan'),
  kit: kitSchema,
  rig: planRigSchema,
  protocol: z.enum(['locked', 'matched', 'automatic']).default('matched'),
  order: z.enum(['lightest', 'darkest', 'mirrored']).default('lightest'),
  scenes: z.array(z.enum(PLAN_SCENES)).min(1),
  repeats: z.number().int().min(1).max(20).default(2),
  /** A bare take after every so many filtered ones. */
  bareEvery: z.number().int().min(1).max(20).default(3),
  /** More bare pictures in the first scene, one and three stops darker, that tell the camera's curve. */
  darkBares: z.boolean().default(false),
  /** Whether the camera's check goes along: one darker bare picture then shows that the camera is still set so. */
  checked: z.boolean().default(false),
  /** Ring angles of a polarizer's sweep. */
  ringAngles: z.number().int().min(3).max(36).default(7),
  /** Stops between marks of a variable filter; its label's range is divided by it. */
  markStep: z.number().positive().default(1),
  /** EV at ISO 100 at the chart. */
  ev100: z.number(),
  /** f-number of all takes. */
  fNumber: z.number().positive(),
  /** Slowest shutter that the target allows, seconds. */
  slowest: z.number().positive(),
  /** By scene; where a scene has none, the rig's aperture and `fNumber` hold. */
  lenses: z.partialRecord(z.enum(PLAN_SCENES), planLensSchema).default({}),
  whiteBalance: z.enum(['locked', 'automatic']).default('locked'),
  /** What pictures are exposed for. */
  exposeFor: z.enum(['middle', 'darker', 'brightest']).default('middle'),
  minutesPerTake: z.number().positive().default(1.5),
  target: targetSchema.optional(),
  /** Of the rig that flies, for the check of mass. */
  aircraft: z.looseObject({ massGrams: z.number().positive(), limitGrams: z.number().positive() }).optional(),
  /** Lines of one's own below the checklist. */
  checklist: z.array(z.string().max(300)).max(50).default([]),
});

export type PlanRequest = z.infer<typeof planRequestSchema>;

/** One take to shoot. */
export interface PlannedTake {
  id: string;
  filter: string | null;
  scene: PlanScene;
  role: 'measure' | 'sweep' | 'bracket';
  ringDegrees?: number;
  mark?: number;
  setting: Setting;
  repeats: number;
  /** Stops that the picture lies below what the meter calls for; negative is brighter. */
  short: number;
  /** Minutes from the start. */
  minute: number;
}

export interface FilterOutlook {
  filter: string;
  /** Labelled stops that the plan reckons with; `null` for an unmarked filter, which is reckoned as bare. */
  strength: number | null;
  need: LightNeed;
  /** Why it can't be shot as planned; `null` where it can. */
  cannot: string | null;
}

export interface Plan {
  takes: PlannedTake[];
  outlook: FilterOutlook[];
  /** Why bare itself can't be shot at this light; `null` where it can. */
  bareCannot: string | null;
  minutes: number;
  /** Batteries beyond the first, where the rig says how long one lasts. */
  batteryChanges: number | null;
}

/** Pictures may lie this far off the meter's wish and still measure well, stops (common practice, no source: ±0.7 EV is workable). */
export const WORKABLE_STOPS = 0.7;

interface Step {
  filter: Filter | null;
  strength: number;
  role: PlannedTake['role'];
  ringDegrees?: number;
  mark?: number;
  /** Stops that it is exposed less by. */
  darker?: number;
}

/** How much darker the bare pictures are that tell a camera's curve, stops: brighter ones would clip (our own trials). */
const DARK_BARES = [1, 3];
/**
 * Of a checked camera: matched strengths hardly hang on its curve; locked ones do altogether, and no locked picture would show that a
 * style was changed since.
 */
const WITNESS = { matched: [], locked: [3] } as const;

/** Bare pictures that are shot darker, stops. */
export function darkBaresOf({ darkBares, checked, protocol }: Pick<PlanRequest, 'darkBares' | 'checked' | 'protocol'>) {
  return !darkBares ? [] : checked ? (protocol === 'locked' ? WITNESS.locked : WITNESS.matched) : DARK_BARES;
}

/** Plans a sitting. */
export function makePlan(request: PlanRequest): Plan {
  const takes: PlannedTake[] = [];
  for (const scene of request.scenes) {
    const bare = settingAt(request, scene, 0);
    const counts = new Map<string, number>();
    for (const step of orderOf(request, scene)) {
      const name = nameOf(step, scene);
      const count = (counts.get(name) ?? 0) + 1;
      counts.set(name, count);
      const setting = step.darker
        ? settingAt(request, scene, -step.darker)
        : request.protocol === 'locked'
          ? bare
          : settingAt(request, scene, step.strength);
      takes.push({
        id: step.filter && count === 1 ? name : `${name}-${count}`,
        filter: step.filter?.id ?? null,
        scene,
        role: step.role,
        ...(step.ringDegrees === undefined ? {} : { ringDegrees: step.ringDegrees }),
        ...(step.mark === undefined ? {} : { mark: step.mark }),
        setting,
        repeats: step.darker ? 1 : request.repeats,
        short: shortOf(setting, request.ev100, step.strength) - (step.darker ?? 0),
        minute: takes.length * request.minutesPerTake,
      });
    }
  }
  const minutes = takes.length * request.minutesPerTake;
  const { batteryMinutes } = request.rig;
  return {
    takes,
    outlook: request.kit.filters.map((filter) => outlookOf(request, filter, takes)),
    bareCannot: cannotShoot(
      request,
      takes.filter((take) => take.filter === null && take.role === 'measure'),
    ),
    minutes,
    batteryChanges: batteryMinutes === undefined ? null : Math.max(0, Math.ceil(minutes / batteryMinutes) - 1),
  };
}

/** What a scene's lens makes of the rig. */
function throughLens({ rig, fNumber, lenses }: PlanRequest, scene: PlanScene): { rig: PlanRig; fNumber: number } {
  const lens = lenses[scene];
  if (!lens) return { rig, fNumber };
  const { widest, fixedAperture } = lens;
  return { rig: { ...rig, widest, fixedAperture }, fNumber: fixedAperture ? widest : Math.max(widest, lens.fNumber) };
}

/**
 * Stops that a school exposes less than the meter wants. On a chart the meter's gray lies 2.5 stops below clipping and white paper (90 %)
 * 0.2: a third less keeps half a stop above the paper.
 */
export const EXPOSED_LESS = { middle: 0, darker: 2 / 3, brightest: 1 / 3 } as const;

/** Settings that make a filtered picture as bright as the meter and the school want it. */
function settingAt(request: PlanRequest, scene: PlanScene, strength: number): Setting {
  const { ev100, slowest, exposeFor } = request;
  const { rig, fNumber } = throughLens(request, scene);
  return settingFor(
    rig,
    wantedExposure(ev100, strength) - EXPOSED_LESS[exposeFor],
    fNumber,
    Math.min(slowest, rig.slowest),
  ).setting;
}

function outlookOf(request: PlanRequest, filter: Filter, takes: readonly PlannedTake[]): FilterOutlook {
  const { ev100, slowest } = request;
  const label = labelledStrength(filter);
  // The scene that asks for most light speaks.
  const needs = request.scenes.map((scene) => {
    const { rig, fNumber } = throughLens(request, scene);
    return lightNeed(rig, ev100, label ?? 0, fNumber, Math.min(slowest, rig.slowest));
  });
  return {
    filter: filter.id,
    strength: label,
    need: needs.reduce((worst, one) => (one.lux > worst.lux ? one : worst)),
    cannot: cannotShoot(
      request,
      takes.filter((take) => take.filter === filter.id),
    ),
  };
}

/** Why takes can't be exposed: the darkest and the brightest of them speak. */
function cannotShoot({ protocol, rig, exposeFor }: PlanRequest, takes: readonly PlannedTake[]): string | null {
  const off = takes.map((take) => take.short - EXPOSED_LESS[exposeFor]);
  const darkest = Math.max(...off);
  const brightest = Math.min(...off);
  // A meter's gray lies some two and a half stops below clipping; what is left of the usable range carries a locked picture.
  const reach = protocol === 'locked' ? rig.usableStops - 2.5 : WORKABLE_STOPS;
  if (darkest > reach)
    return protocol === 'locked'
      ? `Locked, it would lie ${darkest.toFixed(1)} stops down, under the noise: match its exposure instead.`
      : `It would still be ${darkest.toFixed(1)} stops too dark with everything at its limit.`;
  if (brightest < -WORKABLE_STOPS)
    return `Even the fastest shutter leaves it ${(-brightest).toFixed(1)} stops too bright: less light, or a smaller aperture.`;
  return null;
}

const nameOf = ({ filter, ringDegrees, mark, darker }: Step, scene: PlanScene) =>
  darker
    ? `${scene}-dark`
    : filter
      ? `${scene}-${filter.id}${ringDegrees === undefined ? '' : `-r${ringDegrees}`}${mark === undefined ? '' : `-m${mark}`}`
      : `${scene}-bare`;

/** Filters of a scene in the chosen order, bare at both ends and in between. */
function orderOf(request: PlanRequest, scene: PlanScene): Step[] {
  const { kit, order, bareEvery } = request;
  const row = [...kit.filters].sort((a, b) => (labelledStrength(a) ?? 0) - (labelledStrength(b) ?? 0));
  if (order === 'darkest') row.reverse();
  const once = row.flatMap((filter) => stepsOf(request, filter, scene));
  if (once.length === 0) return [];
  const steps = order === 'mirrored' ? [...once, ...[...once].reverse()] : once;
  const bare: Step = { filter: null, strength: 0, role: 'measure' };
  const dark = scene === request.scenes.find((one) => one !== 'screen') ? darkBaresOf(request) : [];
  const ordered: Step[] = [
    bare,
    ...dark.map((darker): Step => ({ filter: null, strength: 0, role: 'bracket', darker })),
  ];
  // A mirrored row gets its bares at mirrored places too, so that a steady drift cancels.
  const half = order === 'mirrored' ? once.length : steps.length;
  steps.forEach((step, i) => {
    ordered.push(step);
    const done = i + 1;
    const inHalf = done <= half ? done : steps.length - done;
    if (done < steps.length && (inHalf % bareEvery === 0 || (order === 'mirrored' && done === half)))
      ordered.push(bare);
  });
  return [...ordered, bare];
}

function stepsOf({ ringAngles, markStep }: PlanRequest, filter: Filter, scene: PlanScene): Step[] {
  // A graduated filter's clear half would clip under the exposure that its dense half calls for.
  const strength = filter.kind === 'graduated-nd' ? 0 : (labelledStrength(filter) ?? 0);
  const polarizing = polarizes(filter);
  if (scene === 'screen')
    return polarizing
      ? Array.from({ length: ringAngles }, (_, i): Step => ({
          filter,
          strength,
          role: 'sweep',
          ringDegrees: Math.round((180 * i) / ringAngles),
        }))
      : [];
  // Lamps are seldom wholly unpolarized: two angles 90° apart average that out.
  if (polarizing) return [0, 90].map((ringDegrees): Step => ({ filter, strength, role: 'measure', ringDegrees }));
  const range = filter.nominal.stopsRange;
  if (!range) return [{ filter, strength, role: 'measure' }];
  const [low, high] = [Math.min(...range), Math.max(...range)];
  const count = Math.max(2, Math.round((high - low) / markStep) + 1);
  return Array.from({ length: count }, (_, i): Step => {
    const mark = Math.round((low + ((high - low) * i) / (count - 1)) * 100) / 100;
    return { filter, strength: mark, role: 'sweep', mark };
  });
}
