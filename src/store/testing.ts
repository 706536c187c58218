/** A database of a test's own, on the server that `./glade test` runs. */
import { Sequelize } from 'sequelize';
import { readConfig } from './config';
import { closeStore } from './database';
import { migrate } from './migrate';

/** Makes an empty database of this name and points the store at it. */
export async function freshDatabase(name: string): Promise<void> {
  delete process.env.GLADE_DATABASE;
  const { database } = readConfig();
  const server = new Sequelize('', database.user, database.password, {
    host: database.host,
    port: database.port,
    dialect: 'mysql',
    logging: false,
  });
  await server.query(`DROP DATABASE IF EXISTS \`${name}\``);
  await server.query(`CREATE DATABASE \`${name}\``);
  await server.close();
  process.env.GLADE_DATABASE = name;
  await closeStore();
  await migrate();
}
