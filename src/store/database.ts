/** One connection pool a process, kept across hot reloads. */
import { setTimeout as pause } from 'node:timers/promises';
import { ConnectionError, ConnectionRefusedError, DatabaseError, Sequelize, Transaction } from 'sequelize';
import { readConfig } from './config';
import { defineModels, type Models } from './models';
import { watchStatement } from './who';

interface Store {
  sequelize: Sequelize;
  models: Models;
}

const holder = globalThis as typeof globalThis & { gladeStore?: Store };

/** The database, connected lazily. */
export function store(): Store {
  holder.gladeStore ??= connect();
  return holder.gladeStore;
}

function connect(): Store {
  const { database } = readConfig();
  const sequelize = new Sequelize(database.name, database.user, database.password, {
    host: database.host,
    port: database.port,
    dialect: 'mysql',
    logging: false,
    timezone: '+00:00',
    pool: { max: 10, idle: 30_000 },
    dialectOptions: { charset: 'utf8mb4', supportBigNumbers: true },
    define: { underscored: true, charset: 'utf8mb4' },
    retry: {
      max: AWAY_MS / AWAY_PAUSE_MS,
      match: [ConnectionRefusedError],
      backoffBase: AWAY_PAUSE_MS,
      backoffExponent: 1,
    },
  });
  const query = sequelize.query.bind(sequelize) as (sql: unknown, options?: object) => Promise<unknown>;
  sequelize.query = ((sql: string | { query: string }, options?: object) => {
    try {
      watchStatement(typeof sql === 'string' ? sql : sql.query);
    } catch (error) {
      return Promise.reject(error as Error);
    }
    return query(sql, options);
  }) as typeof sequelize.query;
  return { sequelize, models: defineModels(sequelize) };
}

/** So long requests wait for a database that is being started again, and pause between tries. */
const AWAY_MS = 8_000;
const AWAY_PAUSE_MS = 200;

/** The database's server ends while it works, or ended this connection: `ER_SERVER_SHUTDOWN`, `ER_CONNECTION_KILLED`. */
const ENDING = new Set([1053, 1927]);
/** What sockets and the driver say of a connection that broke. */
const BROKEN = new Set(['PROTOCOL_CONNECTION_LOST', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT']);

/**
 * Whether an error says that the database isn't there, or went while it was asked. What was asked of it may have been done, unless it refused
 * the connection.
 */
export function isAway(error: unknown): boolean {
  if (error instanceof ConnectionError) return true;
  if (!(error instanceof DatabaseError)) return false;
  const { fatal, errno, code } = error.parent as { fatal?: boolean; errno?: number; code?: string };
  // The driver calls fatal what leaves a connection of no use: also what is asked of one that is closed already.
  return fatal === true || ENDING.has(errno ?? 0) || BROKEN.has(code ?? '');
}

/** `ER_DISK_FULL`, `ER_RECORD_FILE_FULL`. */
const FULL = new Set([1021, 1114]);
/** What storage engines say with the system's own number (28, no space left on device). */
const ENGINE_FULL = /\b(errno|error):? 28\b/i;

/** Whether an error says that the disk is full, the database's or a file's. Nothing of what was asked was done. */
export function isFull(error: unknown): boolean {
  if ((error as NodeJS.ErrnoException | null)?.code === 'ENOSPC') return true;
  if (!(error instanceof DatabaseError)) return false;
  return FULL.has((error.parent as { errno?: number }).errno ?? 0) || ENGINE_FULL.test(error.message);
}

/** Tries again while the database refuses connections: nothing was begun then. */
async function patiently<T>(work: () => Promise<T>): Promise<T> {
  const until = Date.now() + AWAY_MS;
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof ConnectionRefusedError) || Date.now() > until) throw error;
      await pause(AWAY_PAUSE_MS);
    }
  }
}

/** Whether the database answers now. */
export async function databaseAnswers(): Promise<boolean> {
  try {
    await store().sequelize.query('SELECT 1', { retry: { max: 1 } } as object);
    return true;
  } catch {
    return false;
  }
}

/** MariaDB's ER_LOCK_DEADLOCK: it undid the transaction, which may be tried again. */
const DEADLOCK = 1213;
const MOST_TRIES = 10;
const PAUSE_MS = 20;

/**
 * Does all of `work` in one transaction or nothing of it.
 *
 * @param work may run several times: transactions that wait for each other in a circle, as deletes and inserts of
 *   neighboring rows do, are undone by the database one by one, and tried again here
 * @throws what `work` throws, and the database's error after ten tries
 */
export async function atomically<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
  // Gaps between rows aren't locked at this level: sessions edited beside each other seldom meet at all.
  const isolationLevel = Transaction.ISOLATION_LEVELS.READ_COMMITTED;
  for (let tries = 1; ; tries++) {
    try {
      return await patiently(() => store().sequelize.transaction({ isolationLevel }, work));
    } catch (error) {
      const undone = error instanceof DatabaseError && (error.parent as { errno?: number }).errno === DEADLOCK;
      if (!undone || tries === MOST_TRIES) throw error;
      await pause(PAUSE_MS * tries * (0.5 + Math.random()));
    }
  }
}

/**
 * Reads with all queries of `work` what was there at one moment: rows that an edit writes anew meanwhile are not mixed
 * with those before it.
 */
export function atOneMoment<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
  const isolationLevel = Transaction.ISOLATION_LEVELS.REPEATABLE_READ;
  return patiently(() => store().sequelize.transaction({ isolationLevel }, work));
}

/** Closes the pool, for programs that end. */
export async function closeStore(): Promise<void> {
  await holder.gladeStore?.sequelize.close();
  holder.gladeStore = undefined;
}
