'use client';

import { Download, Plus } from 'lucide-react';
import { Link } from '@/ui/Link';
import { useState } from 'react';
import { keepKitAction } from '@/server/shelfActions';
import { filtersOfShorthand, OBTAINED, type KeptFilter, type KeptKit } from '@/core/sitting/kits/keptKit';
import { Button, buttonClass } from '@/ui/Button';
import { KitPreview } from '../newSession/KitPreview';
import { Labelled } from './fields';
import { FilterCard } from './FilterCard';
import { KeptNote } from './KeptNote';
import { KitTable } from './KitTable';
import { MassCheck, type KnownAircraft } from './MassCheck';
import { rowOf, type Row } from './rows';
import { useKept } from '@/ui/useKept';

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
  const [shorthand, setShorthand] = useState('');
  const [told, setTold] = useState<string[]>([]);
  const [selectedId, select] = useState<string | null>(first.filters[0]?.id ?? null);
  const selected = rows.find((row) => row.filter.id === selectedId)?.filter ?? rows[0]?.filter ?? null;
  const [amount, setAmount] = useState(first.price ? String(first.price.amount) : '');
  const [currency, setCurrency] = useState(first.price?.currency ?? '');

  function setTable(next: Row[]) {
    setRows(next);
    change({ ...kit, filters: next.map((row) => row.filter) });
  }

  function setFilter(filter: KeptFilter) {
    setTable(rows.map((row) => (row.filter.id === filter.id ? { ...row, filter } : row)));
  }

  function add() {
    const { filters, problems } = filtersOfShorthand(
      shorthand,
      rows.map((row) => row.filter.id),
    );
    setTold(problems);
    if (filters.length === 0) return;
    setTable([...rows, ...filters.map(rowOf)]);
    if (problems.length === 0) setShorthand('');
  }

  function setPrice(amountText: string, currencyText: string) {
    setAmount(amountText);
    setCurrency(currencyText);
    const value = Number(amountText.replace(',', '.'));
    const { price: _, ...rest } = kit;
    const known = amountText.trim() !== '' && value >= 0;
    change(known ? { ...rest, price: { amount: value, currency: currencyText.trim() || 'EUR' } } : (rest as KeptKit));
  }

  const sum = rows.reduce((total, row) => total + (row.filter.price ?? 0), 0);
  const badAmount = amount.trim() !== '' && !(Number(amount.replace(',', '.')) >= 0);
  return (
    <main
      id="main"
      className="px-[18px] py-[18px] grid gap-[22px] items-start lg:grid-cols-[minmax(0,1fr)_310px] w-full max-w-[1680px] mx-auto"
    >
      <section aria-label="The kit" className="min-w-0">
        <div className="flex justify-between gap-4 items-start flex-wrap">
          <h1>{kit.name || 'A kit without a name'}</h1>
          <div className="flex gap-1 items-center flex-wrap">
            <KeptNote state={state} problem={problem} />
            <a href={`/api/kits/${id}?format=csv`} download className={buttonClass('quiet')}>
              <Download size={16} aria-hidden /> CSV
            </a>
            <a href={`/api/kits/${id}?format=json`} download className={buttonClass('quiet')}>
              <Download size={16} aria-hidden /> JSON
            </a>
            <Link href={`/plan?kit=${id}`} className={buttonClass('main')}>
              Plan a sitting
            </Link>
          </div>
        </div>
        <div className="flex gap-3 flex-wrap items-end mt-3">
          <Labelled words="Name">
            <input
              className="field w-[190px]"
              value={kit.name ?? ''}
              onChange={({ target }) => change({ ...kit, name: target.value })}
            />
          </Labelled>
          <Labelled words="Maker">
            <input
              className="field w-[160px]"
              value={kit.maker ?? ''}
              onChange={({ target }) => change({ ...kit, maker: target.value })}
            />
          </Labelled>
          <Labelled words="How obtained">
            <select
              className="field w-[120px]"
              value={kit.obtained ?? ''}
              onChange={({ target }) => change({ ...kit, obtained: OBTAINED.find((one) => one === target.value) })}
            >
              <option value="">not said</option>
              {OBTAINED.map((one) => (
                <option key={one} value={one}>
                  {one}
                </option>
              ))}
            </select>
          </Labelled>
          <Labelled words="Price of the kit">
            <input
              className={`field w-[96px] text-right ${badAmount ? 'outline outline-2 outline-warning' : ''}`}
              aria-invalid={badAmount}
              value={amount}
              onChange={({ target }) => setPrice(target.value, currency)}
            />
          </Labelled>
          <Labelled words="Currency">
            <input
              className="field w-[70px]"
              value={currency}
              placeholder="EUR"
              maxLength={8}
              onChange={({ target }) => setPrice(amount, target.value)}
            />
          </Labelled>
        </div>
        {badAmount && <p className="text-warning mt-1">The kit’s price is a number; it is not kept like this.</p>}
        <KitTable rows={rows} onChange={setTable} selected={selected?.id ?? null} onSelect={select} />
        {sum > 0 && kit.price && sum > kit.price.amount && (
          <p className="text-ink-2 mt-1">
            Bought one by one the filters come to {sum.toFixed(2)} {kit.price.currency}, the kit to{' '}
            {kit.price.amount.toFixed(2)}.
          </p>
        )}
        <form
          className="flex gap-2.5 items-end flex-wrap mt-4"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <Labelled words="More filters in shorthand">
            <input
              className="field w-[300px]"
              value={shorthand}
              placeholder="0.9 1.8, VND 2-5, ND8/PL, unmarked"
              spellCheck={false}
              onChange={({ target }) => setShorthand(target.value)}
            />
          </Labelled>
          <Button type="submit">
            <Plus size={16} aria-hidden /> Add them
          </Button>
        </form>
        <KitPreview shorthand={shorthand} />
        {told.length > 0 && (
          <ul role="alert" className="mt-2 text-failure">
            {told.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        )}
        <MassCheck filters={rows.map((row) => row.filter)} aircraft={aircraft} />
        <label className="grid gap-1 mt-7">
          <span className="text-ink-3 text-[12px]">Notes on the kit</span>
          <textarea
            className="field w-full max-w-[72ch] min-h-[64px]"
            value={kit.notes ?? ''}
            onChange={({ target }) => change({ ...kit, notes: target.value === '' ? undefined : target.value })}
          />
        </label>
      </section>
      {selected && <FilterCard key={selected.id} filter={selected} onChange={setFilter} />}
    </main>
  );
}
