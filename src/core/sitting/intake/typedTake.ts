/** A take as its row shows it, in texts, and what is typed there as changes of the session's document. */
import type { FieldEdit } from '../../session/edits';
import { isSame, valueAt } from '../../session/edits';
import type { Take } from '../../session/schema';
import { formatTurn, parseTurn } from './turnText';

/** What can be corrected of a take; a field that is empty is asked of the files. */
export interface TypedTake {
  filter: string | null;
  shutter: string;
  iso: string;
  fNumber: string;
  /** Ring angle in degrees and mark. */
  ringDegrees: string;
  mark: string;
  /** Headings of a camera that turned about, such as "0–360". */
  turn: string;
}

/** A row that was changed: what it showed of the changed fields, and what they are to be. */
export interface TakeEdit {
  id: string;
  seen: Partial<TypedTake>;
  to: Partial<TypedTake>;
}

const written = (value: unknown) => (typeof value === 'string' || typeof value === 'number' ? String(value) : '');
const number = (text: string) => (text.trim() === '' ? undefined : Number(text.trim().replace(',', '.')));

interface Field {
  at: readonly string[];
  show: (value: unknown) => string | null;
  read: (text: string) => unknown;
}

const FIELDS: { [K in keyof TypedTake]: Field } = {
  filter: { at: ['filter'], show: (value) => value as string | null, read: (text) => text },
  shutter: { at: ['exposure', 'shutter'], show: written, read: (text) => (text.trim() === '' ? undefined : text) },
  iso: { at: ['exposure', 'iso'], show: written, read: number },
  fNumber: { at: ['exposure', 'fNumber'], show: written, read: number },
  ringDegrees: { at: ['setting', 'ringDegrees'], show: written, read: number },
  mark: { at: ['setting', 'mark'], show: written, read: number },
  turn: { at: ['turn'], show: (value) => formatTurn(value as Take['turn']), read: (text) => parseTurn(text) ?? undefined }, // prettier-ignore
};
const KEYS = Object.keys(FIELDS) as (keyof TypedTake)[];

export function asTyped(take: Take): TypedTake {
  return Object.fromEntries(KEYS.map((key) => [key, FIELDS[key].show(valueAt(take, FIELDS[key].at))])) as unknown as TypedTake; // prettier-ignore
}

/**
 * Changes of the document for what was typed. A field that stands as the row showed it, or as it is to be, is taken; another has been
 * changed by somebody else.
 */
export function editsOfTakes(document: Record<string, unknown>, edits: readonly TakeEdit[]): FieldEdit[] {
  return edits.flatMap(({ id, seen, to }) =>
    KEYS.filter((key) => to[key] !== undefined).map((key): FieldEdit => {
      const { show, read, at } = FIELDS[key];
      const place = ['takes', id, ...at];
      const stands = valueAt(document, place);
      const text = to[key] as string | null;
      const wanted = text === null ? null : read(text);
      // "1/60" and 1/60 as a number are shown alike; what is shown is what was seen.
      const isAsSeen = valueAt(document, ['takes', id]) !== undefined && isSame(show(stands), seen[key] ?? show(undefined) ?? ''); // prettier-ignore
      return { at: place, seen: isAsSeen ? [stands] : [], to: wanted };
    }),
  );
}
