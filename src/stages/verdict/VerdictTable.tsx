'use client';

import { createColumnHelper, getSortedRowModel, type SortingState } from '@tanstack/react-table';
import { useState } from 'react';
import type { FilterReadings, Readings } from '@/core/session/readings';
import { DataTable, useDataTable } from '@/ui/controls/DataTable';
import { decimalsFor, fixed, plusMinus, signed } from '@/ui/format';
import { VerdictShape } from '@/ui/VerdictShape';
import { castOf, toneOf } from './castOf';

interface Row {
  one: FilterReadings;
  name: string;
  /** Its kit, where there is more than one. */
  kit: string | null;
  active: boolean;
  /** Decimals of strengths, the same in all rows. */
  decimals: number;
}

/** One row a filter, sorted by any column. A withheld figure is a dash; the notes below say why. */
export function VerdictTable({
  readings,
  nameOf,
  selected,
  onSelect,
}: {
  readings: Readings;
  nameOf: (id: string) => string;
  selected: string | null;
  onSelect: (id: string) => void;
}) {
  const [sorting, setSorting] = useState<SortingState>([]);
  const { filters } = readings;
  const decimals = Math.min(
    3,
    Math.max(2, ...filters.map((one) => (one.density ? decimalsFor(one.density.stops.u95) : 2))),
  );
  const kits = new Set(filters.map((one) => one.kit));
  const rows = filters.map((one): Row => ({
    one,
    name: nameOf(one.filter),
    kit: kits.size > 1 ? one.kit : null,
    active: one.filter === selected,
    decimals,
  }));
  const table = useDataTable({
    data: rows,
    columns: COLUMNS,
    getRowId: (row) => row.one.filter,
    getSortedRowModel: getSortedRowModel(),
    state: {
      sorting,
      columnVisibility: {
        sharpness: filters.some((one) => one.sharpness),
        corners: filters.some((one) => one.shading),
      },
    },
    onSortingChange: setSorting,
    meta: { select: onSelect },
  });
  return (
    <DataTable
      table={table}
      label="Verdicts"
      rowProps={({ one, active }) => ({
        onClick: () => onSelect(one.filter),
        className: `border-b border-rule cursor-pointer ${active ? 'bg-sheet' : 'hover:bg-sheet/50'}`,
      })}
    />
  );
}

declare module '@tanstack/react-table' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the library's own parameter
  interface TableMeta<TData> {
    select?: (filter: string) => void;
  }
}

const column = createColumnHelper<Row>();
const DASH = <span className="text-ink-3">–</span>;
/** A head of two lines: what, and in what. */
function twoLines(what: string, unit: string) {
  return function Head() {
    return (
      <>
        {what}
        <br />
        {unit}
      </>
    );
  };
}
const figure = { right: true, cell: 'whitespace-nowrap' };

