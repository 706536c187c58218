/** One connection pool a process, kept across hot reloads. */
import { setTimeout as pause } from 'node:timers/promises';
import { DatabaseError, Sequelize, Transaction } from 'sequelize';
import { readConfig } from './config';
import { defineModels, type Models } from './models';

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
  });
  return { sequelize, models: defineModels(sequelize) };
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
      return await store().sequelize.transaction({ isolationLevel }, work);
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
  return store().sequelize.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ }, work);
}

/** Closes the pool, for programs that end. */
export async function closeStore(): Promise<void> {
  await holder.gladeStore?.sequelize.close();
  holder.gladeStore = undefined;
}
