/** Sessions as their edits left them. */
import type { QueryInterface } from 'sequelize';

export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE session_revisions (
      id INT AUTO_INCREMENT PRIMARY KEY, session_id CHAR(36) NOT NULL, number INT NOT NULL, document MEDIUMBLOB NOT NULL,
      changes JSON NOT NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
      UNIQUE (session_id, number), FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE)`,
  );
}

export async function down(query: QueryInterface): Promise<void> {
  await query.dropTable('session_revisions');
}
