import type { Control } from 'react-hook-form';
import { sameWords, type Option } from '@/ui/controls/Select';
import { PlanChoice, PlanText } from './planControls';
import type { PlanForm } from './usePlanForm';

const TARGETS: readonly Option<PlanForm['target']>[] = [
  ...sameWords(['stills', 'clips'] as const),
  ['hyperlapse', 'a hyperlapse'],
  ['long exposure', 'a long exposure'],
];
const USUAL_RATES = [24, 25, 30, 50, 60];

/** What the filters are wanted for, and the shutter that follows from it. */
export function PlanTarget({
  control,
  form,
  change,
}: {
  control: Control<PlanForm>;
  form: PlanForm;
  change: (part: Partial<PlanForm>) => void;
}) {
  return (
    <>
      <PlanChoice
        label="What is shot"
        value={form.target}
        options={TARGETS}
        onChange={(target) => change({ target })}
      />
      {form.target === 'clips' && (
        <>
          <PlanText
            control={control}
            name="frameRate"
            label="Frames a second"
            list={form.rig?.frameRates ?? USUAL_RATES}
          />
          <PlanText control={control} name="angle" label="Shutter angle, °" />
        </>
      )}
      {form.target === 'hyperlapse' && (
        <>
          <PlanText control={control} name="interval" label="Seconds between pictures" />
          <PlanText control={control} name="angle" label="Open for, ° of the interval" />
        </>
      )}
      {form.target === 'long exposure' && <PlanText control={control} name="seconds" label="Open for, seconds" />}
    </>
  );
}
