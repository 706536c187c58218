/** Readings of other people's benches, kept apart as theirs. */
import type { QueryInterface } from 'sequelize';

export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(`CREATE TABLE other_benches (
    id CHAR(36) PRIMARY KEY, name VARCHAR(190) NOT NULL, data JSON NOT NULL, items INT NOT NULL, revision INT NOT NULL,
    deleted_at DATETIME(3) NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL, INDEX (deleted_at, name))`);
}

export async function down(query: QueryInterface): Promise<void> {
  await query.dropTable('other_benches');
}
