/** Which request asked for a measurement, so that the worker's lines of the log are found from the web server's. */
import type { QueryInterface } from 'sequelize';

export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query('ALTER TABLE jobs ADD request CHAR(36) NULL');
}

export async function down(query: QueryInterface): Promise<void> {
  await query.sequelize.query('ALTER TABLE jobs DROP request');
}
