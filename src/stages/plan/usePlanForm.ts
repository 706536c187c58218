import { useMemo } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { parseShutter, writeShutter } from '@/core/formulas/optics/exposure';
import { parseKitShorthand } from '@/core/sitting/kits/shorthand';
import { planRigOf, type KeptRig } from '@/core/sitting/kits/keptRig';
import { needsDarkBares } from '@/core/light/camera/trust';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import { makePlan, planRequestSchema, type Plan, type PlanRequest, type PlanScene } from '@/core/sitting/planning/plan';
import { readLight } from '@/core/sitting/planning/lightBudget';
import { slowestOf, targetSchema, type Target } from '@/core/sitting/planning/target';
import { warnOf, type PlanWarning } from '@/core/sitting/planning/warnings';

export const PLAN_SCENES: readonly (readonly [PlanScene, string])[] = [
  ['chart', 'chart'],
  ['flat', 'even wall'],
  ['screen', 'white screen'],
];

/** What a person types; numbers stay text until they can be read. */
export interface PlanForm {
  title: string;
  kitName: string;
  shorthand: string;
  /** Of the shelf; the shorthand stands where there is none. */
  kit: KeptKit | null;
  /** Of the shelf: its lenses and frame rates are offered. */
  rig: KeptRig | null;
  /** Index of the rig's lens that a scene is shot through. */
  sceneLens: Partial<Record<PlanScene, number>>;
  protocol: PlanRequest['protocol'];
  order: PlanRequest['order'];
  scenes: PlanRequest['scenes'];
  light: string;
  target: Target['kind'];
  frameRate: string;
  angle: string;
  interval: string;
  seconds: string;
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
  exposeFor: PlanRequest['exposeFor'];
  repeats: string;
  darkBares: boolean;
  checked: boolean;
  bareEvery: string;
  ringAngles: string;
  minutesPerTake: string;
  batteryMinutes: string;
  checklist: string[];
}

export const EMPTY_FORM: PlanForm = {
  title: '',
  kitName: '',
  shorthand: 'ND4 8 16 32 64 CPL',
  kit: null,
  rig: null,
  sceneLens: {},
  protocol: 'matched',
  order: 'lightest',
  scenes: ['chart', 'flat'],
  light: '2000 lx',
  target: 'stills',
  frameRate: '25',
  angle: '180',
  interval: '4',
  seconds: '10',
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
  exposeFor: 'middle',
  repeats: '2',
  darkBares: true,
  checked: false,
  bareEvery: '3',
  ringAngles: '7',
  minutesPerTake: '1.5',
  batteryMinutes: '',
  checklist: [],
};

/** A form with what a rig of the shelf says filled in. */
export function withRig(form: PlanForm, rig: KeptRig | null): PlanForm {
  if (!rig) return { ...form, rig: null, sceneLens: {} };
  const lens = rig.lenses[0];
  const planRig = planRigOf(rig, lens, 'stills');
  return {
    ...form,
    rig,
    sceneLens: {},
    fNumber: String(lens.widest),
    aperture: lens.aperture,
    widest: String(lens.widest),
    ...shuttersOf(rig, form.target),
    baseIso: String(rig.baseIso),
    highestIso: String(rig.highestIso),
    step: String(rig.step),
    marks: rig.shutterMarks,
    darkBares: needsDarkBares(rig.profiles[0]?.response ?? { kind: 'file' }),
    checked: rig.profiles[0]?.check !== undefined,
    usableStops: String(planRig.usableStops),
    batteryMinutes: rig.batteryMinutes === undefined ? '' : String(rig.batteryMinutes),
    frameRate: rig.frameRates.length > 0 ? String(rig.frameRates[0]) : form.frameRate,
  };
}

function shuttersOf(rig: KeptRig, target: Target['kind']): Pick<PlanForm, 'fastest' | 'slowest'> {
  const { fastest, slowest } = target === 'clips' ? rig.video : rig.stills;
  return { fastest: markOf(fastest), slowest: markOf(slowest) };
}

const markOf = (seconds: number) => writeShutter(seconds).replace(/ s$/, '');

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
  const kit = form.kit ?? kitOfShorthand(form, problems);
  if (kit.filters.length === 0) problems.push('Type the kit, for example ND4 8 16 32 64 CPL.');
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
  const target = targetOf(form, problems);
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
    kit,
    rig: {
      ...(form.rig ? { camera: form.rig.camera } : {}),
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
    exposeFor: form.exposeFor,
    darkBares: form.darkBares,
    checked: form.checked,
    ev100: (light as { ev100: number }).ev100,
    fNumber,
    slowest: target ? slowestOf(target, slowest) : slowest,
    ...(target ? { target } : {}),
    lenses: lensesOf(form),
    ...(form.rig?.aircraft ? { aircraft: form.rig.aircraft } : {}),
    checklist: form.checklist,
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

function kitOfShorthand({ kitName, shorthand }: PlanForm, problems: string[]) {
  const { filters, problems: words } = parseKitShorthand(shorthand);
  problems.push(...words.map((one) => one.message));
  return { id: 'kit', name: kitName.trim() || 'Kit', filters };
}

function targetOf({ target, frameRate, angle, interval, seconds }: PlanForm, problems: string[]): Target | null {
  const parsed = targetSchema.safeParse({
    kind: target,
    frameRate: numberOf(frameRate),
    angle: numberOf(angle),
    intervalSeconds: numberOf(interval),
    seconds: numberOf(seconds),
  });
  if (parsed.success) return parsed.data;
  const WORDS: Record<string, string> = {
    frameRate: 'The frame rate is a number of frames a second.',
    angle: 'The shutter angle lies between 0 and 360°.',
    intervalSeconds: 'The interval is a number of seconds.',
    seconds: 'The long exposure is a number of seconds.',
  };
  problems.push(...parsed.error.issues.map(({ path, message }) => WORDS[String(path[0])] ?? message));
  return null;
}

/** Lenses that scenes are shot through, where the rig has several. */
function lensesOf({ rig, sceneLens, fNumber, scenes }: PlanForm): PlanRequest['lenses'] {
  if (!rig) return {};
  return Object.fromEntries(
    scenes.map((scene) => {
      const lens = rig.lenses[sceneLens[scene] ?? 0] ?? rig.lenses[0];
      const fixedAperture = lens.aperture === 'fixed';
      return [
        scene,
        {
          name: lens.name,
          widest: lens.widest,
          fixedAperture,
          fNumber: fixedAperture ? lens.widest : Math.max(lens.widest, numberOf(fNumber) || lens.widest),
          ...(lens.fieldOfViewDegrees === undefined ? {} : { fieldOfViewDegrees: lens.fieldOfViewDegrees }),
        },
      ];
    }),
  );
}

/** The form and what it comes to. */
export function usePlanForm(first: PlanForm = EMPTY_FORM) {
  const { control, setValue, getValues } = useForm<PlanForm>({ defaultValues: first });
  const form = useWatch({ control }) as PlanForm;
  const outcome = useMemo(() => readForm(form), [form]);
  const change = (part: Partial<PlanForm>) => {
    const { rig } = { ...getValues(), ...part };
    // Clips have shutters of their own.
    const whole = part.target && rig ? { ...part, ...shuttersOf(rig, part.target) } : part;
    for (const [key, value] of Object.entries(whole)) setValue(key as keyof PlanForm, value as never);
  };
  return { control, form, change, ...outcome };
}
