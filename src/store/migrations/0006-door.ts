/** Codes that pair one phone once, with a name; links to reports that the server makes and that end. */
import type { QueryInterface } from 'sequelize';

export async function up(query: QueryInterface): Promise<void> {
  for (const sql of [
    `ALTER TABLE pairings MODIFY secret_hash CHAR(64) NULL, ADD code_hash CHAR(64) NULL UNIQUE, ADD code_until DATETIME(3) NULL,
      ADD name VARCHAR(60) NOT NULL DEFAULT 'A phone'`,
    `CREATE TABLE report_links (
      id INT AUTO_INCREMENT PRIMARY KEY, report_id CHAR(36) NOT NULL, token CHAR(32) NOT NULL, until DATETIME(3) NOT NULL,
      created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
      UNIQUE (token), INDEX (report_id), FOREIGN KEY (report_id) REFERENCES reports (id) ON DELETE CASCADE)`,
    // Links that were made before hold for as long as new ones.
    `INSERT IGNORE INTO report_links (report_id, token, until, created_at, updated_at)
      SELECT id, JSON_VALUE(data, '$.link'), DATE_ADD(UTC_TIMESTAMP(3), INTERVAL 90 DAY), UTC_TIMESTAMP(3), UTC_TIMESTAMP(3)
      FROM reports WHERE JSON_VALUE(data, '$.link') REGEXP '^[0-9a-f]{32}$'`,
  ])
    await query.sequelize.query(sql);
}

export async function down(query: QueryInterface): Promise<void> {
  await query.dropTable('report_links');
  await query.sequelize.query('DELETE FROM pairings WHERE secret_hash IS NULL');
  await query.sequelize.query(
    'ALTER TABLE pairings DROP code_hash, DROP code_until, DROP name, MODIFY secret_hash CHAR(64) NOT NULL',
  );
}
