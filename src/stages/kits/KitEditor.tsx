'use client';

import { ChartSpline, Download } from 'lucide-react';
import { useState } from 'react';
import { type KeptFilter, type KeptKit } from '@/core/sitting/kits/keptKit';
import { keepKitAction } from '@/server/shelfActions';
import { buttonClass } from '@/ui/Button';
import { Labelled, TextArea } from '@/ui/controls/fields';
import { Link } from '@/ui/Link';
import { SavedNote } from '@/ui/saving/SavedNote';
import { useKept } from '@/ui/saving/useKept';
import { AddByShorthand } from './AddByShorthand';
import { FilterCard } from './FilterCard';
import { KitFacts } from './KitFacts';
import { KitTable } from './KitTable';
import { MassCheck, type KnownAircraft } from './MassCheck';
import { rowOf, type Row } from './rows';

/** One kit: its filters as a table, what it cost and how it came, how each filter handles. */
export function KitEditor({
  id,
  revision,
  kit: first,
  aircraft,
}: {
  id: string;
  revision: number;
  kit: KeptKit;
  aircraft: KnownAircraft[];
}) {
  const { item: kit, change, state, problem } = useKept(first, id, revision, keepKitAction);
  const [rows, setRows] = useState<Row[]>(() => first.filters.map(rowOf));
  const [selectedId, select] = useState<string | null>(first.filters[0]?.id ?? null);
  const selected = rows.find((row) => row.filter.id === selectedId)?.filter ?? rows[0]?.filter ?? null;

  function setTable(next: Row[]) {
    setRows(next);
    change({ ...kit, filters: next.map((row) => row.filter) });
  }
  const setFilter = (filter: KeptFilter) =>
    setTable(rows.map((row) => (row.filter.id === filter.id ? { ...row, filter } : row)));

  const sum = rows.reduce((total, row) => total + (row.filter.price ?? 0), 0);
  return (
    <main
      id="main"
      className="px-[18px] py-[18px] grid gap-[22px] items-start lg:grid-cols-[minmax(0,1fr)_310px] w-full max-w-[1680px] mx-auto"
    >
      <section aria-label="The kit" className="min-w-0">
        <div className="flex justify-between gap-4 items-start flex-wrap">
          <h1>{kit.name || 'A kit without a name'}</h1>
          <div className="flex gap-1 items-center flex-wrap">
            <SavedNote state={state} problem={problem} />
            {['CSV', 'JSON'].map((format) => (
              <a
                key={format}
                href={`/api/kits/${id}?format=${format.toLowerCase()}`}
                download
                className={buttonClass('quiet')}
              >
                <Download size={16} aria-hidden /> {format}
              </a>
            ))}
            <Link href={`/years?kit=${encodeURIComponent(kit.name ?? '')}`} className={buttonClass('quiet')}>
              <ChartSpline size={16} aria-hidden /> Over the years
            </Link>
            <Link href={`/plan?kit=${id}`} className={buttonClass('main')}>
              Plan a sitting
            </Link>
          </div>
        </div>
        <KitFacts kit={kit} onChange={change} />
        <KitTable rows={rows} onChange={setTable} selected={selected?.id ?? null} onSelect={select} />
        {sum > 0 && kit.price && sum > kit.price.amount && (
          <p className="text-ink-2 mt-1">
            Bought one by one the filters come to {sum.toFixed(2)} {kit.price.currency}, the kit to{' '}
            {kit.price.amount.toFixed(2)}.
          </p>
        )}
        <AddByShorthand
          used={rows.map((row) => row.filter.id)}
          onAdd={(added) => setTable([...rows, ...added.map(rowOf)])}
        />
        <MassCheck filters={rows.map((row) => row.filter)} aircraft={aircraft} />
        <Labelled words="Notes on the kit" className="mt-7">
          <TextArea
            className="max-w-[72ch] min-h-[64px]"
            value={kit.notes ?? ''}
            onChange={({ target }) => change({ ...kit, notes: target.value === '' ? undefined : target.value })}
          />
        </Labelled>
      </section>
      {selected && <FilterCard key={selected.id} filter={selected} onChange={setFilter} />}
    </main>
  );
}
