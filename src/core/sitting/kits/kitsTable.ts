/** Kits as rows of cells: what CSV files and a spreadsheet's clipboard hold. Reading and writing the cells is the edge's work. */
import { FILTER_KINDS, formatFactor } from '../../session/notation';
import {
  EARLIEST_YEAR,
  freshId,
  HANDLING,
  keptKitSchema,
  labelOf,
  LATEST_YEAR,
  OBTAINED,
  readLabel,
  type KeptFilter,
  type KeptKit,
} from './keptKit';

const KIT_COLUMNS = ['kit', 'maker', 'obtained', 'year', 'mount', 'kit price', 'currency'] as const;
const FILTER_COLUMNS = ['filter', 'label', 'kind', 'serial', 'price', 'mass g'] as const;

/** The first row. */
export const COLUMNS: readonly string[] = [
  ...KIT_COLUMNS,
  ...FILTER_COLUMNS,
  ...HANDLING.map((one) => one.question.toLowerCase()),
  'notes',
];

/** Other words that people put at a column's head. */
const ALIASES: Record<string, string> = {
  name: 'filter',
  strength: 'label',
  nd: 'label',
  stops: 'label',
  mass: 'mass g',
  'mass (g)': 'mass g',
  weight: 'mass g',
  grams: 'mass g',
  brand: 'maker',
  remark: 'notes',
  note: 'notes',
  type: 'kind',
  thread: 'mount',
  bought: 'year',
  'serial number': 'serial',
};

/** A label as readers of shorthand take it, whatever kind of filter it is on. */
function writtenLabel(filter: KeptFilter): string {
  const { nominal, kind } = filter;
  if (nominal.stopsRange) return `VND ${nominal.stopsRange[0]}-${nominal.stopsRange[1]}`;
  if (kind === 'nd-polarizer' && nominal.ndFactor !== undefined) return `ND${formatFactor(nominal.ndFactor)}/PL`;
  return labelOf(filter);
}

/** Kits as rows, a filter each, with the row of heads first. */
export function rowsOfKits(kits: readonly KeptKit[]): string[][] {
  const yesNo = (value: boolean | undefined) => (value === undefined ? '' : value ? 'yes' : 'no');
  return [
    [...COLUMNS],
    ...kits.flatMap((kit) =>
      kit.filters.map((filter) => [
        kit.name ?? kit.id,
        kit.maker ?? '',
        kit.obtained ?? '',
        kit.year === undefined ? '' : String(kit.year),
        kit.mount ?? '',
        kit.price ? String(kit.price.amount) : '',
        kit.price?.currency ?? '',
        filter.name ?? filter.id,
        writtenLabel(filter),
        filter.kind,
        filter.serial ?? '',
        filter.price === undefined ? '' : String(filter.price),
        filter.massGrams === undefined ? '' : String(filter.massGrams),
        ...HANDLING.map(({ key }) => yesNo(filter.handling?.[key])),
        filter.notes ?? '',
      ]),
    ),
  ];
}

/** A number as people write it: "12,5", "1 200", "12.5 g"; `null` for what is none, `undefined` for nothing. */
function numberIn(text: string): number | null | undefined {
  const cleaned = text.replace(/[\s\u00a0\u202f]/g, '').replace(/(?:g|gram|grams)$/i, '');
  if (cleaned === '') return undefined;
  const value = Number(/^\d+,\d+$/.test(cleaned) ? cleaned.replace(',', '.') : cleaned);
  return Number.isFinite(value) && value >= 0 ? value : null;
}

/** A year as people write it; `null` for what is none, `undefined` for nothing. */
export function yearIn(text: string): number | null | undefined {
  if (text.trim() === '') return undefined;
  const year = /^\d{4}$/.test(text.trim()) ? Number(text) : NaN;
  return year >= EARLIEST_YEAR && year <= LATEST_YEAR ? year : null;
}

function answerIn(text: string): boolean | null | undefined {
  const word = text.trim().toLowerCase();
  if (word === '') return undefined;
  if (['yes', 'y', 'true', '1', 'x'].includes(word)) return true;
  if (['no', 'n', 'false', '0', '-'].includes(word)) return false;
  return null;
}

/** Which column each cell of a row belongs to, where the row is one of heads; `null` where it isn't. */
export function headsOf(row: readonly string[]): (string | null)[] | null {
  const heads = row.map((cell) => {
    const word = cell.trim().toLowerCase();
    const named = ALIASES[word] ?? word;
    return COLUMNS.includes(named) ? named : null;
  });
  return heads.filter(Boolean).length >= 1 && heads.some((one) => one === 'filter' || one === 'label') ? heads : null;
}

