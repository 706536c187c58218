/** Sessions as lists show them. Each is put together once, and kept as a card until it, its readings, the limits or the program change. */
import { log } from '@/log/log';
import { createHash } from 'node:crypto';
import pLimit from 'p-limit';
import type { HomeSession } from '@/stages/home/listed';
import { beadsOf } from '@/ui/beads';
import { pictureUrl } from '@/ui/pictures';
import { boundsOf, type Bands } from '@/core/judging/rating/bands';
import { rejudge } from '@/core/judging/rating/rejudge';
import { checkedProfileOf } from '@/core/sitting/planning/cameraCheck';
import { progressOf } from '@/core/sitting/planning/progress';
import { promiseInWords } from '@/core/words/cameraCheck';
import { writeHeadline } from '@/core/words/headline';
import type { Readings } from '@/core/session/readings';
import type { Session } from '@/core/session/schema';
import {
  cardNames,
  latestReadingIds,
  latestReadings,
  listSessions,
  loadSession,
  nullIfGone,
  outdatedCards,
  readCards,
  stateOfLibrary,
  writeCard,
  type SessionSummary,
} from '@/store';

/** Cards made beside each other: each reads a session whole. */
const AT_ONCE = 4;
/** So many are made while somebody waits for an answer. */
const WAITED_FOR = 60;

/** Sessions as lists show them, in the order given: from their cards, which are made where they are missing or of an earlier state. */
export async function entriesOf(listed: readonly SessionSummary[], bands: Bands): Promise<HomeSession[]> {
  const ids = listed.map(({ id }) => id);
  const [cards, readingIds] = await Promise.all([readCards(ids), latestReadingIds(ids)]);
  const madeBy = madeUnder(bands);
  const room = pLimit(AT_ONCE);
  const entries = listed.map((summary) =>
    room(async (): Promise<HomeSession | null> => {
      const card = cards.get(summary.id);
      const readingId = readingIds.get(summary.id) ?? 0;
      const holds = card?.sessionAt === summary.updatedAt.getTime() && card.readingId === readingId;
      if (card && holds && card.madeBy === madeBy) return card.entry as HomeSession;
      // One that was put away since the list was made.
      return makeCard(summary, readingId, bands).catch(nullIfGone);
    }),
  );
  return (await Promise.all(entries)).filter((one) => one !== null);
}

/** What a card depends on beside its session and readings: the rating limits, and the build whose words and addresses it holds. */
const madeUnder = (bands: Bands): string =>
  createHash('sha256')
    .update(JSON.stringify([process.env.GLADE_BUILT, boundsOf(bands)]))
    .digest('hex')
    .slice(0, 16);

async function makeCard(summary: SessionSummary, readingId: number, bands: Bands): Promise<HomeSession> {
  const measured = readingId === 0 ? null : ((await latestReadings(summary.id))?.readings ?? null);
  const entry = await entryOf(summary, measured, bands);
  const { id, updatedAt } = summary;
  const card = { sessionId: id, sessionAt: updatedAt.getTime(), readingId, madeBy: madeUnder(bands), entry };
  const { title, finding, place, day, camera, kits } = entry;
  const texts = [finding, place, day, camera, ...kits];
  const terms = { title, begunAt: summary.createdAt, texts, day, camera, kits };
  // A list is shown on a full disk, and while the database can only be read, too.
  await writeCard(card, terms).catch((error: unknown) => log.error(error, `The card of ${id} was not kept.`));
  return entry;
}

export interface CardsState {
  /** Kits and cameras of all sessions that have a card. */
  names: { kits: string[]; cameras: string[] };
  /** Whether some sessions have no card of their present state yet: what looks for sessions by cards may miss them. */
  isBehind: boolean;
}

let following: Promise<void> | null = null;
/** State of the library at which every session had its card, when that was, and the names there were then. */
let caughtUp: { state: string; at: number; names: CardsState['names'] } | null = null;
/** It is looked at anew after so long: the state goes by the clock, which may have been set back. */
const LOOKED_AT_MS = 60_000;

/**
 * Makes cards that are missing or of an earlier state, newest first, before sessions are looked for by them.
 *
 * @param most so many are waited for; the rest follows after the answer
 */
export async function catchUp(bands: Bands, most = WAITED_FOR): Promise<CardsState> {
  const state = await stateOfLibrary();
  if (caughtUp?.state === state && Date.now() - caughtUp.at < LOOKED_AT_MS)
    return { names: caughtUp.names, isBehind: false };
  const outdated = await outdatedCards(most + 1);
  await entriesOf(await listSessions(most, outdated.slice(0, most)), bands);
  const isBehind = outdated.length > most;
  // What can't be made now is tried again with the next list.
  if (isBehind)
    following ??= follow(bands)
      .catch((error: unknown) => log.error(error, 'Cards were not made.'))
      .finally(() => (following = null));
  const names = await cardNames();
  if (!isBehind) caughtUp = { state, at: Date.now(), names };
  return { names, isBehind };
}

async function follow(bands: Bands): Promise<void> {
  let before = '';
  for (;;) {
    const outdated = await outdatedCards(WAITED_FOR);
    // What can't be kept would be tried for ever.
    if (outdated.length === 0 || outdated.join() === before) return;
    before = outdated.join();
    await entriesOf(await listSessions(outdated.length, outdated), bands);
  }
}

async function entryOf(summary: SessionSummary, measured: Readings | null, bands: Bands): Promise<HomeSession> {
  const { session, files } = await loadSession(summary.id);
  const found = measured && rejudge(measured, session, bands);
  const names = new Map(
    session.kits.flatMap((kit) => kit.filters.map((filter) => [filter.id, filter.name ?? filter.id])),
  );
  return {
    id: summary.id,
    title: summary.title,
    takes: summary.takes,
    plan: progressOf(session),
    filters: summary.filters,
    createdAt: summary.createdAt.toISOString(),
    day: session.date ?? session.takes.find((take) => take.capturedAt)?.capturedAt?.slice(0, 10) ?? summary.createdAt.toISOString().slice(0, 10), // prettier-ignore
    place: session.place ?? null,
    kits: session.kits.map((kit) => kit.name ?? kit.id),
    camera: session.rig.camera ?? null,
    ...pictureOf(session, files),
    beads: beadsOf(session, found),
    measured: found !== null,
    check: checkedProfileOf(session),
    finding: measured?.check
      ? promiseInWords(measured.check)
      : found
        ? writeHeadline(found, (id) => names.get(id) ?? id).title
        : null,
    placed: session.patches.length > 0 || session.scenes.some((scene) => scene.kind === 'outdoor'),
  };
}

/** A small picture to know a session by: its first bare one. */
function pictureOf({ takes, rig }: Session, files: ReadonlyMap<string, string>): { picture?: string } {
  const bare = takes.find((take) => take.filter === null) ?? takes.at(0);
  const picture = pictureUrl(files.get(bare?.files[0] ?? ''), 320, rig.response);
  return picture === undefined ? {} : { picture };
}
