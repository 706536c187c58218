import type { Control } from 'react-hook-form';
import type { KeptRig } from '@/core/sitting/kits/keptRig';
import {
  FormMaybeNumber,
  FormNumber,
  FormNumbers,
  FormSelect,
  FormShutter,
  FormText,
  type Named,
} from '@/ui/controls/form';

/** A rig as its form has it. */
export type RigForm = Named<KeptRig>;

/** The lines of a rig's page. */
export const LINE = 'flex gap-3 flex-wrap items-end mt-2';

const STEPS: readonly (readonly [KeptRig['step'], string])[] = [
  [1 / 3, 'thirds of a stop'],
  [0.5, 'half stops'],
  [1, 'whole stops'],
  [0, 'any value'],
];
const MARKS: readonly (readonly [KeptRig['shutterMarks'], string])[] = [
  ['nominal', '1/60 means 1/64'],
  ['exact', '1/60 is 1/60'],
];

/** What the camera's dials can be set to. */
export function RigCamera({ control }: { control: Control<RigForm> }) {
  return (
    <section aria-label="Camera">
      <div className={LINE}>
        <FormText control={control} name="camera" label="Camera" width="w-[220px]" />
        <FormNumber control={control} name="baseIso" label="Base ISO" />
        <FormNumber control={control} name="highestIso" label="Highest ISO" />
        <FormSelect control={control} name="step" label="Steps of its dials" options={STEPS} />
        <FormSelect control={control} name="shutterMarks" label="Shutter marks" options={MARKS} />
      </div>
      <div className={LINE}>
        <FormShutter control={control} name="stills.fastest" label="Fastest, stills" />
        <FormShutter control={control} name="stills.slowest" label="Slowest, stills" />
        <FormShutter control={control} name="video.fastest" label="Fastest, clips" />
        <FormShutter control={control} name="video.slowest" label="Slowest, clips" />
        <FormNumbers control={control} name="frameRates" label="Frame rates" />
        <FormMaybeNumber control={control} name="batteryMinutes" label="Battery, minutes" />
      </div>
    </section>
  );
}
