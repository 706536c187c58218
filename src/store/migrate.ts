/** Brings the database to the newest tables. Migrations are listed here, in order; a released one never changes. */
import { SequelizeStorage, Umzug } from 'umzug';
import { store } from './database';
import * as firstTables from './migrations/0001-first-tables';
import * as inbox from './migrations/0002-inbox';
import * as shelf from './migrations/0003-shelf';
import * as judgement from './migrations/0004-judgement';

const MIGRATIONS = [
  { name: '0001-first-tables', ...firstTables },
  { name: '0002-inbox', ...inbox },
  { name: '0003-shelf', ...shelf },
  { name: '0004-judgement', ...judgement },
];

/** Runs what is missing; gives the names of the migrations that ran. */
export async function migrate(): Promise<string[]> {
  const { sequelize } = store();
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, up, down }) => ({
      name,
      up: async () => up(sequelize.getQueryInterface()),
      down: async () => down(sequelize.getQueryInterface()),
    })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  return (await umzug.up()).map((migration) => migration.name);
}
