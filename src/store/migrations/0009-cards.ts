/** What the first page shows of a session, and the words by which it is found: made of the session and its readings, made again at any time. */
import type { QueryInterface } from 'sequelize';

const TABLES = [
  `CREATE TABLE session_cards (
    session_id CHAR(36) PRIMARY KEY, session_at DATETIME(3) NOT NULL, reading_id INT NOT NULL, made_by CHAR(16) NOT NULL,
    entry JSON NOT NULL, words TEXT NOT NULL, day CHAR(10) NOT NULL, camera VARCHAR(190) NOT NULL,
    title_key VARCHAR(190) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, begun_at DATETIME(3) NOT NULL,
    created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
    INDEX (begun_at), INDEX (day, begun_at), INDEX (title_key), INDEX (camera, begun_at), FULLTEXT (words),
    FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE)`,
  `CREATE TABLE session_card_kits (
    name VARCHAR(190) NOT NULL, session_id CHAR(36) NOT NULL, begun_at DATETIME(3) NOT NULL,
    PRIMARY KEY (name, session_id), INDEX (name, begun_at), INDEX (session_id),
    FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE)`,
];

export async function up(query: QueryInterface): Promise<void> {
  for (const table of TABLES) await query.sequelize.query(table);
  // Whether anything changed is asked at every list.
  await query.sequelize.query('ALTER TABLE sessions ADD INDEX by_change (updated_at)');
}

export async function down(query: QueryInterface): Promise<void> {
  await query.sequelize.query('ALTER TABLE sessions DROP INDEX by_change');
  for (const name of ['session_card_kits', 'session_cards']) await query.dropTable(name);
}
