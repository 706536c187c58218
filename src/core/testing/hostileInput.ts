/** What is done with hostile input, as the application does it: each gets a sentence or a good reading, and ends nothing. */
import { parseCube1d } from '../light/curveCube';
import { parseCurveCsv } from '../light/curveCsv';
import { measureSession } from '../measure';
import { UnreadablePicture } from '../reading/facts';
import { parseSession, parseSessionText, SessionError } from '../session/parse';
import { parseSubRip } from '../session/subrip';
import type { Session } from '../session/schema';
import { filterInName, kitInNames } from '../sitting/intake/filterWords';
import { readName } from '../sitting/intake/names';
import { keptKitSchema } from '../sitting/kits/keptKit';
import { keptRigSchema } from '../sitting/kits/keptRig';
import { kitsOfRows } from '../sitting/kits/kitsTable';
import { parseKitShorthand } from '../sitting/kits/shorthand';
import { missingFor } from '../sitting/checks/measurable';
import { logOf } from '../sitting/planning/shootLog';
import { plannedOf } from '../sitting/planning/planned';

/** A source whose every picture is missing. */
const missing = (file: string) => Promise.reject(new UnreadablePicture(file, 'the file is missing.'));
const NOTHING_THERE = { open: missing, readText: missing };

/** Words of an answer that only a developer should see. */
const LEAKS = /node_modules|\bat \w+ \(|\/src\/|TypeError|undefined is not|Cannot read/;

/** A session's document: refused in sentences, or read, looked at from all sides, and measured without its pictures. */
export async function tryDocument(document: unknown): Promise<'refused' | 'read'> {
  let session: Session;
  try {
    session = parseSession(document);
  } catch (error) {
    if (!(error instanceof SessionError)) throw error;
    for (const problem of error.problems) if (LEAKS.test(problem)) throw new Error(`tells too much: ${problem}`);
    return 'refused';
  }
  missingFor(session);
  logOf(session);
  plannedOf(session);
  await measureSession(session, NOTHING_THERE, { createdAt: '', generator: '' });
  return 'read';
}

/** Errors of readers of texts are sentences of their own, never the language's. */
function inSentences<T>(read: () => T): T | null {
  try {
    return read();
  } catch (error) {
    const isOurs = error instanceof Error && !(error instanceof TypeError) && !(error instanceof ReferenceError);
    if (!isOurs || error instanceof RangeError || LEAKS.test(error.message)) throw error;
    return null;
  }
}

/** A text in the place of every kind of text that is read. */
export function tryText(text: string): void {
  inSentences(() => parseSessionText(text));
  inSentences(() => parseCube1d(text));
  inSentences(() => parseCurveCsv(text));
  inSentences(() => parseSubRip(text));
  parseKitShorthand(text.slice(0, 2000));
  kitsOfRows(text.split('\n').map((line) => line.split(',')));
  for (const line of text.split('\n').slice(0, 40)) {
    filterInName(line);
    readName(line, []);
  }
  kitInNames(text.split('\n').slice(0, 40));
}

/** A document in the place of a kit or a rig: Zod's answer is a sentence for people or the thing itself. */
export function tryShelf(document: unknown): void {
  for (const schema of [keptKitSchema, keptRigSchema]) {
    const answer = schema.safeParse(document);
    if (!answer.success && answer.error.issues.some(({ message }) => LEAKS.test(message)))
      throw new Error(`tells too much: ${answer.error.message}`);
  }
}
