/** How much a document may hold. More is no person's doing, and would hold everybody else up. Looked at before anything is parsed. */

/** Of a session file. */
export const MOST_CHARACTERS = 50_000_000;
/** No text of as many characters has more bytes in UTF-8: a file that does is refused before it is read. */
export const MOST_TEXT_BYTES = 3 * MOST_CHARACTERS;
/** Brackets within brackets. */
export const MOST_DEPTH = 64;
const MOST = { kits: 200, filters: 1_000, scenes: 1_000, takes: 10_000, patches: 5_000, files: 100_000 } as const;

/** Why a text is too much to be read as JSON; `null` where it isn't. */
export function tooMuchText(text: string, mostCharacters = MOST_CHARACTERS): string | null {
  if (text.length > mostCharacters)
    return `${inMillions(text.length)} characters are more than ${inMillions(mostCharacters)}, the most that is read`;
  if (deepest(text) > MOST_DEPTH) return `its brackets are nested more than ${MOST_DEPTH} deep`;
  return null;
}

/** Why a file of more bytes than {@link MOST_TEXT_BYTES} is not read. */
export const TOO_LARGE = `it is larger than ${MOST_TEXT_BYTES / 1e6} MB, the most that is read`;

const inMillions = (count: number) => `${(count / 1e6).toFixed(1)} million`;

/** Depth of the innermost bracket; those in strings are text. */
function deepest(text: string): number {
  let [depth, most, quoted] = [0, 0, false];
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (quoted) {
      // A backslash takes the next character along.
      if (code === 92) i++;
      else if (code === 34) quoted = false;
    } else if (code === 34) quoted = true;
    else if (code === 91 || code === 123) {
      if (++depth > most && (most = depth) > MOST_DEPTH) return most;
    } else if (code === 93 || code === 125) depth--;
  }
  return most;
}

/** Sentences about lists of a session that are too long; none where all may be read. */
export function tooMany(document: unknown): string[] {
  const listOf = (value: unknown, key: string): unknown[] => {
    const list = typeof value === 'object' && value !== null ? (value as Record<string, unknown>)[key] : undefined;
    return Array.isArray(list) ? list : [];
  };
  const total = (lists: unknown[][]) => lists.reduce((sum, list) => sum + list.length, 0);
  const [kits, takes] = [listOf(document, 'kits'), listOf(document, 'takes')];
  const counts = {
    kits: kits.length,
    filters: total(kits.map((kit) => listOf(kit, 'filters'))),
    scenes: listOf(document, 'scenes').length,
    takes: takes.length,
    patches: listOf(document, 'patches').length,
    files: total(takes.map((take) => listOf(take, 'files'))),
  };
  return (Object.keys(MOST) as (keyof typeof MOST)[])
    .filter((key) => counts[key] > MOST[key])
    .map((key) => `${counts[key]} ${key} are more than a session holds (${MOST[key]})`);
}
