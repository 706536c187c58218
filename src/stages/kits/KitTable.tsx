'use client';

import { parse } from 'csv-parse/browser/esm/sync';
import { Plus } from 'lucide-react';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { Button } from '@/ui/Button';
import { DataTable, useDataTable } from '@/ui/controls/DataTable';
import { KIT_COLUMNS } from './kitColumns';
import { CELLS, emptyRow, moved, pasted, problemOf, typed, type Cell, type Row } from './rows';

/** The kit's filters as a table that is filled like a spreadsheet: arrows and Enter move, pasted cells are laid from the cell at hand on. */
export function KitTable({
  rows,
  onChange,
  selected,
  onSelect,
}: {
  rows: Row[];
  onChange: (rows: Row[]) => void;
  selected: string | null;
  onSelect: (id: string) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const [told, setTold] = useState<string[]>([]);
  const wanted = useRef<{ row: number; cell: Cell } | null>(null);

  const focus = (row: number, cell: Cell) =>
    box.current?.querySelector<HTMLInputElement>(`[data-cell="${row}-${cell}"]`)?.focus();

  function add(cell: Cell) {
    wanted.current = { row: rows.length, cell };
    onChange([...rows, emptyRow(rows)]);
  }

  function keyed(event: KeyboardEvent, row: number, cell: Cell) {
    if (event.nativeEvent.isComposing) return;
    const down = event.key === 'ArrowDown' || event.key === 'Enter';
    if (!down && event.key !== 'ArrowUp') return;
    event.preventDefault();
    if (event.altKey && event.key !== 'Enter') {
      const next = moved(rows, row, row + (down ? 1 : -1));
      if (next === rows) return;
      wanted.current = { row: row + (down ? 1 : -1), cell };
      onChange(next);
    } else if (down && row === rows.length - 1) {
      if (event.key === 'Enter') add(cell);
    } else focus(row + (down ? 1 : -1), cell);
  }

  function paste(event: ClipboardEvent, row: number, cell: Cell) {
    const text = event.clipboardData.getData('text/plain').replace(/\r?\n$/, '');
    if (!/[\t\n]/.test(text)) return;
    event.preventDefault();
    let cells: string[][];
    try {
      cells = parse(text, { delimiter: '\t', relaxColumnCount: true, relaxQuotes: true });
    } catch {
      return setTold(['What was pasted can’t be read as cells.']);
    }
    const result = pasted(rows, cells, { row, cell });
    setTold(result.problems);
    onChange(result.rows);
  }

  const table = useDataTable({
    data: rows,
    columns: KIT_COLUMNS,
    getRowId: (row) => row.filter.id,
    meta: {
      kit: {
        set: (i, next) => onChange(rows.map((one, k) => (k === i ? next : one))),
        type: (i, cell, text) => onChange(rows.map((one, k) => (k === i ? typed(one, cell, text) : one))),
        remove: (i) => onChange(rows.filter((_, k) => k !== i)),
        select: onSelect,
        keyed,
        paste,
        /** A row that is being added or moved gets the focus when it is there. */
        noticed: (node, row, cell) => {
          if (node && wanted.current?.row === row && wanted.current.cell === cell) {
            wanted.current = null;
            node.focus();
          }
        },
      },
    },
  });
  const problems = rows.flatMap(({ text }, i) =>
    CELLS.flatMap((cell) => {
      const problem = problemOf(cell, text[cell]);
      return problem ? [`Row ${i + 1}: ${problem}`] : [];
    }),
  );
  return (
    <div className="mt-3" ref={box}>
      <DataTable
        table={table}
        label="Filters of the kit"
        rowProps={({ filter }) => ({
          'aria-selected': selected === filter.id,
          className: selected === filter.id ? 'bg-sheet' : '',
        })}
      />
      <div className="flex items-start gap-4 mt-2 flex-wrap">
        <Button look="quiet" onClick={() => add('name')}>
          <Plus size={16} aria-hidden /> Add a row
        </Button>
        <p className="text-ink-3 text-small mt-2 max-w-[64ch]">
          Up, down and Enter move between rows, with Alt they move the row; cells copied from a spreadsheet are pasted
          from the cell at hand on.
        </p>
      </div>
      {problems.length + told.length > 0 && (
        <ul role="status" className="mt-2 bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5 grid gap-1">
          {[...new Set([...problems, ...told])].map((one) => (
            <li key={one}>{one}</li>
          ))}
          <li className="text-ink-2">
            Such a cell is kept as you typed it; the filter stays what it was until it can be read.
          </li>
        </ul>
      )}
    </div>
  );
}
