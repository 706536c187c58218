/** Sessions as the first page shows them. Each is put together once, and kept as a card until it, or its readings, change. */
import { createHash } from 'node:crypto';
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import pLimit from 'p-limit';
import { z } from 'zod';
import type { DemoProgress } from '@/stages/home/DemoComing';
import { EVERYTHING, type HomeSession, type Wanted } from '@/stages/home/listed';
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
import { bandsInForce } from './judged';
import {
  cardNames,
  countSessions,
  findSessions,
  latestReadingIds,
  latestReadings,
  listSessions,
  loadSession,
  NoSuchSession,
  outdatedCards,
  readCards,
  readConfig,
  readSetting,
  stateOfLibrary,
  writeCard,
  type SessionSummary,
} from '@/store';

/** Sessions that are shown at once; a longer list says how many more there are. */
const SHOWN = 100;
const MOST_SHOWN = 2000;
/** Raised when cards say more or say it otherwise. */
const CARD_VERSION = 1;
/** Cards made beside each other: each reads a session whole. */
const AT_ONCE = 4;
/** So many are made while somebody waits for a search; the rest follows by itself. */
const MADE_AT_ONCE = 60;

export interface HomeList {
  sessions: HomeSession[];
  /** How many more are like that. */
  more: number;
  /** Names to choose from, of all sessions. */
  names: { kits: string[]; cameras: string[] };
  /** Whether some sessions have no card of their present state yet: a search may miss them. */
  isBehind: boolean;
}

/**
 * Sessions as the first page lists them.
 *
 * @param wanted what is searched; all when left out
 * @param most how many are wanted
 */
export async function homeList(most = SHOWN, wanted: Wanted = EVERYTHING): Promise<HomeList> {
  const limit = Math.min(MOST_SHOWN, Math.max(SHOWN, Math.floor(most) || SHOWN));
  const bands = await bandsInForce();
  const isAll = JSON.stringify(wanted) === JSON.stringify(EVERYTHING);
  const { names, isBehind } = await catchUp(bands, isAll ? 0 : MADE_AT_ONCE);
  if (isAll) {
    const [listed, count] = await Promise.all([listSessions(limit), countSessions()]);
    const sessions = await entriesOf(listed, bands);
    return { sessions, more: count - listed.length, names, isBehind };
  }
  const { text, kit, camera, sort } = wanted;
  const query = { text, kit, camera, sort: sort === 'day of the sitting' ? 'day' : sort } as const;
  const { ids, count } = await findSessions(query, limit);
  const entries = new Map((await entriesOf(await listSessions(limit, ids), bands)).map((one) => [one.id, one]));
  // One that was put away since is not there any more.
  const sessions = ids.flatMap((id) => entries.get(id) ?? []);
  return { sessions, more: Math.max(0, count - sessions.length), names, isBehind };
}

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
      return makeCard(summary, readingId, bands).catch((error: unknown) => {
        // One that was put away since the list was made.
        if (error instanceof NoSuchSession) return null;
        throw error;
      });
    }),
  );
  return (await Promise.all(entries)).filter((one) => one !== null);
}

/** What a card depends on beside its session and readings: the rating limits, and how cards are made. */
const madeUnder = (bands: Bands): string =>
  createHash('sha256')
    .update(JSON.stringify([CARD_VERSION, boundsOf(bands)]))
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
  await writeCard(card, terms).catch((error: unknown) => {
    console.error(`The card of ${id} was not kept: ${error instanceof Error ? error.message : String(error)}`);
  });
  return entry;
}

let following: Promise<void> | null = null;
/** State of the library at which every session had its card, and the names there were then. */
let caughtUp: { state: string; names: HomeList['names'] } | null = null;

/**
 * Makes cards that are missing or of an earlier state, newest first: at most so many at once, the rest after the answer.
 *
 * @returns the names in all cards, and whether some cards are still to be made
 */
async function catchUp(bands: Bands, most: number): Promise<Pick<HomeList, 'names' | 'isBehind'>> {
  const state = await stateOfLibrary();
  if (caughtUp?.state === state) return { names: caughtUp.names, isBehind: false };
  const outdated = await outdatedCards(most + 1);
  if (most > 0) await entriesOf(await listSessions(most, outdated.slice(0, most)), bands);
  const isBehind = outdated.length > most;
  // What can't be made now is tried again with the next list.
  if (isBehind)
    following ??= follow(bands)
      .catch((error: unknown) =>
        console.error(`Cards were not made: ${error instanceof Error ? error.message : String(error)}`),
      )
      .finally(() => (following = null));
  const names = await cardNames();
  if (!isBehind) caughtUp = { state, names };
  return { names, isBehind };
}

async function follow(bands: Bands): Promise<void> {
  let before = '';
  for (;;) {
    const outdated = await outdatedCards(MADE_AT_ONCE);
    // What can't be kept would be tried for ever.
    if (outdated.length === 0 || outdated.join() === before) return;
    before = outdated.join();
    await entriesOf(await listSessions(outdated.length, outdated), bands);
  }
}

/** A demo that was not heard of for so long isn't being made any more. */
const QUIET_MS = 180_000;
const demoSchema = z.object({ made: z.number(), of: z.number(), at: z.iso.datetime() });

/** How far the demo is while it is being made; `null` otherwise. */
export async function demoProgress(): Promise<DemoProgress | null> {
  const told = demoSchema.safeParse(await readSetting('demo'));
  if (!told.success || Date.now() - Date.parse(told.data.at) > QUIET_MS) return null;
  return { made: told.data.made, of: told.data.of };
}

/** When the newest backup was made, ISO 8601; `null` where there is none in its usual place. */
export async function lastBackup(): Promise<string | null> {
  const folder = join(readConfig().varFolder, 'backups');
  const names = (await readdir(folder).catch(() => [])).filter((name) => name.endsWith('.tar'));
  const times = await Promise.all(
    names.map((name) =>
      stat(join(folder, name)).then(
        ({ mtimeMs }) => mtimeMs,
        () => 0,
      ),
    ),
  );
  return times.length === 0 ? null : new Date(Math.max(...times)).toISOString();
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
