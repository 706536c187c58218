/**
 * The queue: a row in MariaDB a job, claimed with FOR UPDATE SKIP LOCKED. A worker that falls silent loses its job to
 * another; readings are written in the same transaction that ends the job, so there are never two of them.
 */
import { requestNow } from '@/log/log';
import { QueryTypes, type Transaction } from 'sequelize';
import { atomically, store } from '@/store/database';
import { readSetting } from '@/store/settings';
import type { JobModel, Json } from '@/store/models';
import type { Readings } from '@/core/session/readings';

/** A running job without a heartbeat for this long counts as abandoned. */
export const SILENT_MS = 12_000;
export const HEARTBEAT_MS = 2_000;
/** A job that took its worker with it this often is given up. */
const MAX_ATTEMPTS = 3;

export interface JobProgress {
  done: number;
  total: number;
  take: string | null;
}

export interface JobView {
  id: number;
  sessionId: string;
  state: JobModel['state'];
  progress: JobProgress;
  error: string | null;
  /** Number of the request that asked for it; `null` where no page did. */
  request: string | null;
  cancelRequested: boolean;
  createdAt: Date;
  updatedAt: Date;
}

const NO_PROGRESS: JobProgress = { done: 0, total: 0, take: null };

function view(row: JobModel): JobView {
  return {
    id: row.id,
    sessionId: row.sessionId,
    state: row.state,
    progress: { ...NO_PROGRESS, ...(row.progress as Partial<JobProgress>) },
    error: row.error,
    request: row.request,
    cancelRequested: Boolean(row.cancelRequested),
    createdAt: row.createdAt,
    updatedAt: row.updatedAt,
  };
}

/** Queues a measurement; one that waits or runs already is given back instead. */
export async function requestMeasure(sessionId: string): Promise<JobView> {
  const { models } = store();
  return atomically(async (transaction) => {
    await models.Session.findOne({ where: { id: sessionId }, lock: transaction.LOCK.UPDATE, transaction });
    const open = await models.Job.findOne({
      where: { sessionId, state: ['queued', 'running'], cancelRequested: false },
      transaction,
    });
    if (open) return view(open);
    const created = await models.Job.create(
      {
        sessionId,
        kind: 'measure',
        state: 'queued',
        attempts: 0,
        worker: null,
        heartbeatAt: null,
        cancelRequested: false,
        progress: NO_PROGRESS as unknown as Json,
        error: null,
        request: requestNow(),
      },
      { transaction },
    );
    return view(created);
  });
}

/** Asks for a job to stop. A waiting one stops at once. */
export async function requestCancel(jobId: number): Promise<void> {
  const { Job } = store().models;
  await Job.update({ state: 'cancelled', cancelRequested: true }, { where: { id: jobId, state: 'queued' } });
  await Job.update({ cancelRequested: true }, { where: { id: jobId, state: 'running' } });
}

/** The newest job of a session; `null` when none was ever asked for. */
export async function latestJob(sessionId: string): Promise<JobView | null> {
  const row = await store().models.Job.findOne({ where: { sessionId }, order: [['id', 'DESC']] });
  return row && view(row);
}

export interface WaitingJob {
  sessionId: string;
  title: string;
  state: 'queued' | 'running' | 'failed';
  progress: JobProgress;
}

/**
 * Measurements that wait or run, and those that failed last of their session, newest first; of sessions that are not put away.
 *
 * @param most how many of either
 */
export async function waitingJobs(most: number): Promise<WaitingJob[]> {
  const rows =
    await store().sequelize.query<{ id: number; session_id: string; title: string; state: WaitingJob['state']; progress: unknown }>( // prettier-ignore
      `(SELECT j.id, j.session_id, s.title, j.state, j.progress FROM jobs j JOIN sessions s ON s.id = j.session_id
        WHERE j.state IN ('queued', 'running') AND s.deleted_at IS NULL ORDER BY j.id DESC LIMIT :most)
      UNION ALL
      (SELECT j.id, j.session_id, s.title, j.state, j.progress FROM jobs j JOIN sessions s ON s.id = j.session_id
        WHERE j.state = 'failed' AND s.deleted_at IS NULL
          AND NOT EXISTS (SELECT 1 FROM jobs k WHERE k.session_id = j.session_id AND k.id > j.id) ORDER BY j.id DESC LIMIT :most)`,
      { replacements: { most }, type: QueryTypes.SELECT },
    );
  return rows.map(({ session_id, title, state, progress }) => {
    const told = (typeof progress === 'string' ? JSON.parse(progress) : progress) as Partial<JobProgress> | null;
    return { sessionId: session_id, title, state, progress: { ...NO_PROGRESS, ...told } };
  });
}

