'use client';

import { useMemo, useState } from 'react';
import { controlChart } from '@/core/judging/overTime/controlChart';
import {
  controlOf,
  livesOf,
  TOGETHER,
  type DatedSitting,
  type FilterLife,
  type Followed,
  type KitLives,
} from '@/core/judging/overTime/lives';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Select } from '@/ui/controls/Select';
import { OnlyNewest } from '@/ui/OnlyNewest';
import { Link } from '@/ui/Link';
import { QualitySelect } from '@/ui/QualitySelect';
import { BenchChart } from './BenchChart';
import { ChangeTable } from './ChangeTable';
import { LifeChart } from './LifeChart';
import { Samples } from './Samples';
import { sentenceOf, titleOf } from './words';

/** A kit over all its sittings: which filters have changed, and whether it was the bench. */
export function Years({
  sittings,
  leftOut,
  wanted,
  lookedAt = null,
}: {
  sittings: readonly DatedSitting[];
  /** Measured sessions whose figures no longer stand. */
  leftOut: readonly { id: string; title: string; kits: readonly string[] }[];
  /** Kit to begin with, by its id or its name. */
  wanted: string | null;
  /** How many of the newest sessions were looked at, where there are more. */
  lookedAt?: number | null;
}) {
  const [quality, setQuality] = useState<Followed>('strength');
  const plain = useMemo(() => livesOf(sittings, quality), [sittings, quality]);
  const [chosen, setChosen] = useState<string | null>(wanted);
  const [asked, setAsked] = useState<string>(TOGETHER);
  const [without, setWithout] = useState(false);
  const [shown, setShown] = useState<string | null>(null);
  const found = plain.find(({ id, name }) => id === chosen || name === chosen);
  // A kit that was asked for and has no sitting isn't passed over for another one.
  const own = found ?? (chosen === null ? plain[0] : undefined);
  // Another kit, or another quality, may not have the filter that was chosen.
  const control = own?.filters.some(({ filter }) => filter === asked) ? asked : TOGETHER;
  const bench = own ? controlOf(own, control) : null;
  const out = without && bench !== null;
  const lives = useMemo(
    () => (own && out ? livesOf(sittings, quality, controlOf(own, control)).find(({ id }) => id === own.id)! : own),
    [sittings, quality, own, control, out],
  );
  if (!own || !lives)
    return (
      <main id="main" className="px-[18px] py-16 max-w-[680px] mx-auto">
        <h1>{chosen === null ? 'Nothing to follow yet' : `${chosen} hasn’t been measured yet`}</h1>
        {plain.length > 0 && (
          <p className="mt-3">
            <Select
              label="Kit"
              placeholder="Another kit"
              value={null}
              options={kitOptions(plain)}
              onChange={setChosen}
            />
          </p>
        )}
        <p className="text-ink-2 mt-2">
          A filter’s years are its sittings: <Link href="/sessions/new">start a session</Link>, measure it, and measure
          the kit again in some months.
        </p>
        <NotOnTheLine undated={[]} stale={leftOut} />
      </main>
    );
  const filters = out ? lives.filters.filter(({ filter }) => filter !== control) : lives.filters;
  const life = filters.find(({ filter }) => filter === shown) ?? strikingOf(filters);
  const moved = !out && (chartOf(bench)?.signals.length ?? 0) > 0;
  return (
    <main
      id="main"
      className="w-full max-w-[1680px] mx-auto px-[18px] py-[18px] grid grid-cols-[minmax(0,1fr)] gap-[18px]"
    >
      <div className="flex items-end justify-between gap-4 flex-wrap">
        <div className="min-w-0">
          <h1>{titleOf(filters, moved)}</h1>
          <p className="text-ink-2 text-lead mt-1 max-w-[74ch]">{sentenceOf(filters, quality, moved)}</p>
        </div>
        <div className="flex gap-2 flex-wrap">
          <Select label="Kit" value={own.id} options={kitOptions(plain)} onChange={setChosen} />
          <QualitySelect label="What is followed" value={quality} onChange={setQuality} />
        </div>
      </div>
      <div className="grid gap-[18px] items-start grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <section aria-label="Filters" className="grid gap-3 min-w-0">
          {filters.length > 0 ? (
            <ChangeTable filters={filters} quality={quality} shown={life?.filter ?? null} onShow={setShown} />
          ) : (
            <p className="text-ink-2">No sitting of this kit has figures of that.</p>
          )}
          {life && <LifeChart life={life} quality={quality} />}
          <Samples sittings={sittings} kit={own.name} quality={quality} />
          <NotOnTheLine undated={own.undated} stale={leftOut.filter(({ kits }) => kits.includes(own.id))} />
          {lookedAt !== null && <OnlyNewest count={lookedAt} />}
        </section>
        <div className="grid gap-3 min-w-0">
          <div className="flex items-center gap-x-4 gap-y-2 flex-wrap">
            <label className="flex items-center gap-2">
              The bench by
              <Select
                value={control}
                options={[
                  [TOGETHER, 'all filters together'] as const,
                  ...own.filters.map(({ filter, name, points }) => [filter, `${name}, ${sittingsOf(points.length)}`] as const), // prettier-ignore
                ]}
                onChange={setAsked}
              />
            </label>
            <Checkbox checked={without} onChange={setWithout}>
              Take the bench’s change out
            </Checkbox>
          </div>
          {bench ? (
            <BenchChart control={bench} quality={quality} />
          ) : (
            <p className="text-ink-2">
              Fewer than three filters were measured together: choose the one that lies in its case between sittings.
            </p>
          )}
          <p className="text-ink-3 text-label max-w-[70ch]">
            {control === TOGETHER
              ? 'Filters of a kit hardly ever change alike: what most of them seem to change by in a sitting, the bench did. A control filter that lies in its case between sittings tells it more surely.'
              : 'The control filter lies in its case between sittings and is measured in each: what it seems to change by, the bench did.'}{' '}
            Taken out, it is subtracted from the other filters of the same sitting, and its ± counts in theirs.{' '}
            <Link href="/method#over-the-years" className="underline">
              How
            </Link>
          </p>
        </div>
      </div>
    </main>
  );
}

