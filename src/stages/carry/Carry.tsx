'use client';

import { Plus, Printer } from 'lucide-react';
import { useDeferredValue, useEffect, useMemo } from 'react';
import { useController, useFieldArray, useForm, useWatch, type Control } from 'react-hook-form';
import { MOST_WORKS, type CarryAsked } from '@/core/judging/carry/asked';
import type { CarryAnswer } from '@/core/judging/carry/carry';
import type { PickKit, PickRig } from '@/server/pickList';
import { Button } from '@/ui/Button';
import { Labelled } from '@/ui/controls/fields';
import { Select, type Option } from '@/ui/controls/Select';
import { Link } from '@/ui/Link';
import { OnlyNewest } from '@/ui/OnlyNewest';
import { carryAnswer, offersOf } from './answer';
import { FIRST, FIRST_WORK, keepAsked, lastAsked } from './asked';
import { CarryToReport } from './CarryToReport';
import { CoveredChart } from './CoveredChart';
import { StepTable } from './StepTable';
import { packingList, shortfallInWords, titleOf } from './words';
import { WorkCard } from './WorkCard';

const MOST: readonly Option<string>[] = [
  ['', 'as many as needed'],
  ...['1', '2', '3', '4', '5', '6'].map((one): Option<string> => [one, `${one} at most`]),
];

/** From all measured kits: what to carry for some work, and where it falls short. */
export function Carry({
  kits,
  rigs,
  lookedAt = null,
}: {
  kits: readonly PickKit[];
  rigs: readonly PickRig[];
  lookedAt?: number | null;
}) {
  const { control, reset, setValue, subscribe } = useForm<CarryAsked>({ defaultValues: FIRST });
  const { append, remove } = useFieldArray({ control, name: 'works' });
  const asked = useWatch({ control }) as CarryAsked;
  useEffect(() => {
    // After the first drawing, which is the server's: it knows nothing of this browser.
    reset((now) => ({ ...now, ...lastAsked() }));
    return subscribe({ formState: { values: true }, callback: ({ values }) => keepAsked(values) });
  }, [reset, subscribe]);
  const measured = kits.filter((kit) => kit.measured > 0);
  const offers = useMemo(() => offersOf(kits), [kits]);
  // Typing goes on while a large choice is reckoned.
  const settled = useDeferredValue(asked);
  const answer = useMemo(() => carryAnswer(settled, offers), [settled, offers]);
  const kitOptions = measured.map(({ id, name }): Option<string> => [id, name]);
  return (
    <main
      id="main"
      className="w-full max-w-[1680px] mx-auto px-[18px] py-[18px] grid gap-[18px] grid-cols-[minmax(0,1fr)]"
    >
      <div>
        <h1>{offers.length > 0 ? titleOf(answer) : 'Nothing to choose from yet'}</h1>
        <p className="text-ink-2 text-lead mt-1 max-w-[78ch]">
          {offers.length > 0 ? (
            <>
              Of {hoursOf(answer)} of light a year in which you work, by {offers.length} measured filters. Strengths are
              the measured ones with their ±; the light is that of a day by the sun’s height, good to half a stop or so.
            </>
          ) : (
            <>
              Only filters whose strength was measured are chosen from:{' '}
              <Link href="/sessions/new" className="underline">
                start a session
              </Link>{' '}
              and measure a kit.
            </>
          )}
        </p>
        {lookedAt !== null && <OnlyNewest count={lookedAt} />}
      </div>
      <div className="grid gap-[18px] items-start grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,420px)_minmax(0,1fr)]">
        <section aria-label="The work" className="grid gap-3 min-w-0 print:hidden">
          {asked.works.map((work, i) => (
            <WorkCard
              key={i}
              control={control}
              setValue={setValue}
              index={i}
              work={work}
              rigs={rigs}
              onRemove={asked.works.length > 1 ? () => remove(i) : undefined}
            />
          ))}
          {asked.works.length < MOST_WORKS && (
            <Button
              onClick={() => append({ ...FIRST_WORK, ...asked.works.at(-1), name: `Work ${asked.works.length + 1}` })}
            >
              <Plus size={16} aria-hidden /> Another kind of work
            </Button>
          )}
          <div className="grid grid-cols-2 gap-3">
            <KitSelect
              control={control}
              name="from"
              label="Choose from"
              options={[['', 'all measured kits'], ...kitOptions]}
            />
            <KitSelect control={control} name="owned" label="You have" options={[['', 'nothing yet'], ...kitOptions]} />
            <KitSelect control={control} name="most" label="Filters to add" options={MOST} />
          </div>
        </section>
        {offers.length > 0 && answer.hours > 0 && (
          <section aria-label="The answer" className="grid gap-3 min-w-0">
            <StepTable answer={answer} />
            {!answer.isExact && (
              <p className="text-ink-2">
                So many filters were compared that a smaller kit, or one that covers more, can’t be excluded.
              </p>
            )}
            {answer.shortfalls.length > 0 && (
              <ul
                aria-label="Where it falls short"
                className="bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5 grid gap-1"
              >
                {answer.shortfalls.map((one) => (
                  <li key={`${one.work} ${one.sky} ${one.lack}`}>{shortfallInWords(one, settled.works)}</li>
                ))}
              </ul>
            )}
            {settled.works.map((work, i) => {
              const cells = answer.grid.filter((cell) => cell.work === i);
              return cells.length > 0 && <CoveredChart key={i} name={work.name} cells={cells} />;
            })}
            <p className="hidden print:block">Carry {packingList(answer)}.</p>
            <p className="text-ink-3 text-label max-w-[76ch] print:hidden">
              Snow, water and white walls add a stop, woods take two. Two filters on each other aren’t reckoned with.{' '}
              <Link href="/method#what-to-carry" className="underline">
                How
              </Link>
            </p>
            <p className="flex gap-2 flex-wrap print:hidden">
              <Button onClick={() => window.print()}>
                <Printer size={16} aria-hidden /> Print
              </Button>
              <CarryToReport asked={settled} kits={kitsIn(answer, offers)} />
            </p>
          </section>
        )}
      </div>
    </main>
  );
}

/** Kits of the filters that are carried. */
const kitsIn = ({ steps }: CarryAnswer, offers: ReturnType<typeof offersOf>) => [
  ...new Set(steps.flatMap(({ offer }) => offers.find(({ id }) => id === offer.id)?.kitId ?? [])),
];

const hoursOf = ({ hours }: CarryAnswer) => `${Math.round(hours)} hours`;

function KitSelect({
  control,
  name,
  label,
  options,
}: {
  control: Control<CarryAsked>;
  name: 'from' | 'owned' | 'most';
  label: string;
  options: readonly Option<string>[];
}) {
  const { field } = useController({ control, name });
  // A kit that was chosen and is gone is none.
  const value = options.some(([one]) => one === field.value) ? field.value : '';
  return (
    <Labelled words={label}>
      <Select className="w-full" value={value} options={options} onChange={field.onChange} />
    </Labelled>
  );
}
