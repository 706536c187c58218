import { useMemo, useState } from 'react';
import { parseShutter } from '@/core/exposure';
import { parseKitShorthand } from '@/core/labels';
import {
  makePlan,
  planRequestSchema,
  readLight,
  warnOf,
  type Plan,
  type PlanRequest,
  type PlanWarning,
} from '@/core/planning';

/** What a person types; numbers stay text until they can be read. */
export interface PlanForm {
  title: string;
  kitName: string;
  shorthand: string;
  protocol: PlanRequest['protocol'];
  order: PlanRequest['order'];
  scenes: PlanRequest['scenes'];
  light: string;
  target: string;
  fNumber: string;
  aperture: 'variable' | 'fixed';
  widest: string;
  fastest: string;
  slowest: string;
  baseIso: string;
  highestIso: string;
  step: string;
  marks: 'exact' | 'nominal';
  usableStops: string;
  whiteBalance: PlanRequest['whiteBalance'];
  repeats: string;
  bareEvery: string;
  ringAngles: string;
  minutesPerTake: string;
  batteryMinutes: string;
}

export const EMPTY_FORM: PlanForm = {
  title: '',
  kitName: '',
  shorthand: 'ND4 8 16 32 64 CPL',
  protocol: 'matched',
  order: 'lightest',
  scenes: ['chart', 'flat'],
  light: '2000 lx',
  target: 'stills',
  fNumber: '2.8',
  aperture: 'variable',
  widest: '2.8',
  fastest: '1/8000',
  slowest: '1',
  baseIso: '100',
  highestIso: '3200',
  step: String(1 / 3),
  marks: 'nominal',
  usableStops: '8',
  whiteBalance: 'locked',
  repeats: '2',
  bareEvery: '3',
  ringAngles: '7',
  minutesPerTake: '1.5',
  batteryMinutes: '',
};

export interface PlanOutcome {
  request: PlanRequest | null;
  plan: Plan | null;
  warnings: PlanWarning[];
  /** What can't be read, a sentence each. */
  problems: string[];
}

const numberOf = (text: string) => Number(text.replace(',', '.'));

/** A form as a request, or why it isn't one. */
export function readForm(form: PlanForm): PlanOutcome {
  const problems: string[] = [];
  const { filters, problems: words } = parseKitShorthand(form.shorthand);
  problems.push(...words.map((one) => one.message));
  if (filters.length === 0) problems.push('Type the kit, for example ND4 8 16 32 64 CPL.');
  const light = readLight(form.light);
  if ('problem' in light) problems.push(light.problem);
  const positive = (text: string, what: string) => {
    const value = numberOf(text);
    if (!(value > 0)) problems.push(`${what} is a number above 0.`);
    return value;
  };
  const seconds = (text: string, what: string) => {
    const value = parseShutter(text);
    if (value === null) problems.push(`${what}: write 1/8000, or seconds.`);
    return value ?? 1;
  };
  const [fastest, slowest] = [seconds(form.fastest, 'Fastest shutter'), seconds(form.slowest, 'Slowest shutter')];
  if (fastest > slowest) problems.push('The fastest shutter is slower than the slowest.');
  const [base, highest] = [positive(form.baseIso, 'Base ISO'), positive(form.highestIso, 'Highest ISO')];
  if (base > highest) problems.push('The highest ISO lies below the base ISO.');
  const fNumber = positive(form.fNumber, 'The f-number');
  const widest = form.aperture === 'fixed' ? fNumber : Math.min(fNumber, positive(form.widest, 'The widest aperture'));
  const frames = form.target === 'stills' ? null : numberOf(form.target);
  const common = {
    repeats: numberOf(form.repeats),
    bareEvery: numberOf(form.bareEvery),
    ringAngles: numberOf(form.ringAngles),
    minutesPerTake: positive(form.minutesPerTake, 'The time of a take'),
  };
  if (form.scenes.length === 0) problems.push('Choose at least one scene.');
  if (problems.length > 0) return { request: null, plan: null, warnings: [], problems };
  const parsed = planRequestSchema.safeParse({
    title: form.title.trim() || 'Untitled plan',
    kit: { id: 'kit', name: form.kitName.trim() || 'Kit', filters },
    rig: {
      widest,
      fixedAperture: form.aperture === 'fixed',
      baseIso: base,
      highestIso: highest,
      fastest,
      slowest,
      step: numberOf(form.step),
      usableStops: positive(form.usableStops, 'The usable range'),
      shutterMarks: form.marks,
      ...(numberOf(form.batteryMinutes) > 0 ? { batteryMinutes: numberOf(form.batteryMinutes) } : {}),
    },
    protocol: form.protocol,
    order: form.order,
    scenes: form.scenes,
    whiteBalance: form.whiteBalance,
    ev100: (light as { ev100: number }).ev100,
    fNumber,
    slowest: frames === null ? slowest : Math.min(slowest, 1 / frames),
    ...common,
  });
  if (!parsed.success)
    return {
      request: null,
      plan: null,
      warnings: [],
      problems: parsed.error.issues.map(({ path, message }) => `${path.join(' ')}: ${message}`),
    };
  const plan = makePlan(parsed.data);
  return { request: parsed.data, plan, warnings: warnOf(parsed.data, plan), problems: [] };
}

/** The form and what it comes to. */
export function usePlanForm() {
  const [form, setForm] = useState(EMPTY_FORM);
  const outcome = useMemo(() => readForm(form), [form]);
  return { form, change: (part: Partial<PlanForm>) => setForm((now) => ({ ...now, ...part })), ...outcome };
}
