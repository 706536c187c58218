'use client';

import { parse } from 'csv-parse/browser/esm/sync';
import { Plus, X } from 'lucide-react';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { handlingFlaws, type KeptFilter } from '@/core/sitting/kits/keptKit';
import { Button } from '@/ui/Button';
import { CELLS, emptyRow, meaning, pasted, problemOf, typed, type Cell, type Row } from './rows';

const HEADS: Record<Cell, string> = { name: 'Filter', label: 'Label', mass: 'Mass, g', price: 'Price' };
const KINDS: readonly [KeptFilter['kind'], string][] = [
  ['nd', 'ND'],
  ['nd-polarizer', 'ND with polarizer'],
  ['polarizer', 'polarizer'],
  ['variable-nd', 'variable ND'],
  ['graduated-nd', 'graduated ND'],
  ['clear', 'clear'],
];

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
  const table = useRef<HTMLTableElement>(null);
  const [told, setTold] = useState<string[]>([]);
  const wanted = useRef<{ row: number; cell: Cell } | null>(null);

  const focus = (row: number, cell: Cell) =>
    table.current?.querySelector<HTMLInputElement>(`[data-cell="${row}-${cell}"]`)?.focus();
  /** A row that is being added gets the focus when it is there. */
  const noticed = (node: HTMLInputElement | null, row: number, cell: Cell) => {
    if (node && wanted.current?.row === row && wanted.current.cell === cell) {
      wanted.current = null;
      node.focus();
    }
  };

  function add(cell: Cell) {
    wanted.current = { row: rows.length, cell };
    onChange([...rows, emptyRow(rows)]);
  }

  function keyed(event: KeyboardEvent, row: number, cell: Cell) {
    if (event.nativeEvent.isComposing) return;
    const down = event.key === 'ArrowDown' || event.key === 'Enter';
    if (!down && event.key !== 'ArrowUp') return;
    event.preventDefault();
    if (down && row === rows.length - 1) {
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

  const problems = rows.flatMap(({ text }, i) =>
    CELLS.flatMap((cell) => {
      const problem = problemOf(cell, text[cell]);
      return problem ? [`Row ${i + 1}: ${problem}`] : [];
    }),
  );
  return (
    <div className="mt-3">
      <div className="overflow-x-auto">
        <table ref={table} className="w-full border-collapse text-left" aria-label="Filters of the kit">
          <thead>
            <tr className="text-ink-3 text-[12px]">
              <th className="font-normal pb-1 pr-2 w-7">
                <span className="sr-only">Row</span>
              </th>
              {CELLS.slice(0, 2).map((cell) => (
                <th key={cell} className="font-normal pb-1 pr-2">
                  {HEADS[cell]}
                </th>
              ))}
              <th className="font-normal pb-1 pr-2">Kind</th>
              <th className="font-normal pb-1 pr-2">In all notations</th>
              {CELLS.slice(2).map((cell) => (
                <th key={cell} className="font-normal pb-1 pr-2 text-right">
                  {HEADS[cell]}
                </th>
              ))}
              <th className="font-normal pb-1 pr-2">Handling</th>
              <th className="pb-1">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => {
              const { filter, text } = row;
              const flaws = handlingFlaws(filter).length;
              const input = (cell: Cell, width: string) => (
                <input
                  ref={(node) => noticed(node, i, cell)}
                  data-cell={`${i}-${cell}`}
                  aria-label={`${HEADS[cell]}, row ${i + 1}`}
                  aria-invalid={problemOf(cell, text[cell]) !== null}
                  className={`field ${width} ${cell === 'mass' || cell === 'price' ? 'text-right' : ''} ${problemOf(cell, text[cell]) ? 'outline outline-2 outline-warning' : ''}`}
                  value={text[cell]}
                  spellCheck={false}
                  onFocus={() => onSelect(filter.id)}
                  onKeyDown={(event) => keyed(event, i, cell)}
                  onPaste={(event) => paste(event, i, cell)}
                  onChange={({ target }) =>
                    onChange(rows.map((one, k) => (k === i ? typed(one, cell, target.value) : one)))
                  }
                />
              );
              return (
                <tr
                  key={filter.id}
                  aria-selected={selected === filter.id}
                  className={selected === filter.id ? 'bg-sheet' : ''}
                >
                  <td className="py-1 pl-1.5 text-ink-3 tabular-nums">{i + 1}</td>
                  <td className="py-1 pr-2">{input('name', 'w-[128px]')}</td>
                  <td className="py-1 pr-2">{input('label', 'w-[104px]')}</td>
                  <td className="py-1 pr-2">
                    <select
                      aria-label={`Kind, row ${i + 1}`}
                      className="field w-[140px]"
                      value={filter.kind}
                      onFocus={() => onSelect(filter.id)}
                      onChange={({ target }) =>
                        onChange(
                          rows.map((one, k) =>
                            k === i ? { ...one, filter: { ...filter, kind: target.value as KeptFilter['kind'] } } : one,
                          ),
                        )
                      }
                    >
                      {KINDS.map(([kind, words]) => (
                        <option key={kind} value={kind}>
                          {words}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="py-1 pr-2 text-ink-2 text-[12.5px] whitespace-nowrap">{meaning(filter)}</td>
                  <td className="py-1 pr-2 text-right">{input('mass', 'w-[72px]')}</td>
                  <td className="py-1 pr-2 text-right">{input('price', 'w-[84px]')}</td>
                  <td className="py-1 pr-2 text-ink-2 text-[12.5px] whitespace-nowrap">
                    {flaws > 0 ? `${flaws} ${flaws === 1 ? 'flaw' : 'flaws'}` : filter.handling ? 'no flaw' : '–'}
                    {filter.photos && filter.photos.length > 0 ? `, ${filter.photos.length} ⧉` : ''}
                  </td>
                  <td className="py-1">
                    <button
                      type="button"
                      aria-label={`Remove ${text.name}, row ${i + 1}`}
                      className="p-1.5 rounded-md text-ink-3 hover:text-ink hover:bg-raised"
                      onClick={() => onChange(rows.filter((_, k) => k !== i))}
                    >
                      <X size={15} aria-hidden />
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <div className="flex items-start gap-4 mt-2 flex-wrap">
        <Button look="quiet" onClick={() => add('name')}>
          <Plus size={16} aria-hidden /> Add a row
        </Button>
        <p className="text-ink-3 text-[12.5px] mt-2 max-w-[64ch]">
          Up, down and Enter move between rows; cells copied from a spreadsheet are pasted from the cell at hand on.
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
