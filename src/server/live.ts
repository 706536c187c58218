/**
 * A sitting that is looked at while it goes on. Files that arrive are laid on their takes, places to measure are proposed on the first bare
 * picture of each scene, all is measured again, and takes that are spoiled beyond doubt come up on the run sheet again. Each look does what there
 * is to do; between two looks nothing is lost, since files wait among those that have arrived.
 */
import type { Alarm, AlarmKind } from '@/core/sitting/live/alarm';
import type { LightPoint } from '@/core/sitting/live/bareLight';
import { everLeftOut, leaveOut, leftOutOf, type LeftOut } from '@/core/sitting/live/leftOut';
import { liveView, type LiveView } from '@/core/sitting/live/live';
import type { Proposals } from '@/core/sitting/regions/propose';
import { plannedOf } from '@/core/sitting/planning/planned';
import { takesWithFootage } from '@/core/sitting/planning/progress';
import type { LogEntry } from '@/core/sitting/planning/shootLog';
import type { Session } from '@/core/session/schema';
import { sessionNews } from '@/jobs/news';
import { latestJob, requestMeasure, type JobView } from '@/jobs/queue';
import {
  editSession,
  inputHash,
  latestReadings,
  listInbox,
  loadSession,
  writeSetting,
  type LoadedSession,
} from '@/store';
import { seenSoFar } from './footage';
import { RequestError } from './http';
import { BURST_MS, layArrived, type Unlaid } from './liveLaying';
import { liveSitting } from './liveSetting';
import { proposeRegions } from './looking';

type Json = Record<string, unknown>;

export interface LiveState {
  /** Whether this session is the one that files are laid on. */
  on: boolean;
  /** Another one that is. */
  other: string | null;
  wanted: number;
  view: LiveView;
  light: LightPoint[];
  measuring: Pick<JobView, 'state' | 'progress' | 'error'> | null;
  /** Whether the figures are of all that has arrived. */
  isCurrent: boolean;
  /** Takes whose pictures are there. */
  laid: string[];
  leftOut: LeftOut[];
  /** Files that could not be laid, with the reason. */
  unlaid: Unlaid[];
  /** Why places to measure are missing, by scene. */
  placeless: { scene: string; why: string }[];
}

const USUAL_WANTED = 0.02;

/** Begins a live sitting, in place of another one, or changes what ± is asked for. */
export async function startLive(session: string, wanted: number): Promise<void> {
  await loadSession(session);
  const now = await liveSitting();
  const after = now?.session === session ? now.after : Math.max(0, ...(await listInbox()).map(({ id }) => id));
  const since = now?.session === session ? now.since : new Date().toISOString();
  await writeSetting('live', { session, wanted, after, since });
}

/** Ends it, and measures all of it properly. */
export async function endLive(session: string): Promise<void> {
  const now = await liveSitting();
  if (now?.session !== session) return;
  await look(session);
  await placings.get(session)?.done.catch(() => undefined);
  await writeSetting('live', null);
  if ((await loadSession(session)).session.takes.length > 0) await requestMeasure(session);
}

/** One look at a time: two pages that ask at once get the same answer. */
const looking = new Map<string, Promise<LiveState>>();

/** Does what there is to do, and tells how the sitting stands. Throws NoSuchSession. */
export async function look(id: string): Promise<LiveState> {
  const running = looking.get(id);
  if (running) return running;
  const own = lookOnce(id).finally(() => looking.delete(id));
  looking.set(id, own);
  return own;
}

/** Between two looks for news, and how long one waits for some: what only time changes is seen then. */
const NEWS_MS = 40;
const QUIET_MS = 1500;

/**
 * A look as soon as there is something new, or after a moment without: nobody has to ask again and again.
 *
 * @param seen news of the look before; `null` looks at once
 * @param signal of whoever asked, who may be gone
 */
