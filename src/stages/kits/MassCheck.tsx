'use client';

import { useForm, useWatch } from 'react-hook-form';
import { checkMass } from '@/core/sitting/kits/mass';
import type { KeptFilter } from '@/core/sitting/kits/keptKit';
import { Labelled, TextInput } from '@/ui/controls/fields';
import { Select } from '@/ui/controls/Select';

export interface KnownAircraft {
  rig: string;
  massGrams: number;
  limitGrams: number;
}

const grams = (value: number) => `${value.toFixed(1)} g`;
const numberOf = (text: string) => Number(text.replace(',', '.'));

/** Whether a filter lifts the aircraft over its class limit. */
export function MassCheck({
  filters,
  aircraft,
}: {
  filters: readonly KeptFilter[];
  aircraft: readonly KnownAircraft[];
}) {
  const [first] = aircraft;
  const { control, register, reset } = useForm({ defaultValues: typedOf(0, first) });
  const { rig, mass, limit } = useWatch({ control }) as Typed;
  const [massGrams, limitGrams] = [numberOf(mass), numberOf(limit)];
  const found = massGrams > 0 && limitGrams > 0 ? checkMass(filters, { massGrams, limitGrams }) : null;
  const nameOf = (id: string) => filters.find((one) => one.id === id)?.name ?? id;
  return (
    <section aria-label="Mass on an aircraft" className="mt-7">
      <h2>Mass on an aircraft</h2>
      <div className="flex gap-4 flex-wrap items-end mt-2">
        {aircraft.length > 0 && (
          <Labelled words="Rig">
            <Select
              className="min-w-[170px]"
              value={rig}
              options={aircraft.map((one, i) => [String(i), one.rig])}
              onChange={(chosen) => reset(typedOf(Number(chosen), aircraft[Number(chosen)]))}
            />
          </Labelled>
        )}
        <Labelled words="Ready to fly, without a filter, g">
          <TextInput className="w-[110px] text-right" {...register('mass')} />
        </Labelled>
        <Labelled words="Limit of its class, g">
          <TextInput className="w-[110px] text-right" {...register('limit')} />
        </Labelled>
        <p className={`pb-2 ${found && found.over.length > 0 ? 'text-warning' : ''}`} role="status">
          {wordsOf(found, nameOf)}
          {found && found.left !== null && found.unknown.length > 0 && (
            <span className="text-ink-2"> Not weighed: {found.unknown.map(nameOf).join(', ')}.</span>
          )}
        </p>
      </div>
      <p className="text-ink-3 text-small mt-2 max-w-[72ch]">
        Which limit applies to you, local rules and the maker’s manual say. Weigh the aircraft as it takes off, with
        battery, card and guards.
      </p>
    </section>
  );
}

function wordsOf(found: ReturnType<typeof checkMass> | null, nameOf: (id: string) => string): string {
  if (!found) return 'Type both to check.';
  if (found.over.length > 0)
    return `Over the limit: ${found.over.map((one) => `${nameOf(one.filter)} by ${grams(one.grams)}`).join(', ')}.`;
  if (found.left === null) return 'No filter’s mass is known: weigh them and fill in the column.';
  return `The heaviest filter leaves ${grams(found.left)} under the limit.`;
}

type Typed = { rig: string; mass: string; limit: string };

const typedOf = (i: number, aircraft: KnownAircraft | undefined): Typed => ({
  rig: String(i),
  mass: aircraft ? String(aircraft.massGrams) : '',
  limit: aircraft ? String(aircraft.limitGrams) : '',
});
