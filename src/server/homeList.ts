/** The first page: its sessions, how far the demo is, when all was last copied. */
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import type { DemoProgress } from '@/stages/home/DemoComing';
import { EVERYTHING, isSame, type HomeSession, type Wanted } from '@/stages/home/listed';
import { countSessions, findSessions, listSessions, readConfig, readSetting } from '@/store';
import { bandsInForce } from './judged';
import { catchUp, entriesOf, type CardsState } from './sessionCards';

/** Sessions that are shown at once; a longer list says how many more there are. */
const SHOWN = 100;
const MOST_SHOWN = 2000;

export interface HomeList extends CardsState {
  sessions: HomeSession[];
  /** How many more are like that. */
  more: number;
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
  if (isSame(wanted, EVERYTHING)) {
    const [listed, count] = await Promise.all([listSessions(limit), countSessions()]);
    const sessions = await entriesOf(listed, bands);
    return { sessions, more: count - listed.length, ...(await catchUp(bands, 0)) };
  }
  const behind = await catchUp(bands);
  const { text, kit, camera, sort } = wanted;
  const query = { text, kit, camera, sort: sort === 'day of the sitting' ? 'day' : sort } as const;
  const { ids, count } = await findSessions(query, limit);
  const entries = new Map((await entriesOf(await listSessions(limit, ids), bands)).map((one) => [one.id, one]));
  // One that was put away since is not there any more.
  const sessions = ids.flatMap((id) => entries.get(id) ?? []);
  return { sessions, more: Math.max(0, count - sessions.length), ...behind };
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
