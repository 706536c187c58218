/**
 * Changes of a session's document, field by field, so that two people can change one session at a time: what a change saw goes with it, and
 * it is taken only where that still stands. Undo and the merge of two states are the differences of two documents laid on a third.
 */

type Json = Record<string, unknown>;

/** One field as somebody changes it. */
export interface FieldEdit {
  /** Keys from the document down; an entry of a list is named by its id, one of a list of texts by itself. */
  at: readonly string[];
  /** Values that may stand there for the change to be taken; `undefined` where nothing may stand there. */
  seen: readonly unknown[];
  /** What is to stand there; `undefined` takes it away. */
  to: unknown;
  /** New entries of a list: the entry before it, `null` for the first; left out, it comes last. */
  after?: string | null;
}

/** A change that wasn't taken, because somebody else had changed the same field. */
export interface RefusedEdit {
  at: readonly string[];
  /** What stands there now; `undefined` for nothing. */
  stands: unknown;
  wanted: unknown;
}

/** What became of one field or entry. */
export interface Change {
  at: readonly string[];
  how: 'added' | 'removed' | 'changed';
}

/** What an edit does, for the record: enough to say it in words, without what it holds. */
export function changeOf({ at, seen, to }: FieldEdit): Change {
  return { at, how: to === undefined ? 'removed' : seen.every((one) => one === undefined) ? 'added' : 'changed' };
}

/** Fields that mean something only as a whole: half of one rectangle and half of another is no rectangle. */
const WHOLE: ReadonlySet<string> = new Set(['rect', 'response', 'colorSpace', 'check', 'nominal', 'price', 'place', 'view', 'span', 'turn']); // prettier-ignore

/**
 * A document with changes laid on it, each by itself; the document that is given stays as it is.
 *
 * @returns the new document (the same where nothing changes) and the changes that others had come before
 */
export function applyEdits(document: Json, edits: readonly FieldEdit[]): { document: Json; refused: RefusedEdit[] } {
  const refused: RefusedEdit[] = [];
  let next = document;
  for (const edit of edits) {
    const stands = valueAt(next, edit.at);
    if (isSame(stands, edit.to)) continue;
    const changed = edit.seen.some((seen) => isSame(seen, stands))
      ? (withValue(next, edit.at, edit) as Json | undefined)
      : undefined;
    if (changed === undefined) refused.push({ at: edit.at, stands, wanted: edit.to });
    else next = changed;
  }
  return { document: next, refused };
}

/** What turns one document into another, each field by itself. Laid on a third document this is a merge; turned round, it takes back. */
export function differences(before: unknown, after: unknown, at: readonly string[] = []): FieldEdit[] {
  if (isSame(before, after)) return [];
  const isWhole = WHOLE.has(at.at(-1) ?? '');
  if (!isWhole && isPlain(before) && isPlain(after)) {
    const keys = [...new Set([...Object.keys(after), ...Object.keys(before)])];
    return keys.flatMap((key) => differences(before[key], after[key], [...at, key]));
  }
  const lists = !isWhole && [entriesOf(before), entriesOf(after)];
  if (!lists || !lists[0] || !lists[1] || isReordered(lists[0], lists[1])) return [{ at, seen: [before], to: after }];
  const [old, now] = lists;
  const gone = [...old].flatMap(([id, entry]) =>
    now.has(id) ? [] : [{ at: [...at, id], seen: [entry], to: undefined }],
  );
  const ids = [...now.keys()];
  const kept = [...now].flatMap(([id, entry], i): FieldEdit[] =>
    old.has(id)
      ? differences(old.get(id), entry, [...at, id])
      : [{ at: [...at, id], seen: [undefined], to: entry, after: ids[i - 1] ?? null }],
  );
  return [...gone, ...kept];
}

/** What stands at a place of a document; `undefined` for nothing. */
export function valueAt(document: unknown, at: readonly string[]): unknown {
  return at.reduce<unknown>((here, key) => {
    if (Array.isArray(here)) return entriesOf(here)?.get(key);
    return isPlain(here) && Object.hasOwn(here, key) ? here[key] : undefined;
  }, document);
}

/** @returns `undefined` where what the change lies in is gone itself */
function withValue(here: unknown, at: readonly string[], edit: FieldEdit): unknown {
  const [key, ...rest] = at;
  if (key === undefined) return edit.to;
  if (Array.isArray(here)) {
    const index = here.findIndex((entry) => idOf(entry) === key);
    if (rest.length > 0) {
      const changed = index < 0 ? undefined : withValue(here[index], rest, edit);
      return changed === undefined ? undefined : here.with(index, changed);
    }
    if (edit.to === undefined) return here.toSpliced(index, 1);
    if (index >= 0) return here.with(index, edit.to);
    const before = edit.after === undefined ? here.length - 1 : here.findIndex((entry) => idOf(entry) === edit.after);
    // An entry whose neighbor is gone comes last.
    return here.toSpliced(before < 0 && edit.after != null ? here.length : before + 1, 0, edit.to);
  }
  if (!isPlain(here)) return undefined;
  if (rest.length === 0) {
    const { [key]: _, ...others } = here;
    if (edit.to === undefined) return others;
    return { ...here, [key]: edit.to };
  }
  // What a field lies in may be missing: an exposure, a setting, a list that no one has made yet.
  const inner = withValue(here[key] ?? (LISTS.has(key) ? [] : {}), rest, edit);
  if (inner === undefined) return undefined;
  if (isPlain(inner) && Object.keys(inner).length === 0) {
    const { [key]: _, ...others } = here;
    return others;
  }
  return { ...here, [key]: inner };
}

const LISTS: ReadonlySet<string> = new Set(['kits', 'filters', 'scenes', 'takes', 'patches', 'files']);

const isPlain = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value);

/** By what an entry of a list is known: its id, or itself where it is a text. */
const idOf = (entry: unknown): string | undefined =>
  typeof entry === 'string' ? entry : isPlain(entry) && typeof entry.id === 'string' ? entry.id : undefined;

/** Entries of a list by their ids; `null` where it isn't a list of such, or two have one id. */
function entriesOf(list: unknown): Map<string, unknown> | null {
  if (!Array.isArray(list)) return null;
  const entries = new Map<string, unknown>();
  for (const entry of list) {
    const id = idOf(entry);
    if (id === undefined || entries.has(id)) return null;
    entries.set(id, entry);
  }
  return entries;
}

/** Whether entries that both have stand in another order. */
function isReordered(before: ReadonlyMap<string, unknown>, after: ReadonlyMap<string, unknown>): boolean {
  const old = [...before.keys()].filter((id) => after.has(id));
  return [...after.keys()].filter((id) => before.has(id)).some((id, i) => id !== old[i]);
}

/** Whether two values of JSON are the same, whatever the order of their keys. */
export function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((one, i) => isSame(one, b[i]));
  if (!isPlain(a) || !isPlain(b)) return false;
  const keys = Object.keys(a);
  return keys.length === Object.keys(b).length && keys.every((key) => Object.hasOwn(b, key) && isSame(a[key], b[key]));
}
