/** What the reviewer has set (bounds, weights), reports with their texts, and their frozen versions. */
import type { QueryInterface } from 'sequelize';

export async function up(query: QueryInterface): Promise<void> {
  for (const sql of [
    `CREATE TABLE settings (
      name VARCHAR(60) PRIMARY KEY, data JSON NOT NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL)`,
    `CREATE TABLE reports (
      id CHAR(36) PRIMARY KEY, name VARCHAR(190) NOT NULL, data JSON NOT NULL, items INT NOT NULL, revision INT NOT NULL,
      deleted_at DATETIME(3) NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL, INDEX (deleted_at, updated_at))`,
    `CREATE TABLE report_versions (
      id INT AUTO_INCREMENT PRIMARY KEY, report_id CHAR(36) NOT NULL, number INT NOT NULL, hash CHAR(64) NOT NULL,
      document JSON NOT NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
      UNIQUE (report_id, number), FOREIGN KEY (report_id) REFERENCES reports (id) ON DELETE CASCADE)`,
  ])
    await query.sequelize.query(sql);
}

export async function down(query: QueryInterface): Promise<void> {
  for (const name of ['report_versions', 'reports', 'settings']) await query.dropTable(name);
}