export async function lookWhenNew(
  id: string,
  seen: string | null,
  signal: AbortSignal,
): Promise<LiveState & { news: string }> {
  const until = Date.now() + QUIET_MS;
  let news = await sessionNews(id);
  while (news === seen && Date.now() < until && !signal.aborted) {
    await new Promise((resolve) => setTimeout(resolve, NEWS_MS));
    news = await sessionNews(id);
  }
  // One that began before these news may not have seen them.
  await looking.get(id)?.catch(() => undefined);
  return { ...(await look(id)), news };
}

async function lookOnce(id: string): Promise<LiveState> {
  const live = await liveSitting();
  const on = live?.session === id;
  const unlaid = on ? await layArrived(id, live.after) : [];
  const loaded = await loadSession(id);
  const placeless = on ? placelessOf(loaded) : [];
  const hash = inputHash(loaded);
  const [stored, job, { checks, light, rough }] = await Promise.all([
    latestReadings(id),
    latestJob(id),
    seenOnce(loaded, hash),
  ]);
  const isCurrent = stored?.inputHash === hash;
  const isBusy = job !== null && ['queued', 'running'].includes(job.state);
  const failedOnThis = job?.state === 'failed' && job.updatedAt >= loaded.updatedAt;
  if (on && !isCurrent && !isBusy && !failedOnThis && canBeMeasured(loaded.session)) await requestMeasure(id);
  const wanted = on ? live.wanted : USUAL_WANTED;
  const view = liveView(loaded.session, stored?.readings ?? null, checks, wanted, rough);
  if (on && (await leaveOutSpoiled(loaded, view.alarms))) return lookOnce(id);
  return {
    on,
    other: live && !on && (await isThere(live.session)) ? live.session : null,
    wanted,
    view,
    light,
    measuring: job && { state: job.state, progress: job.progress, error: job.error },
    isCurrent,
    laid: [...takesWithFootage(loaded.session)],
    leftOut: leftOutOf(loaded.session),
    unlaid,
    placeless,
  };
}

/** Whether a session is neither gone nor put away. */
const isThere = (id: string) =>
  loadSession(id).then(
    () => true,
    () => false,
  );

/** What was seen of each session last: it is looked at several times a second, and changes with a file. */
const seen = new Map<string, { hash: string; found: ReturnType<typeof seenSoFar> }>();
const MOST_SEEN = 20;

function seenOnce(loaded: LoadedSession, hash: string): ReturnType<typeof seenSoFar> {
  const before = seen.get(loaded.id);
  if (before?.hash === hash) return before.found;
  const found = seenSoFar(loaded);
  seen.set(loaded.id, { hash, found });
  found.catch(() => seen.delete(loaded.id));
  if (seen.size > MOST_SEEN) seen.delete([...seen.keys()][0]);
  return found;
}

const canBeMeasured = ({ takes, patches }: Session) => takes.some((take) => take.filter === null) && patches.length > 0;

/** Places that are being looked for in a session, or were looked for last. */
interface Placing {
  /** Scenes and their bare pictures, in which they are. */
  among: string;
  running: boolean;
  done: Promise<void>;
  placeless: LiveState['placeless'];
}
const placings = new Map<string, Placing>();

/**
 * Why places to measure are missing. Where a scene has none yet and a bare picture, they are looked for meanwhile: that takes seconds, and what
 * comes next is told at once. In the same pictures they are looked for once.
 */
function placelessOf({ id, session }: LoadedSession): LiveState['placeless'] {
  const among = session.scenes.flatMap(({ id: scene }) => {
    const bare = session.takes.filter((take) => take.scene === scene && take.filter === null);
    const open = bare.length > 0 && !session.patches.some((patch) => patch.scene === scene);
    return open ? [{ scene, files: bare.flatMap(({ files }) => files) }] : [];
  });
  if (among.length === 0) return [];
  const before = placings.get(id);
  const key = JSON.stringify(among);
  if (before && (before.running || before.among === key)) return before.placeless;
  const own: Placing = { among: key, running: true, done: Promise.resolve(), placeless: [] };
  own.done = placePatches(id, among)
    .then((placeless) => void (own.placeless = placeless))
    .finally(() => (own.running = false));
  // Tried again with the next look, which then tells what is wrong by itself.
  own.done.catch(() => placings.delete(id));
  placings.set(id, own);
  if (placings.size > MOST_SEEN) placings.delete([...placings.keys()][0]);
  return [];
}

