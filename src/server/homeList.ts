/** Sessions as the first page shows them. Each is put together once and remembered until it, or its readings, change. */
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import type { DemoProgress } from '@/stages/home/DemoComing';
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
import { bandsInForce } from './judged';
import {
  countSessions,
  latestReadingIds,
  latestReadingsOf,
  listSessions,
  loadSession,
  readConfig,
  readSetting,
  type SessionSummary,
} from '@/store';

/** Sessions that are shown at once; a longer list says how many more there are. */
const SHOWN = 100;
const MOST_SHOWN = 2000;
const MOST_REMEMBERED = 2000;

const remembered = new Map<string, { key: string; entry: HomeSession }>();

/** @param most how many of the newest are wanted */
export async function homeList(most = SHOWN): Promise<{ sessions: HomeSession[]; more: number }> {
  const limit = Math.min(MOST_SHOWN, Math.max(SHOWN, Math.floor(most) || SHOWN));
  const [shown, count] = await Promise.all([listSessions(limit), countSessions()]);
  const readingIds = await latestReadingIds(shown.map((one) => one.id));
  const bands = await bandsInForce();
  const under = JSON.stringify(boundsOf(bands));
  const keyOf = ({ id, updatedAt }: SessionSummary) =>
    `${updatedAt.getTime()} ${readingIds.get(id) ?? 'none'} ${under}`;
  const changed = shown.filter((one) => remembered.get(one.id)?.key !== keyOf(one));
  const readings = await latestReadingsOf(changed.map((one) => one.id));
  await Promise.all(
    changed.map(async (summary) => {
      const entry = await entryOf(summary, readings.get(summary.id) ?? null, bands);
      remembered.delete(summary.id);
      remembered.set(summary.id, { key: keyOf(summary), entry });
    }),
  );
  const sessions = shown.map((one) => remembered.get(one.id)!.entry);
  for (const id of remembered.keys()) {
    if (remembered.size <= MOST_REMEMBERED) break;
    remembered.delete(id);
  }
  return { sessions, more: count - shown.length };
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
