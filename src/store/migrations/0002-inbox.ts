/** Files that have arrived and belong to no session yet. */
import type { QueryInterface } from 'sequelize';

export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(`CREATE TABLE inbox (
    id INT AUTO_INCREMENT PRIMARY KEY, path VARCHAR(500) NOT NULL, sha256 CHAR(64) NOT NULL, source VARCHAR(20) NOT NULL,
    created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
    UNIQUE (sha256, path), FOREIGN KEY (sha256) REFERENCES files (sha256))`);
}

export async function down(query: QueryInterface): Promise<void> {
  await query.dropTable('inbox');
}
