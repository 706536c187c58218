/** One connection pool a process, kept across hot reloads. */
import { Sequelize } from 'sequelize';
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

/** Closes the pool, for programs that end. */
export async function closeStore(): Promise<void> {
  await holder.gladeStore?.sequelize.close();
  holder.gladeStore = undefined;
}
