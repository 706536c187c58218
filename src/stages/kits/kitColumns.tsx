import { createColumnHelper, type RowData } from '@tanstack/react-table';
import { X } from 'lucide-react';
import type { ClipboardEvent, KeyboardEvent } from 'react';
import { handlingFlaws, type KeptFilter } from '@/core/sitting/kits/keptKit';
import { TextInput } from '@/ui/controls/fields';
import { Select, type Option } from '@/ui/controls/Select';
import { IconButton } from '@/ui/controls/Tooltip';
import { meaning, problemOf, type Cell, type Row } from './rows';

/** What the cells of the kit's table ask of it. */
interface KitTableActions {
  set: (row: number, next: Row) => void;
  type: (row: number, cell: Cell, text: string) => void;
  remove: (row: number) => void;
  select: (filter: string) => void;
  keyed: (event: KeyboardEvent, row: number, cell: Cell) => void;
  paste: (event: ClipboardEvent, row: number, cell: Cell) => void;
  noticed: (node: HTMLInputElement | null, row: number, cell: Cell) => void;
}

declare module '@tanstack/react-table' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the library's own parameter
  interface TableMeta<TData extends RowData> {
    kit?: KitTableActions;
  }
}

const HEADS: Record<Cell, string> = { name: 'Filter', label: 'Label', mass: 'Mass, g', price: 'Price' };
const WIDTHS: Record<Cell, string> = { name: 'w-[128px]', label: 'w-[104px]', mass: 'w-[72px]', price: 'w-[84px]' };
const KINDS: readonly Option<KeptFilter['kind']>[] = [
  ['nd', 'ND'],
  ['nd-polarizer', 'ND with polarizer'],
  ['polarizer', 'polarizer'],
  ['variable-nd', 'variable ND'],
  ['graduated-nd', 'graduated ND'],
  ['clear', 'clear'],
  ['diffusion', 'diffusion'],
  ['color', 'color'],
  ['infrared-cut', 'infrared cut'],
];

const column = createColumnHelper<Row>();

/** A cell that is typed into. */
function typedColumn(cell: Cell) {
  const right = cell === 'mass' || cell === 'price';
  return column.display({
    id: cell,
    header: HEADS[cell],
    meta: { right },
    cell: ({ row: { index, original }, table }) => {
      const { kit } = table.options.meta!;
      return (
        <TextInput
          ref={(node) => kit!.noticed(node, index, cell)}
          data-cell={`${index}-${cell}`}
          aria-label={`${HEADS[cell]}, row ${index + 1}`}
          invalid={problemOf(cell, original.text[cell]) !== null}
          className={`${WIDTHS[cell]} ${right ? 'text-right' : ''}`}
          value={original.text[cell]}
          onFocus={() => kit!.select(original.filter.id)}
          onKeyDown={(event) => kit!.keyed(event, index, cell)}
          onPaste={(event) => kit!.paste(event, index, cell)}
          onChange={({ target }) => kit!.type(index, cell, target.value)}
        />
      );
    },
  });
}

/** What was noted of a filter, in a word. */
function handlingOf(filter: KeptFilter): string {
  const flaws = handlingFlaws(filter).length;
  const photos = filter.photos && filter.photos.length > 0 ? `, ${filter.photos.length} ⧉` : '';
  return (flaws > 0 ? `${flaws} ${flaws === 1 ? 'flaw' : 'flaws'}` : filter.handling ? 'no flaw' : '–') + photos;
}

export const KIT_COLUMNS = [
  column.display({
    id: 'number',
    header: () => <span className="sr-only">Row</span>,
    meta: { cell: 'w-7 pl-1.5 text-ink-3' },
    cell: ({ row }) => row.index + 1,
  }),
  typedColumn('name'),
  typedColumn('label'),
  column.display({
    id: 'kind',
    header: 'Kind',
    cell: ({ row: { index, original }, table }) => {
      const { kit } = table.options.meta!;
      return (
        <Select
          label={`Kind, row ${index + 1}`}
          className="w-[152px]"
          value={original.filter.kind}
          options={KINDS}
          onFocus={() => kit!.select(original.filter.id)}
          onChange={(kind) => kit!.set(index, { ...original, filter: { ...original.filter, kind } })}
        />
      );
    },
  }),
  column.display({
    id: 'meaning',
    header: 'In all notations',
    meta: { cell: 'text-ink-2 text-small whitespace-nowrap' },
    cell: ({ row }) => meaning(row.original.filter),
  }),
  typedColumn('mass'),
  typedColumn('price'),
  column.display({
    id: 'handling',
    header: 'Handling',
    meta: { cell: 'text-ink-2 text-small whitespace-nowrap' },
    cell: ({ row }) => handlingOf(row.original.filter),
  }),
  column.display({
    id: 'remove',
    header: () => <span className="sr-only">Remove</span>,
    meta: { cell: 'pr-0' },
    cell: ({ row: { index, original }, table }) => (
      <IconButton
        label={`Remove ${original.text.name}, row ${index + 1}`}
        words="Remove"
        className="!p-1.5"
        onClick={() => table.options.meta!.kit!.remove(index)}
      >
        <X size={15} aria-hidden />
      </IconButton>
    ),
  }),
];