/** Proposes places to measure on scenes; gives those that have none, with the reason. */
async function placePatches(id: string, scenes: readonly { scene: string }[]): Promise<LiveState['placeless']> {
  const placeless: LiveState['placeless'] = [];
  for (const { scene } of scenes) {
    try {
      const { patches, missing } = await proposeRegions(id, scene);
      if (patches.length === 0) placeless.push({ scene, why: missing.join(' ') });
      else await addPatches(id, scene, patches);
    } catch (error) {
      if (!(error instanceof RequestError)) throw error;
      placeless.push({ scene, why: error.message });
    }
  }
  return placeless;
}

async function addPatches(id: string, scene: string, proposed: Proposals['patches']): Promise<void> {
  await editSession(id, (document) => {
    const patches = Array.isArray(document.patches) ? (document.patches as Json[]) : [];
    // Another page may have placed some meanwhile.
    if (patches.some((patch) => patch.scene === scene)) return document;
    const taken = new Set(patches.map((patch) => patch.id));
    const fresh = proposed.map(({ id: wanted, role, rect }) => ({
      id: taken.has(wanted) ? `${scene}-${String(wanted)}` : wanted,
      ...{ scene, role, rect },
    }));
    return { ...document, patches: [...patches, ...fresh] };
  });
}

/** Alarms beyond doubt, after which a take is of no use. Others are told, and a person decides: a filter may really be so far off its label. */
const BEYOND_DOUBT: ReadonlySet<AlarmKind> = new Set(['unreadable', 'clipped', 'dark', 'moved', 'soft', 'wrong angle']);

/**
 * Leaves planned takes out that are spoiled beyond doubt, and opens them on the run sheet again; a take only once, so that nobody shoots for ever
 * what an alarm is wrong about.
 *
 * @returns whether something was left out
 */
async function leaveOutSpoiled({ id, session, updatedAt }: LoadedSession, alarms: readonly Alarm[]): Promise<boolean> {
  const before = new Set(everLeftOut(session).map(({ take }) => take));
  const planned = new Map(plannedOf(session).map((take) => [take.id, take]));
  const isQuiet = Date.now() - updatedAt.getTime() > BURST_MS;
  // Pictures of one take come one after the other: the rest of a spoiled one must not be taken for its repetition.
  const isWhole = (take: Session['takes'][number]) =>
    isQuiet || take !== session.takes.at(-1) || take.files.length >= (planned.get(take.id)?.repeats ?? 0);
  for (const { kind, takes, message, advice, again } of alarms) {
    if (!again || !BEYOND_DOUBT.has(kind)) continue;
    const take = session.takes.findLast(({ id: own }) => takes.includes(own) && planned.has(own) && !before.has(own));
    if (!take || !isWhole(take)) continue;
    await shootAgain(id, take.id, message, { kind, advice });
    return true;
  }
  return false;
}

/**
 * Leaves a take's files out and opens it on the run sheet again. Throws NoSuchSession.
 *
 * @param told the alarm that did it, where it wasn't a person
 */
export async function shootAgain(
  id: string,
  take: string,
  message: string,
  told: Pick<LeftOut, 'kind' | 'advice'> = {},
): Promise<void> {
  const at = new Date().toISOString();
  const redo: LogEntry = {
    // The time first: it is what tells two of one take apart, whatever is cut off.
    id: `live-${at}-${take}`.slice(0, 64),
    kind: 'redo',
    take,
    at,
    text: [message, told.advice].filter(Boolean).join(' ').slice(0, 2000),
  };
  await editSession(id, (document) => {
    const without = leaveOut(document, { take, message, at, by: redo.id, ...told });
    if (without === document) return document;
    const plan = without.plan as Json;
    const log = Array.isArray(plan.log) ? (plan.log as unknown[]) : [];
    return { ...without, plan: { ...plan, log: [...log, redo] } };
  });
}
