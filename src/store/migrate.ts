/** Brings the database to the newest tables. Migrations are listed here, in order; a released one never changes. */
import { SequelizeStorage, Umzug } from 'umzug';
import { store } from './database';
import * as firstTables from './migrations/0001-first-tables';
import * as inbox from './migrations/0002-inbox';
import * as shelf from './migrations/0003-shelf';
import * as judgement from './migrations/0004-judgement';
import * as revisions from './migrations/0005-revisions';
import * as door from './migrations/0006-door';
import * as accounts from './migrations/0007-accounts';
import * as benches from './migrations/0008-benches';
import * as cards from './migrations/0009-cards';
import * as request from './migrations/0010-request';

const MIGRATIONS = [
  { name: '0001-first-tables', ...firstTables },
  { name: '0002-inbox', ...inbox },
  { name: '0003-shelf', ...shelf },
  { name: '0004-judgement', ...judgement },
  { name: '0005-revisions', ...revisions },
  { name: '0006-door', ...door },
  { name: '0007-accounts', ...accounts },
  { name: '0008-benches', ...benches },
  { name: '0009-cards', ...cards },
  { name: '0010-request', ...request },
];

/** A database whose tables this program doesn't know. */
export class NewerDatabase extends Error {}

function newestKnown(names: readonly string[]): void {
  const unknown = names.filter((name) => !MIGRATIONS.some((one) => one.name === name));
  if (unknown.length > 0)
    throw new NewerDatabase(
      `These data were made by a newer Aurora Glade (${unknown.join(', ')}); update this one. Nothing was changed.`,
    );
}

/** Names of the migrations that the database has had, in order. */
export async function migrationsDone(): Promise<string[]> {
  const { sequelize } = store();
  return new SequelizeStorage({ sequelize, tableName: 'migrations' }).executed();
}

/** Names of those that an older database still has to have; none of one that has no tables yet. @throws NewerDatabase */
export async function migrationsWaiting(): Promise<string[]> {
  const done = await migrationsDone();
  newestKnown(done);
  return done.length === 0 ? [] : MIGRATIONS.map(({ name }) => name).filter((name) => !done.includes(name));
}

/**
 * Runs what is missing; gives the names of the migrations that ran.
 *
 * @param to the last one that is wanted; all when left out
 * @throws NewerDatabase before anything is changed
 */
export async function migrate(to?: string): Promise<string[]> {
  const { sequelize } = store();
  const storage = new SequelizeStorage({ sequelize, tableName: 'migrations' });
  newestKnown([...(await storage.executed()), ...(to === undefined ? [] : [to])]);
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, up, down }) => ({
      name,
      up: async () => up(sequelize.getQueryInterface()),
      down: async () => down(sequelize.getQueryInterface()),
    })),
    storage,
    logger: undefined,
  });
  return (await umzug.up(to === undefined ? undefined : { to })).map((migration) => migration.name);
}