/** The session that is looked at while it is shot: somebody waits for it with the camera in hand. */
export async function firstSession(): Promise<string | null> {
  const live = (await readSetting('live')) as { session?: unknown } | null;
  return typeof live?.session === 'string' ? live.session : null;
}

/** The oldest job that waits or was abandoned, of one session or of any; the row is locked. */
async function oldestOpen(transaction: Transaction, session: string | null) {
  // Sequelize drops skipLocked, hence the plain statement.
  const [found] = await store().sequelize.query<{ id: number; attempts: number }>(
    `SELECT id, attempts FROM jobs
     WHERE (state = 'queued' OR (state = 'running' AND heartbeat_at < UTC_TIMESTAMP(3) - INTERVAL :silent MICROSECOND))
       ${session === null ? '' : 'AND session_id = :session'}
     ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED`,
    { replacements: { silent: SILENT_MS * 1000, session }, type: QueryTypes.SELECT, transaction },
  );
  return found ?? null;
}

/** Claims the oldest job that waits or was abandoned, one of a live sitting before all others; `null` when there is none. */
export async function claimJob(worker: string): Promise<JobView | null> {
  const { sequelize, models } = store();
  const first = await firstSession();
  return atomically(async (transaction) => {
    const found =
      (first === null ? null : await oldestOpen(transaction, first)) ?? (await oldestOpen(transaction, null));
    if (!found) return null;
    const job = await models.Job.findByPk(found.id, { transaction });
    if (!job) return null;
    if (job.cancelRequested) {
      await job.update({ state: 'cancelled' }, { transaction });
      return null;
    }
    if (found.attempts >= MAX_ATTEMPTS) {
      await job.update(
        {
          state: 'failed',
          error: `The worker died ${MAX_ATTEMPTS} times over this session. Its files may be more than the machine can hold.`,
        },
        { transaction },
      );
      return null;
    }
    await sequelize.query(
      `UPDATE jobs SET state = 'running', worker = :worker, attempts = attempts + 1, heartbeat_at = UTC_TIMESTAMP(3), updated_at = UTC_TIMESTAMP(3) WHERE id = :id`,
      {
        replacements: { worker, id: found.id },
        transaction,
      },
    );
    return view(await job.reload({ transaction }));
  });
}

/** Gives a job back to wait, as if it hadn't been begun: what stopped it was not its own. */
export async function giveBack(jobId: number, worker: string): Promise<void> {
  await store().sequelize.query(
    `UPDATE jobs SET state = 'queued', worker = NULL, attempts = attempts - 1 WHERE id = :id AND worker = :worker AND state = 'running'`,
    { replacements: { id: jobId, worker } },
  );
}

/**
 * Tells that a worker is alive and how far it is.
 *
 * @returns 'go on', 'cancel' when a person asked for it, 'make way' when a live sitting waits, or 'lost' when another worker has the job
 */
export async function heartbeat(
  jobId: number,
  worker: string,
  progress: JobProgress,
): Promise<'go on' | 'cancel' | 'make way' | 'lost'> {
  const { sequelize, models } = store();
  await sequelize.query(
    `UPDATE jobs SET heartbeat_at = UTC_TIMESTAMP(3), updated_at = UTC_TIMESTAMP(3), progress = :progress WHERE id = :id AND worker = :worker AND state = 'running'`,
    { replacements: { id: jobId, worker, progress: JSON.stringify(progress) } },
  );
  const row = await models.Job.findByPk(jobId);
  if (!row || row.worker !== worker || row.state !== 'running') return 'lost';
  if (row.cancelRequested) return 'cancel';
  const first = await firstSession();
  if (first === null || first === row.sessionId) return 'go on';
  return (await models.Job.count({ where: { sessionId: first, state: 'queued' } })) > 0 ? 'make way' : 'go on';
}

/**
 * Ends a job, with its readings when it succeeded. Does nothing when another worker has taken it over meanwhile.
 */
export async function finishJob(
  job: Pick<JobView, 'id' | 'sessionId'>,
  worker: string,
  outcome:
    | { state: 'done'; readings: Readings; inputHash: string; progress: JobProgress }
    | { state: 'failed'; error: string }
    | { state: 'cancelled' },
): Promise<boolean> {
  const { models } = store();
  return atomically(async (transaction) => {
    const row = await models.Job.findOne({
      where: { id: job.id, worker, state: 'running' },
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    if (!row) return false;
    if (outcome.state === 'done') {
      await models.Readings.create(
        {
          sessionId: job.sessionId,
          jobId: job.id,
          inputHash: outcome.inputHash,
          document: outcome.readings as unknown as Json,
        },
        { transaction },
      );
      await row.update({ state: 'done', progress: outcome.progress as unknown as Json }, { transaction });
    } else
      await row.update(
        { state: outcome.state, error: outcome.state === 'failed' ? outcome.error : null },
        { transaction },
      );
    return true;
  });
}
