'use client';

import { createColumnHelper } from '@tanstack/react-table';
import type { Take } from '@/core/session/schema';
import type { TypedTake } from '@/core/sitting/intake/typedTake';
import { DataTable, useDataTable } from '@/ui/controls/DataTable';
import { pictureUrl } from '@/ui/pictures';
import type { SessionView } from '@/ui/sessionView';
import { fieldColumns, shownFields, type FieldRow } from './fieldColumns';
import { FilterSelect } from './FilterSelect';

interface TakeRow extends FieldRow {
  take: Take;
  filter: string | null;
}

/** More of a take's pictures than these are not shown in its row. */
const MOST_PICTURES = 4;

/** One row a take: filter and exposure can be corrected. */
export function TakeTable({
  view,
  values,
  selected,
  onChange,
}: {
  view: SessionView;
  /** In the order of the takes. */
  values: readonly TypedTake[];
  selected: string | null;
  onChange: (id: string, edit: Partial<TypedTake>) => void;
}) {
  const { session } = view;
  const filters = session.kits.flatMap((kit) => kit.filters);
  const rows = session.takes.map((take, i): TakeRow => {
    const { filter, ...texts } = values[i];
    return { label: take.id, take, filter, texts, empty: take.telemetry ? 'telemetry' : 'from file' };
  });
  const table = useDataTable({
    data: rows,
    columns: COLUMNS,
    getRowId: (row) => row.label,
    state: {
      columnVisibility: shownFields(filters, {
        aperture: true,
        turn: session.scenes.some((scene) => scene.kind === 'sky'),
      }),
    },
    meta: {
      fields: { change: onChange },
      filter: { change: (id, filter) => onChange(id, { filter }) },
      take: { filters, pictureOf: (file) => pictureUrl(view.files[file], 320, session.rig.response) },
    },
  });
  return (
    <DataTable
      table={table}
      label="Takes and their settings"
      className="mt-4"
      rowHeight={53}
      rowProps={({ filter }) => ({
        className: `border-b border-rule ${filter !== null && filter === selected ? 'bg-sheet' : ''}`,
      })}
    />
  );
}

declare module '@tanstack/react-table' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the library's own parameter
  interface TableMeta<TData> {
    take?: {
      filters: readonly { id: string; name?: string }[];
      /** Address of a small view of a file. */
      pictureOf: (file: string) => string | undefined;
    };
  }
}

const column = createColumnHelper<TakeRow>();

/** Made once: a column that is made anew would take the focus from what is typed in it. */
const COLUMNS = [
  column.display({
    id: 'pictures',
    header: 'Pictures',
    cell: ({ row: { original }, table }) => (
      <div className="flex gap-1">
        {original.take.files.slice(0, MOST_PICTURES).map((file) => (
          <img
            key={file}
            src={table.options.meta!.take!.pictureOf(file)}
            alt={file}
            width={60}
            height={40}
            loading="lazy"
            className="w-[60px] h-[40px] object-cover rounded-sm bg-well"
          />
        ))}
      </div>
    ),
  }),
  column.display({
    id: 'take',
    header: 'Take',
    cell: ({ row: { original } }) => (
      <>
        {original.take.id}
        {notesOf(original.take).map((note) => (
          <div key={note} className="text-ink-3 text-small">
            {note}
          </div>
        ))}
      </>
    ),
  }),
  column.display({
    id: 'time',
    header: 'Time',
    meta: { cell: 'text-ink-2 whitespace-nowrap' },
    cell: ({ row: { original } }) => original.take.capturedAt?.slice(11, 19) ?? 'from the file',
  }),
  column.display({
    id: 'filter',
    header: 'Filter',
    cell: ({ row: { original }, table }) => (
      <FilterSelect
        label={`Filter of ${original.label}`}
        value={original.filter}
        filters={table.options.meta!.take!.filters}
        onChange={(filter) => table.options.meta!.filter!.change(original.label, filter, false)}
      />
    ),
  }),
  ...fieldColumns<TakeRow>(),
];

/** What a take's row says below its id. */
function notesOf({ role, telemetry, note }: Take): string[] {
  return [
    role === 'sweep' && 'of a sweep',
    role === 'bracket' && 'of the bracket',
    telemetry && `exposure from ${telemetry}, unless entered here`,
    note,
  ].filter((one): one is string => typeof one === 'string' && one !== '');
}
