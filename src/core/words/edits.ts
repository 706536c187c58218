/** Sentences on changes of a session: what was changed, and what wasn't because somebody else had. */
import type { Change, RefusedEdit } from '../session/edits';
import { quoted } from './numbers';

const ENTRIES: Readonly<Record<string, string>> = { kits: 'kit', filters: 'filter', scenes: 'scene', takes: 'take', patches: 'patch', files: 'file' }; // prettier-ignore
const FIELDS: Readonly<Record<string, string>> = {
  iso: 'ISO',
  fNumber: 'f-number',
  nominal: 'label',
  rect: 'place',
  mark: 'mark',
  ringDegrees: 'ring angle',
  turn: 'headings',
  capturedAt: 'time',
  whiteBalance: 'white balance',
  optics: 'light',
  colorSpace: 'color space',
  shutterMarks: 'shutter marks',
  baseIso: 'base ISO',
  screenDegrees: 'screen’s angle',
  incidenceDegrees: 'angle of view',
  sunAngleDegrees: 'angle to the sun',
  response: 'camera response',
  check: 'camera check',
};

/** The last two steps of a change: whose it is and what of it. */
function placeOf(at: readonly string[]): { owner: string; what: string } {
  let owner = '';
  let rest = at;
  while (rest.length > 1 && ENTRIES[rest[0]]) {
    owner = `${ENTRIES[rest[0]]} ${quoted([rest[1]])}`;
    rest = rest.slice(2);
  }
  const last = rest.at(-1);
  const what = last === undefined ? '' : last === 'id' ? 'name' : (FIELDS[last] ?? ENTRIES[last] ?? last);
  return { owner, what };
}

/** Owners that a line names before it counts. */
const MOST_NAMED = 3;

/** What a change did: “title; take “nd8”: shutter, ISO; patch “gray” added”; many of one kind are counted: “11 patches added”. */
export function describeChanges(changes: readonly Change[]): string {
  const byOwner = new Map<string, string[]>();
  for (const { at, how } of changes) {
    const { owner, what } = placeOf(at);
    const words = what === '' ? how : how === 'removed' ? `${what} taken out` : what;
    byOwner.set(owner, [...(byOwner.get(owner) ?? []), words]);
  }
  /** By what was done and to what kind of thing, the things that it was done to. */
  const alike = new Map<string, string[]>();
  for (const [owner, words] of byOwner) {
    const kind = owner.split(' ')[0];
    const done = [...new Set(words)].join(', ');
    const key = `${kind}|${words.some((one) => one === 'added' || one === 'removed') ? ' ' : ': '}${done}`;
    alike.set(key, [...(alike.get(key) ?? []), owner]);
  }
  const parts = [...alike].flatMap(([key, owners]) => {
    const [kind, done] = [key.slice(0, key.indexOf('|')), key.slice(key.indexOf('|') + 1)];
    if (kind === '') return [done.slice(2)];
    if (owners.length > MOST_NAMED) return [`${owners.length} ${kind === 'patch' ? 'patches' : `${kind}s`}${done}`];
    return owners.map((owner) => `${owner}${done}`);
  });
  const more = parts.length - MOST_NAMED;
  return more > 0 ? `${parts.slice(0, MOST_NAMED).join('; ')} and ${more} more` : parts.join('; ');
}

/** Why a change wasn't taken. */
export function refusedEdit({ at, stands, wanted }: RefusedEdit): string {
  const { owner, what } = placeOf(at);
  const field = what === '' ? owner : owner === '' ? `the ${what}` : `the ${what} of ${owner}`;
  const name = field.charAt(0).toUpperCase() + field.slice(1);
  const now =
    stands === undefined ? 'is gone' : isShort(stands) ? `is ${quoted([String(stands)])} now` : 'is another now';
  const mine = isShort(wanted) ? `; ${quoted([String(wanted)])} was not kept` : '; your change was not kept';
  return `${name} was changed elsewhere meanwhile and ${now}${mine}.`;
}

const isShort = (value: unknown) =>
  typeof value === 'number' || (typeof value === 'string' && value.length > 0 && value.length <= 60);
