'use client';

import { Download } from 'lucide-react';
import { useMemo, useState } from 'react';
import { HOME, roundRobin, roundRobinSchema, type Turn } from '@/core/judging/agreement/roundRobin';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import { buttonClass } from '@/ui/Button';
import { Disclosure } from '@/ui/controls/Disclosure';
import { Labelled, NumberField, TextArea, TextInput } from '@/ui/controls/fields';
import { Select } from '@/ui/controls/Select';

export interface TravellingKit {
  id: string;
  kit: Pick<KeptKit, 'id' | 'name' | 'filters'>;
}

/** No filter travels as the control. */
const NONE = '';

/** Who gets which filters when, with a form for each bench. */
export function RoundRobin({
  kits,
  names,
  today,
}: {
  kits: readonly TravellingKit[];
  names: readonly string[];
  today: string;
}) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [benches, setBenches] = useState(names.join('\n'));
  const [asked, setAsked] = useState(NONE);
  const [firstDay, setFirstDay] = useState(today);
  const [days, setDays] = useState(14);
  const [way, setWay] = useState<'whole' | 'parcels'>('whole');
  const one = kits.find(({ id }) => id === chosen) ?? kits[0];
  const control = one?.kit.filters.some(({ id }) => id === asked) ? asked : NONE;
  const plan = useMemo(
    () =>
      roundRobinSchema.safeParse({
        benches: benches.split('\n').flatMap((line) => (line.trim() === '' ? [] : [line.trim()])),
        control: control === NONE ? null : control,
        firstDay,
        days: Math.round(days),
        inParcels: way === 'parcels',
      }),
    [benches, control, firstDay, days, way],
  );
  if (!one) return null;
  return (
    <Disclosure words={<span className="text-head font-strong">Plan a round robin</span>} inside="grid gap-3 mt-2">
      <p className="text-ink-2 max-w-[70ch]">
        Every bench measures every filter of a kit. Each opens its form, in which the filters have your names, and sends
        back its readings.
      </p>
      <div className="grid gap-3 sm:grid-cols-2">
        <Labelled words="Kit">
          <Select
            value={one.id}
            options={kits.map(({ id, kit }) => [id, kit.name ?? kit.id] as const)}
            onChange={setChosen}
          />
        </Labelled>
        <Labelled words="Control filter, measured first and last">
          <Select
            value={control}
            options={[[NONE, 'none'] as const, ...one.kit.filters.map(({ id, name }) => [id, name ?? id] as const)]}
            onChange={setAsked}
          />
        </Labelled>
        <Labelled words="Other benches, a line each" className="sm:row-span-2">
          <TextArea rows={4} value={benches} onChange={({ target }) => setBenches(target.value)} />
        </Labelled>
        <Labelled words="How it travels">
          <Select
            value={way}
            options={[
              ['whole', 'The kit whole, from bench to bench'] as const,
              ['parcels', 'In parcels, all benches at once'] as const,
            ]}
            onChange={setWay}
          />
        </Labelled>
        <div className="flex gap-3">
          <Labelled words="First day">
            <TextInput type="date" value={firstDay} onChange={({ target }) => setFirstDay(target.value)} />
          </Labelled>
          <NumberField label="Days each" value={days} onChange={setDays} />
        </div>
      </div>
      {plan.success ? (
        <>
          <TurnTable turns={roundRobin(one.kit, plan.data)} kit={one.kit} />
          <p className="text-ink-3 text-label max-w-[70ch]">
            {way === 'whole'
              ? 'It is measured at home before and after: what changed on the way would else be taken for the benches.'
              : 'In parcels the control stays at home: it can be at one bench at a time, and each takes one of its own.'}
          </p>
          <ul className="flex gap-2 flex-wrap" aria-label="Forms">
            {[HOME, ...plan.data.benches].map((bench) => (
              <li key={bench}>
                <a
                  href={`/api/kits/${one.id}/form?${new URLSearchParams({ plan: JSON.stringify(plan.data), bench }).toString()}`}
                  download
                  className={buttonClass('quiet')}
                >
                  <Download size={16} aria-hidden /> Form for {bench}
                </a>
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p role="status" className="bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5">
          {sentenceOf(plan.error.issues[0])}
        </p>
      )}
    </Disclosure>
  );
}

/** What stands in the way, as a sentence. */
function sentenceOf({ path, message }: { path: PropertyKey[]; message: string }): string {
  if (path[0] === 'firstDay') return 'Say on which day it begins.';
  if (path[0] === 'days') return 'Give each bench 1 to 365 days.';
  const words = path.length > 1 ? 'A bench’s name has 1 to 120 letters.' : message;
  return words.charAt(0).toUpperCase() + words.slice(1);
}

function TurnTable({ turns, kit: { filters } }: { turns: readonly Turn[]; kit: TravellingKit['kit'] }) {
  const nameOf = (id: string) => filters.find((one) => one.id === id)?.name ?? id;
  return (
    <div className="relative bg-sheet rounded-sheet p-3 overflow-x-auto">
      <table className="w-full text-label tabular-nums">
        <caption className="sr-only">Who has which filters when</caption>
        <thead>
          <tr className="text-left text-ink-3">
            {['From', 'Until', 'Bench', 'Filters'].map((name) => (
              <th key={name} scope="col" className="font-medium pr-4 pb-1">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {turns.map((turn) => (
            <tr key={`${turn.from} ${turn.bench}`} className="align-top">
              <td className="pr-4 py-0.5 whitespace-nowrap">{turn.from}</td>
              <td className="pr-4 py-0.5 whitespace-nowrap">{turn.until}</td>
              <th scope="row" className="pr-4 py-0.5 text-left font-medium">
                {turn.bench}
              </th>
              <td className="py-0.5">
                {turn.filters.length === filters.length ? 'all' : turn.filters.map(nameOf).join(', ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
