import { useWatch, type Control, type UseFormSetValue } from 'react-hook-form';
import { Checkbox } from '@/ui/controls/Checkbox';
import { FormNumber } from '@/ui/controls/form';
import { LINE, type RigForm } from './RigCamera';

/** A usual small one, just below a common class limit. */
const USUAL = { massGrams: 249, limitGrams: 250 };

/** What the camera's aircraft weighs and may weigh. */
export function RigAircraft({ control, setValue }: { control: Control<RigForm>; setValue: UseFormSetValue<RigForm> }) {
  const aircraft = useWatch({ control, name: 'aircraft' });
  return (
    <section aria-label="Aircraft" className="mt-5">
      <h2>Aircraft</h2>
      <Checkbox
        className="mt-1"
        checked={aircraft !== undefined}
        onChange={(flies) => setValue('aircraft', flies ? USUAL : undefined, { shouldDirty: true })}
      >
        The camera flies
      </Checkbox>
      {aircraft && (
        <div className={LINE}>
          <FormNumber
            control={control}
            name="aircraft.massGrams"
            label="Ready to fly, without a filter, g"
            width="w-[150px]"
          />
          <FormNumber control={control} name="aircraft.limitGrams" label="Limit of its class, g" width="w-[150px]" />
        </div>
      )}
      <p className="text-ink-3 text-small mt-2 max-w-[72ch]">
        A kit’s page checks each filter’s mass against this limit. Local rules, licensed practice and the maker’s manual
        come first.
      </p>
    </section>
  );
}
