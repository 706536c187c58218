'use client';

import {
  flexRender,
  getCoreRowModel,
  useReactTable,
  type Header,
  type RowData,
  type Table,
  type TableOptions,
} from '@tanstack/react-table';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useLayoutEffect, useRef, useState, type HTMLAttributes, type ReactNode } from 'react';

declare module '@tanstack/react-table' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the library's own parameters
  interface ColumnMeta<TData extends RowData, TValue> {
    /** Classes of its cells and its head. */
    cell?: string;
    /** Figures stand to the right. */
    right?: boolean;
    /** The first cell names the row. */
    rowHead?: boolean;
  }
}

/** A table whose rows may be made anew at every drawing: nothing of its state falls back when they are, which would draw it again and again. */
export function useDataTable<T>(options: Omit<TableOptions<T>, 'getCoreRowModel'>): Table<T> {
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are not handed on
  return useReactTable({ ...options, getCoreRowModel: getCoreRowModel(), autoResetAll: false });
}

/** From this many rows on only those in sight are drawn. */
const MANY = 80;
const OVERSCAN = 12;

/** A table of TanStack's in our dress: heads that sort, rows that are drawn as they come into sight. */
export function DataTable<T>({
  table,
  label,
  rowProps,
  rowHeight = 44,
  className = '',
}: {
  table: Table<T>;
  label: string;
  /** Attributes of a row. */
  rowProps?: (row: T, index: number) => HTMLAttributes<HTMLTableRowElement>;
  /** About what a row takes, pixels; measured once it is there. */
  rowHeight?: number;
  className?: string;
}) {
  const body = useRef<HTMLTableSectionElement>(null);
  const { rows } = table.getRowModel();
  const [top, setTop] = useState(0);
  const many = rows.length > MANY;
  useLayoutEffect(() => {
    if (many && body.current) setTop(body.current.getBoundingClientRect().top + window.scrollY);
  }, [many]);
  const virtual = useWindowVirtualizer({
    count: many ? rows.length : 0,
    estimateSize: () => rowHeight,
    overscan: OVERSCAN,
    scrollMargin: top,
  });
  const seen = many ? virtual.getVirtualItems() : null;
  const above = seen?.length ? seen[0].start - top : 0;
  const below = seen?.length ? virtual.getTotalSize() - (seen[seen.length - 1].end - top) : 0;
  const shown = seen ? seen.map(({ index }) => rows[index]) : rows;
  return (
    // What is only read aloud is placed in the table's box, not beside it on the page.
    <div className={`relative overflow-x-auto ${className}`}>
      <table className="w-full border-collapse text-left" aria-label={label} aria-rowcount={rows.length + 1}>
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id} className="text-ink-3 text-small border-b border-rule">
              {group.headers.map((header) => (
                <Head key={header.id} header={header} />
              ))}
            </tr>
          ))}
        </thead>
        <tbody ref={body}>
          {above > 0 && <Gap height={above} span={table.getVisibleLeafColumns().length} />}
          {shown.map((row) => (
            <tr
              key={row.id}
              ref={many ? virtual.measureElement : undefined}
              data-index={row.index}
              aria-rowindex={row.index + 2}
              {...rowProps?.(row.original, row.index)}
            >
              {row.getVisibleCells().map((cell) => {
                const { meta } = cell.column.columnDef;
                const inside = flexRender(cell.column.columnDef.cell, cell.getContext());
                const dress = `py-1.5 pr-3 font-normal ${meta?.right ? 'text-right' : 'text-left'} ${meta?.cell ?? ''}`;
                return meta?.rowHead ? (
                  <th key={cell.id} scope="row" className={dress}>
                    {inside}
                  </th>
                ) : (
                  <td key={cell.id} className={dress}>
                    {inside}
                  </td>
                );
              })}
            </tr>
          ))}
          {below > 0 && <Gap height={below} span={table.getVisibleLeafColumns().length} />}
        </tbody>
      </table>
    </div>
  );
}

/** Keeps the place of rows that are out of sight. */
function Gap({ height, span }: { height: number; span: number }) {
  return (
    <tr aria-hidden>
      <td colSpan={span} style={{ height }} />
    </tr>
  );
}

const SORTED = { asc: 'ascending', desc: 'descending' } as const;

/** A column's head; where it sorts, a button that says which way. */
function Head<T>({ header }: { header: Header<T, unknown> }) {
  const { column } = header;
  const { meta } = column.columnDef;
  const sorted = column.getIsSorted();
  const words: ReactNode = header.isPlaceholder ? null : flexRender(column.columnDef.header, header.getContext());
  const Arrow = sorted === 'desc' ? ArrowDown : ArrowUp;
  return (
    <th
      scope="col"
      aria-sort={sorted ? SORTED[sorted] : undefined}
      className={`font-medium py-1.5 pr-3 align-bottom ${meta?.right ? 'text-right' : 'text-left'} ${meta?.cell ?? ''} !text-ink-3`}
    >
      {column.getCanSort() ? (
        <button
          type="button"
          onClick={column.getToggleSortingHandler()}
          className={`relative hover:text-ink rounded-sm ${meta?.right ? 'text-right' : 'text-left'}`}
        >
          {words}
          <Arrow
            size={12}
            aria-hidden
            className={`absolute bottom-1 ${meta?.right ? 'right-full' : 'left-full'} ${sorted ? '' : 'invisible'}`}
          />
        </button>
      ) : (
        words
      )}
    </th>
  );
}
