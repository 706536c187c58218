/** Rows of the kit's table as they are typed: a cell that can't be read keeps its text and what the filter was before. */
import { allNotations, formatFactor, nominalStops } from '@/core/session/notation';
import { freshId, labelOf, readLabel, type KeptFilter } from '@/core/sitting/kits/keptKit';
import { headsOf, kitsOfRows } from '@/core/sitting/kits/kitsTable';
import { fixed, percent } from '@/ui/format';

export const CELLS = ['name', 'label', 'mass', 'price'] as const;
export type Cell = (typeof CELLS)[number];

export interface Row {
  filter: KeptFilter;
  text: Record<Cell, string>;
}

const written = (value: number | undefined) => (value === undefined ? '' : String(value));

export function rowOf(filter: KeptFilter): Row {
  return {
    filter,
    text: {
      name: filter.name ?? filter.id,
      label: labelOf(filter),
      mass: written(filter.massGrams),
      price: written(filter.price),
    },
  };
}

const number = (text: string) => Number(text.trim().replace(',', '.').replace(/\s*g$/i, ''));

/** What is wrong with a cell, a sentence; `null` where it can be read. */
export function problemOf(cell: Cell, text: string): string | null {
  if (cell === 'name') return text.trim() === '' ? 'Give the filter a name.' : null;
  if (cell === 'label') {
    const read = readLabel(text);
    return 'problem' in read ? read.problem : null;
  }
  if (text.trim() === '') return null;
  const value = number(text);
  if (cell === 'mass') return value > 0 ? null : 'The mass is a number of grams above 0.';
  return value >= 0 ? null : 'The price is a number.';
}

/** A row with one cell typed anew. */
export function typed(row: Row, cell: Cell, text: string): Row {
  const next: Row = { filter: row.filter, text: { ...row.text, [cell]: text } };
  if (problemOf(cell, text) !== null) return next;
  const filter = { ...row.filter };
  if (cell === 'name') filter.name = text.trim();
  if (cell === 'label') {
    const read = readLabel(text);
    if (!('problem' in read)) {
      filter.nominal = { ...read.nominal };
      // "CPL", "VND 2-5" say the kind; a bare strength leaves what was chosen.
      if (read.kind !== 'nd' || !keepsKind(filter)) filter.kind = read.kind;
    }
  }
  if (cell === 'mass') setNumber(filter, 'massGrams', text);
  if (cell === 'price') setNumber(filter, 'price', text);
  return { ...next, filter };
}

/** A plain strength may stand on these kinds as well. */
const keepsKind = ({ kind }: KeptFilter) => kind === 'nd-polarizer' || kind === 'graduated-nd' || kind === 'nd';

function setNumber(filter: KeptFilter, key: 'massGrams' | 'price', text: string) {
  if (text.trim() === '') delete filter[key];
  else filter[key] = number(text);
}

/** An empty row whose id no other has. */
export function emptyRow(rows: readonly Row[]): Row {
  const id = freshId(
    'filter',
    rows.map((row) => row.filter.id),
  );
  return rowOf({ id, name: 'unmarked', kind: 'nd', nominal: {} });
}

/**
 * Rows with cells pasted from a spreadsheet. With a row of heads whole filters are added; without one the cells are laid from the cell at
 * hand on, and rows are added as they are needed.
 */
export function pasted(
  rows: readonly Row[],
  cells: readonly (readonly string[])[],
  at: { row: number; cell: Cell },
): { rows: Row[]; problems: string[] } {
  if (headsOf(cells[0] ?? [])) {
    const { kits, problems } = kitsOfRows(cells);
    const used = rows.map((row) => row.filter.id);
    const added = kits
      .flatMap((kit) => kit.filters)
      .map((filter) => {
        const id = freshId(filter.name ?? filter.id, used);
        used.push(id);
        return rowOf({ ...filter, id });
      });
    return { rows: [...rows, ...added], problems };
  }
  const next = [...rows];
  const problems: string[] = [];
  cells.forEach((line, i) => {
    const index = at.row + i;
    while (next.length <= index) next.push(emptyRow(next));
    line.forEach((text, j) => {
      const cell = CELLS[CELLS.indexOf(at.cell) + j];
      if (!cell) return;
      next[index] = typed(next[index], cell, text.trim());
      const problem = problemOf(cell, text);
      if (problem) problems.push(`Row ${index + 1}: ${problem}`);
    });
  });
  return { rows: next, problems };
}

/** Rows with one of them at another place; the same where that place isn't there. */
export function moved(rows: Row[], from: number, to: number): Row[] {
  if (to < 0 || to >= rows.length || from === to) return rows;
  const next = [...rows];
  next.splice(to, 0, ...next.splice(from, 1));
  return next;
}

/** A strength in every notation. */
export function meaning({ nominal }: KeptFilter): string {
  const stops = nominalStops(nominal);
  if (nominal.stopsRange) return `${fixed(nominal.stopsRange[0])} to ${fixed(nominal.stopsRange[1])} stops`;
  if (stops === null) return 'unmarked';
  const all = allNotations(stops);
  return `${fixed(all.stops)} stops · ND${formatFactor(all.ndFactor)} · D ${fixed(all.opticalDensity)} · ${percent(all.transmittance, all.transmittance < 0.1 ? 1 : 0)}`;
}