const COLUMNS = [
  column.accessor('name', {
    header: 'Filter',
    meta: { rowHead: true, cell: 'pl-2' },
    cell: ({ row: { original }, table }) => (
      <button
        type="button"
        onClick={() => table.options.meta!.select!(original.one.filter)}
        aria-pressed={original.active}
        className={`font-strong text-left ${original.active ? 'text-accent' : ''}`}
      >
        {original.name}
        {original.kit && <span className="unit ml-1.5">{original.kit}</span>}
      </button>
    ),
  }),
  column.accessor(({ one }) => one.nominalStops ?? undefined, {
    id: 'label',
    header: twoLines('Label', 'stops'),
    sortUndefined: 'last',
    meta: figure,
    cell: ({ row: { original } }) =>
      original.one.nominalStops === null ? (labelledSpan(original.one) ?? DASH) : fixed(original.one.nominalStops),
  }),
  column.accessor(({ one }) => one.density?.stops.value, {
    id: 'found',
    header: twoLines('Found', 'stops'),
    sortUndefined: 'last',
    meta: figure,
    cell: ({ row: { original } }) => {
      const { density } = original.one;
      if (!density) return spanInWords(original.one) ?? DASH;
      return (
        <>
          {fixed(density.stops.value, original.decimals)}{' '}
          <span className="unit">{plusMinus(density.stops.u95, original.decimals)}</span>
        </>
      );
    },
  }),
  column.accessor(({ one }) => one.density?.error?.value, {
    id: 'error',
    header: 'Error',
    sortUndefined: 'last',
    meta: figure,
    cell: ({ row: { original } }) =>
      original.one.density?.error ? signed(original.one.density.error.value) : (errorInWords(original.one) ?? DASH),
  }),
  column.accessor(({ one }) => one.verdict.label, {
    id: 'strength',
    header: 'Strength',
    meta: { cell: 'whitespace-nowrap' },
    cell: ({ getValue }) => (
      <>
        <VerdictShape label={getValue()} />
        {getValue()}
      </>
    ),
  }),
  column.accessor(({ one }) => actsLikeOf(one), {
    id: 'actsLike',
    header: 'Acts like',
    sortUndefined: 'last',
    cell: ({ getValue }) => {
      const factor = getValue();
      return factor === undefined ? DASH : actsLike(factor);
    },
  }),
  column.accessor(({ one }) => castOf(one)?.deltaE00.value, {
    id: 'cast',
    header: twoLines('Cast', 'ΔE00'),
    sortUndefined: 'last',
    meta: { right: true, cell: 'pr-4' },
    cell: ({ getValue }) => {
      const deltaE00 = getValue();
      return deltaE00 === undefined ? DASH : fixed(deltaE00, 1);
    },
  }),
  column.accessor(({ one }) => toneOf(one) ?? undefined, {
    id: 'tone',
    header: 'Tone',
    sortUndefined: 'last',
    meta: { cell: 'whitespace-nowrap' },
    cell: ({ getValue }) => getValue() ?? DASH,
  }),
  column.accessor(({ one }) => leastKept(one), {
    id: 'sharpness',
    header: twoLines('Sharpness', 'kept'),
    sortUndefined: 'last',
    meta: figure,
    cell: ({ getValue }) => {
      const kept = getValue();
      return kept === undefined ? DASH : fixed(kept);
    },
  }),
  column.accessor(({ one }) => one.shading?.worst?.value, {
    id: 'corners',
    header: twoLines('Darkest', 'corner'),
    sortUndefined: 'last',
    meta: figure,
    cell: ({ getValue }) => {
      const corner = getValue();
      return corner === undefined ? DASH : fixed(corner);
    },
  }),
];

/** Of the edge that keeps least. */
function leastKept({ sharpness }: FilterReadings): number | undefined {
  return sharpness && sharpness.length > 0 ? Math.min(...sharpness.map((one) => one.retained.value)) : undefined;
}

/** A variable filter's labelled range. */
function labelledSpan({ variable }: FilterReadings): string | null {
  if (!variable?.errors) return null;
  const { lightest, darkest, errors } = variable;
  return `${fixed(lightest.value - errors.low.value, 0)} to ${fixed(darkest.value - errors.high.value, 0)}`;
}

/** From the lightest to the darkest mark, or both halves of a graduated filter; `null` for one strength. */
function spanInWords({ variable, graduation }: FilterReadings): string | null {
  if (variable) return `${fixed(variable.lightest.value)} to ${fixed(variable.darkest.value)}`;
  if (graduation) return `${fixed(graduation.clearStops.value)} | ${fixed(graduation.denseStops.value)}`;
  return null;
}

/** What both ends of a labelled range, or a dense half, are off by. */
function errorInWords({ variable, graduation, nominalStops }: FilterReadings): string | null {
  if (variable?.errors) return `${signed(variable.errors.low.value)}, ${signed(variable.errors.high.value)}`;
  if (graduation && nominalStops !== null) return signed(graduation.denseStops.value - nominalStops);
  return null;
}

/** The factor of the nearest label; none of a polarizer, which is no ND filter however much it takes. */
export const actsLikeOf = ({ density, polarizer, nominalStops }: FilterReadings): number | undefined =>
  polarizer && nominalStops === null ? undefined : density?.actsLike?.ndFactor;

/** The nearest label; "clear" for one that takes next to nothing. */
export function actsLike(factor: number): string {
  return factor === 1 ? 'clear' : `ND${factor}`;
}
