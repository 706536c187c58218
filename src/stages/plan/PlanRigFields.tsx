import type { Control } from 'react-hook-form';
import { sameWords, type Option } from '@/ui/controls/Select';
import { PlanChoice, PlanText } from './planControls';
import { PLAN_SCENES, type PlanForm } from './usePlanForm';

const APERTURES = sameWords(['variable', 'fixed'] as const);
const WHITE_BALANCES = sameWords(['locked', 'automatic'] as const);
const STEPS: readonly Option<string>[] = [
  [String(1 / 3), 'thirds of a stop'],
  ['0.5', 'half stops'],
  ['1', 'whole stops'],
  ['0', 'any value'],
];
const MARKS: readonly Option<PlanForm['marks']>[] = [
  ['nominal', '1/60 means 1/64'],
  ['exact', '1/60 is 1/60'],
];

/** What the camera can be set to; a rig of the shelf fills it in, and more than one lens is chosen a scene. */
export function PlanRigFields({
  control,
  form,
  change,
}: {
  control: Control<PlanForm>;
  form: PlanForm;
  change: (part: Partial<PlanForm>) => void;
}) {
  const { rig, sceneLens } = form;
  return (
    <>
      {rig &&
        rig.lenses.length > 1 &&
        form.scenes.map((scene) => (
          <PlanChoice
            key={scene}
            label={`Lens for the ${PLAN_SCENES.find(([one]) => one === scene)![1]}`}
            value={String(sceneLens[scene] ?? 0)}
            options={rig.lenses.map((lens, i) => [String(i), lens.name] as const)}
            onChange={(lens) => change({ sceneLens: { ...sceneLens, [scene]: Number(lens) } })}
          />
        ))}
      <PlanText control={control} name="fNumber" label="f-number of all takes" />
      <PlanChoice
        label="Aperture"
        value={form.aperture}
        options={APERTURES}
        onChange={(aperture) => change({ aperture })}
      />
      {form.aperture === 'variable' && <PlanText control={control} name="widest" label="Widest f-number" />}
      <PlanText control={control} name="fastest" label="Fastest shutter" />
      <PlanText control={control} name="slowest" label="Slowest shutter" />
      <PlanText control={control} name="baseIso" label="Base ISO" />
      <PlanText control={control} name="highestIso" label="Highest ISO" />
      <PlanChoice label="Steps" value={form.step} options={STEPS} onChange={(step) => change({ step })} />
      <PlanChoice label="Shutter marks" value={form.marks} options={MARKS} onChange={(marks) => change({ marks })} />
      <PlanText control={control} name="usableStops" label="Usable range, stops" />
      <PlanChoice
        label="White balance"
        value={form.whiteBalance}
        options={WHITE_BALANCES}
        onChange={(whiteBalance) => change({ whiteBalance })}
      />
    </>
  );
}
