/** What a session is called, where and with what it was shot, and how it came to be as it is. */
import { notFound } from 'next/navigation';
import { withKits } from '@/core/session/parse';
import { describeChanges } from '@/core/words/edits';
import { choicesOf, type RigChoice } from '@/core/sitting/kits/rigChoice';
import { allRigs, listRevisions, loadSession, NoSuchSession, type RevisionSummary } from '@/store';

type Json = Record<string, unknown>;

/** The fields of a session's document that its details show, unknown keys and all. */
export interface SessionFields extends Json {
  title?: unknown;
  place?: unknown;
  date?: unknown;
  notes?: unknown;
  rig?: Json;
  kits?: Json[];
  scenes?: Json[];
}

/** A state of the session that can be brought back. */
export interface HistoryEntry {
  number: number;
  at: string;
  words: string;
}

export interface DetailsView {
  id: string;
  title: string;
  fields: SessionFields;
  /** Takes on each filter: such a one can't be taken out. */
  takesOn: Record<string, number>;
  rigs: RigChoice[];
  history: HistoryEntry[];
}

/** States that history shows. */
const SHOWN = 50;
/** Changes of one thing that follow each other within this time are one entry: a patch that is dragged is saved many times. */
const TOGETHER_MS = 120_000;

export async function detailsView(id: string): Promise<DetailsView> {
  try {
    const [{ document, session }, revisions, rigs] = await Promise.all([loadSession(id), listRevisions(id), allRigs()]);
    const { title, place, date, notes, rig, kits, scenes } = withKits(document);
    const takesOn: Record<string, number> = {};
    for (const { filter } of session.takes) if (filter !== null) takesOn[filter] = (takesOn[filter] ?? 0) + 1;
    const fields = { title, place, date, notes, rig, kits, scenes };
    return {
      id,
      title: session.title,
      fields: Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)),
      takesOn,
      rigs: rigs.flatMap(({ id: rig, item }) => choicesOf(rig, item)),
      history: historyOf(revisions),
    };
  } catch (error) {
    if (error instanceof NoSuchSession) notFound();
    throw error;
  }
}

/** Revisions in words, last first; those of one change that came in several steps are one. */
export function historyOf(revisions: readonly RevisionSummary[]): HistoryEntry[] {
  const entries: (HistoryEntry & { last: number })[] = [];
  for (const { number, at, author, changes } of revisions) {
    const by = author === null ? '' : ` (${author})`;
    const words = changes.length === 0 ? 'as it was made' : describeChanges(changes) + by;
    const newer = entries.at(-1);
    if (newer && newer.words === words && newer.last - at.getTime() < TOGETHER_MS) newer.last = at.getTime();
    else entries.push({ number, at: at.toISOString(), words, last: at.getTime() });
  }
  return entries.slice(0, SHOWN).map(({ number, at, words }) => ({ number, at, words }));
}