/**
 * Reads kits from rows. With a row of heads the columns may stand in any order and be fewer; without one they are filter's name, label,
 * mass and price.
 *
 * @returns the kits that could be read, and a sentence for every cell that couldn't, with its row as people count
 */
export function kitsOfRows(rows: readonly (readonly string[])[]): { kits: KeptKit[]; problems: string[] } {
  const problems: string[] = [];
  const used = rows.filter((row) => row.some((cell) => cell.trim() !== ''));
  if (used.length === 0) return { kits: [], problems: ['There are no rows in it.'] };
  const heads = headsOf(used[0]);
  const columns = heads ?? ['filter', 'label', 'mass g', 'price'];
  const kits = new Map<string, KeptKit>();
  used.slice(heads ? 1 : 0).forEach((row, i) => {
    const at = `Row ${i + (heads ? 2 : 1)}`;
    const cell = (name: string) => {
      const index = columns.indexOf(name);
      return index < 0 ? '' : (row[index] ?? '').trim();
    };
    const filter = filterOfRow(cell, at, problems);
    if (!filter) return;
    const name = cell('kit') || 'Kit';
    const kit = kits.get(name) ?? kitOfRow(name, cell, at, problems);
    kits.set(name, kit);
    kit.filters.push({
      ...filter,
      id: freshId(
        filter.name ?? 'filter',
        kit.filters.map((one) => one.id),
      ),
    });
  });
  return { kits: [...kits.values()].map((kit) => keptKitSchema.parse(kit)), problems };
}

type Cell = (name: string) => string;

function kitOfRow(name: string, cell: Cell, at: string, problems: string[]): KeptKit {
  const obtained = cell('obtained').toLowerCase();
  const known = OBTAINED.find((one) => one === obtained);
  if (obtained !== '' && !known)
    problems.push(`${at}: obtained is one of ${OBTAINED.join(', ')}; “${obtained}” is none.`);
  const amount = numberIn(cell('kit price'));
  if (amount === null) problems.push(`${at}: the kit’s price “${cell('kit price')}” is no number.`);
  const year = yearIn(cell('year'));
  if (year === null) problems.push(`${at}: the year “${cell('year')}” is none.`);
  return {
    id: 'kit',
    name,
    ...(cell('maker') ? { maker: cell('maker') } : {}),
    ...(known ? { obtained: known } : {}),
    ...(typeof year === 'number' ? { year } : {}),
    ...(cell('mount') ? { mount: cell('mount').slice(0, 100) } : {}),
    ...(typeof amount === 'number' ? { price: { amount, currency: cell('currency') || 'EUR' } } : {}),
    filters: [],
  };
}

function filterOfRow(cell: Cell, at: string, problems: string[]): KeptFilter | null {
  const name = cell('filter');
  // A name such as "ND8" is a label where none stands beside it.
  const written = cell('label') || name;
  const read = readLabel(written);
  let label: Exclude<typeof read, { problem: string }>;
  if ('problem' in read) {
    if (cell('label') !== '') {
      problems.push(`${at}: ${read.problem}`);
      return null;
    }
    label = { kind: 'nd', nominal: {}, name };
  } else label = read;
  const kindCell = cell('kind').toLowerCase();
  const kind = FILTER_KINDS.find((one) => one === kindCell);
  if (kindCell !== '' && !kind)
    problems.push(`${at}: kind is one of ${FILTER_KINDS.join(', ')}; “${kindCell}” is none.`);
  const [massGrams, price] = [numberIn(cell('mass g')), numberIn(cell('price'))];
  if (massGrams === null || massGrams === 0)
    problems.push(`${at}: the mass “${cell('mass g')}” is no number of grams above 0.`);
  if (price === null) problems.push(`${at}: the price “${cell('price')}” is no number.`);
  const handling = HANDLING.flatMap(({ key, question }) => {
    const answer = answerIn(cell(question.toLowerCase()));
    if (answer === null) problems.push(`${at}: “${question}” takes yes or no.`);
    return typeof answer === 'boolean' ? [[key, answer] as const] : [];
  });
  return {
    id: '',
    name: name || label.name,
    kind: kind ?? label.kind,
    nominal: { ...label.nominal },
    ...(cell('serial') ? { serial: cell('serial').slice(0, 100) } : {}),
    ...(massGrams ? { massGrams } : {}),
    ...(typeof price === 'number' ? { price } : {}),
    ...(handling.length > 0 ? { handling: Object.fromEntries(handling) } : {}),
    ...(cell('notes') ? { notes: cell('notes') } : {}),
  };
}
