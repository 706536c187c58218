import { useState } from 'react';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import { AddByShorthand } from '../kits/AddByShorthand';
import { KitFacts } from '../kits/KitFacts';
import { KitTable } from '../kits/KitTable';
import { rowOf, type Row } from '../kits/rows';

type Json = Record<string, unknown>;

/** One of the session's kits: its name, its filters and their labels. A filter that has takes on it stays. */
export function KitSection({
  kit: given,
  others,
  takesOn,
  onChange,
}: {
  kit: Json;
  others: readonly Json[];
  takesOn: Readonly<Record<string, number>>;
  onChange: (kit: Json) => void;
}) {
  const kit = given as unknown as KeptKit;
  const [rows, setRows] = useState<Row[]>(() =>
    (kit.filters ?? []).map((one) => rowOf({ ...one, nominal: one.nominal ?? {} })),
  );
  const [selected, select] = useState<string | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const used = [...rows.map((row) => row.filter.id), ...others.flatMap((one) => (one as unknown as KeptKit).filters.map(({ id }) => id))]; // prettier-ignore

  function setTable(next: Row[]) {
    const gone = rows.find((row) => takesOn[row.filter.id] && !next.some((one) => one.filter.id === row.filter.id));
    if (gone) {
      const many = takesOn[gone.filter.id];
      return setTold(
        `“${gone.text.name}” has ${many === 1 ? 'a take' : `${many} takes`} on it; lay ${many === 1 ? 'it' : 'them'} on another filter first, in Footage.`,
      );
    }
    setTold(null);
    setRows(next);
    onChange({ ...given, filters: next.map((row) => row.filter) });
  }
  return (
    <section aria-label={`Kit ${kit.name ?? kit.id}`}>
      <h2>{kit.name || 'A kit without a name'}</h2>
      <KitFacts kit={kit} onChange={(next) => onChange(next as unknown as Json)} />
      <div className="relative overflow-x-auto -mx-1 px-1">
        <KitTable rows={rows} onChange={setTable} selected={selected} onSelect={select} />
      </div>
      {told && (
        <p role="alert" className="text-failure mt-2">
          {told}
        </p>
      )}
      <AddByShorthand used={used} onAdd={(added) => setTable([...rows, ...added.map(rowOf)])} />
    </section>
  );
}
