import { createColumnHelper, type RowData } from '@tanstack/react-table';
import { parseShutter } from '@/core/formulas/optics/exposure';
import type { FilterKind } from '@/core/session/notation';
import { polarizes } from '@/core/session/polarizing';
import { parseTurn } from '@/core/sitting/intake/turnText';
import { TextInput } from '@/ui/controls/fields';

/** What is typed of a take or a picture; empty for what isn't said. */
export interface FieldTexts {
  shutter: string;
  iso: string;
  fNumber: string;
  ringDegrees?: string;
  mark?: string;
  turn?: string;
}

/** A row whose exposure and setting can be typed. */
export interface FieldRow {
  /** Id of a take, or path of a picture: names its fields. */
  label: string;
  texts: FieldTexts;
  /** What an empty exposure stands for; examples are shown where nothing else knows. */
  empty?: string;
}

declare module '@tanstack/react-table' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the library's own parameter
  interface TableMeta<TData extends RowData> {
    fields?: { change: (label: string, texts: Partial<FieldTexts>) => void };
    filter?: { change: (label: string, filter: string | null, bracket: boolean) => void };
  }
}

interface Field {
  key: keyof FieldTexts;
  head: string;
  name: (label: string) => string;
  width: string;
  /** What is left of what was typed. */
  clean: (text: string) => string;
  wrong?: (text: string) => boolean;
  example?: string;
}

const unsigned = (text: string) => text.replace(',', '.').replace(/[^\d.]/g, '');
const signed = (text: string) => text.replace(',', '.').replace(/[^-\d.]/g, '');

const FIELDS: readonly Field[] = [
  {
    key: 'shutter',
    head: 'Shutter',
    name: (label) => `Shutter of ${label}`,
    width: 'w-[104px]',
    clean: (text) => text.trim(),
    wrong: (text) => text !== '' && parseShutter(text) === null,
    example: '1/2000',
  },
  { key: 'iso', head: 'ISO', name: (label) => `ISO of ${label}`, width: 'w-[76px]', clean: unsigned, example: '100' },
  {
    key: 'fNumber',
    head: 'f-number',
    name: (label) => `f-number of ${label}`,
    width: 'w-[70px]',
    clean: unsigned,
    example: '2.8',
  },
  {
    key: 'ringDegrees',
    head: 'Ring, °',
    name: (label) => `Ring angle of ${label}, degrees`,
    width: 'w-[64px]',
    clean: signed,
  },
  { key: 'mark', head: 'Mark', name: (label) => `Mark of ${label}`, width: 'w-[56px]', clean: signed },
  {
    key: 'turn',
    head: 'Turn, °',
    name: (label) => `Headings of ${label}, where the camera turned about`,
    width: 'w-[84px]',
    clean: (text) => text,
    wrong: (text) => text !== '' && parseTurn(text) === null,
  },
];

/** Columns of exposure and setting, each a field; which are shown says {@link shownFields}. */
export function fieldColumns<T extends FieldRow>() {
  const column = createColumnHelper<T>();
  return FIELDS.map(({ key, head, name, width, clean, wrong, example }) =>
    column.display({
      id: key,
      header: head,
      cell: ({ row: { original }, table }) => (
        <TextInput
          aria-label={name(original.label)}
          inputMode={wrong ? undefined : 'decimal'}
          invalid={wrong?.(original.texts[key] ?? '')}
          className={width}
          placeholder={example === undefined ? '–' : (original.empty ?? example)}
          value={original.texts[key] ?? ''}
          onChange={({ target }) => table.options.meta!.fields!.change(original.label, { [key]: clean(target.value) })}
        />
      ),
    }),
  );
}

/** Which of the columns a kit's filters need: a ring's angle, a mark, headings of a turn; and whether the aperture is asked for. */
export function shownFields(
  filters: readonly { kind: FilterKind }[],
  { aperture, turn }: { aperture: boolean; turn: boolean },
): Partial<Record<keyof FieldTexts, boolean>> {
  return {
    fNumber: aperture,
    ringDegrees: filters.some(polarizes),
    mark: filters.some(({ kind }) => kind === 'variable-nd'),
    turn,
  };
}
