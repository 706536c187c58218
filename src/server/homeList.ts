/** Sessions as the first page shows them. Each is put together once and remembered until it, or its readings, change. */
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import type { DemoProgress } from '@/stages/home/DemoComing';
import type { HomeSession } from '@/stages/home/Home';
import { beadsOf } from '@/ui/beads';
import { boundsOf, type Bands } from '@/core/judging/rating/bands';
import { rejudge } from '@/core/judging/rating/rejudge';
import { checkedProfileOf } from '@/core/sitting/planning/cameraCheck';
import { promiseInWords } from '@/core/words/cameraCheck';
import { writeHeadline } from '@/core/words/headline';
import type { Readings } from '@/core/session/readings';
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

/** Sessions whose ladder is drawn; a longer list says how many more there are. */
const SHOWN = 30;
const MOST_REMEMBERED = 200;

const remembered = new Map<string, { key: string; entry: HomeSession }>();

export async function homeList(): Promise<{ sessions: HomeSession[]; more: number }> {
  const [shown, count] = await Promise.all([listSessions(SHOWN), countSessions()]);
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
  const { session } = await loadSession(summary.id);
  const found = measured && rejudge(measured, session, bands);
  const names = new Map(
    session.kits.flatMap((kit) => kit.filters.map((filter) => [filter.id, filter.name ?? filter.id])),
  );
  return {
    id: summary.id,
    title: summary.title,
    takes: summary.takes,
    filters: summary.filters,
    createdAt: summary.createdAt.toISOString(),
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