const chartOf = (life: FilterLife | null) => life && controlChart(life.points.map(({ reading }) => reading.value));

/** Kits by name, two of one name by their ids as well. */
const kitOptions = (kits: readonly KitLives[]) =>
  kits.map(({ id, name, kit }) => {
    const isAlone = kits.filter((one) => one.name === name).length === 1;
    return [id, isAlone ? name : `${name} (${kit})`] as const;
  });

const sittingsOf = (count: number) => `${count} ${count === 1 ? 'sitting' : 'sittings'}`;

/** The filter whose change stands out most against its ±: what one came to see. */
function strikingOf<T extends { change: { over: { value: number; u95: number } } | null }>(filters: readonly T[]) {
  const size = ({ change }: T) => (change ? Math.abs(change.over.value) / change.over.u95 : -1);
  return [...filters].sort((a, b) => size(b) - size(a))[0];
}

/** Sessions that aren't drawn, and why. */
function NotOnTheLine({ undated, stale }: Record<'undated' | 'stale', readonly { id: string; title: string }[]>) {
  if (undated.length + stale.length === 0) return null;
  return (
    <ul className="text-ink-2 text-label grid gap-0.5">
      {undated.map(({ id, title }) => (
        <li key={id}>
          <Link href={`/sessions/${id}/details`} className="underline">
            {title}
          </Link>{' '}
          has no day that can be read: give it one in its details.
        </li>
      ))}
      {stale.map(({ id, title }) => (
        <li key={id}>
          <Link href={`/sessions/${id}/measure`} className="underline">
            {title}
          </Link>{' '}
          has figures that no longer stand: measure it again.
        </li>
      ))}
    </ul>
  );
}
