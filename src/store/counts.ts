/** What the library holds and how its queue stands, in numbers: for whoever looks after the program. */
import { QueryTypes } from 'sequelize';
import { store } from './database';

export interface LibraryCounts {
  sessions: number;
  /** Of all media. */
  files: number;
  bytes: number;
  /** Files that wait to be laid on takes. */
  arrived: number;
  /** Measurements by state. */
  jobs: Record<'queued' | 'running' | 'done' | 'failed' | 'cancelled', number>;
  /** How long the oldest measurement waits that waits, seconds; 0 where none does. */
  oldestQueuedSeconds: number;
  /** How long measurements took that ended well within the last hour, seconds each; `null` where none did. */
  meanMeasureSeconds: number | null;
  /** How long the database took for the shortest question, seconds. */
  databaseSeconds: number;
}

export async function libraryCounts(): Promise<LibraryCounts> {
  const one = async <T extends object>(sql: string): Promise<T[]> =>
    store().sequelize.query<T>(sql, { type: QueryTypes.SELECT });
  const start = performance.now();
  await one('SELECT 1 AS one');
  const databaseSeconds = (performance.now() - start) / 1000;
  const [[counts], states, [times]] = await Promise.all([
    one<{ sessions: number; files: number; bytes: string | number; arrived: number }>(
      `SELECT (SELECT COUNT(*) FROM sessions WHERE deleted_at IS NULL) AS sessions, (SELECT COUNT(*) FROM files) AS files,
        (SELECT COALESCE(SUM(bytes), 0) FROM files) AS bytes, (SELECT COUNT(*) FROM inbox) AS arrived`,
    ),
    one<{ state: keyof LibraryCounts['jobs']; count: number }>(
      'SELECT state, COUNT(*) AS count FROM jobs GROUP BY state',
    ),
    // Times are those of the database: the clocks of several machines never agree.
    one<{ oldest: number | string | null; mean: number | string | null }>(
      `SELECT (SELECT TIMESTAMPDIFF(MICROSECOND, MIN(created_at), UTC_TIMESTAMP(3)) / 1e6 FROM jobs WHERE state = 'queued') AS oldest,
        (SELECT AVG(TIMESTAMPDIFF(MICROSECOND, created_at, updated_at)) / 1e6 FROM jobs
          WHERE state = 'done' AND updated_at > UTC_TIMESTAMP(3) - INTERVAL 1 HOUR) AS mean`,
    ),
  ]);
  const jobs = { queued: 0, running: 0, done: 0, failed: 0, cancelled: 0 };
  for (const { state, count } of states) jobs[state] = Number(count);
  return {
    sessions: Number(counts.sessions),
    files: Number(counts.files),
    bytes: Number(counts.bytes),
    arrived: Number(counts.arrived),
    jobs,
    oldestQueuedSeconds: Math.max(0, Number(times.oldest ?? 0)),
    meanMeasureSeconds: times.mean === null ? null : Number(times.mean),
    databaseSeconds,
  };
}
