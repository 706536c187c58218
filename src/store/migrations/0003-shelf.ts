/** Kits and rigs that are kept for more than one sitting, the photos of their filters, and phones that may tap on a run sheet. */
import type { QueryInterface } from 'sequelize';

export async function up(query: QueryInterface): Promise<void> {
  const kept = (name: string) => `CREATE TABLE ${name} (
    id CHAR(36) PRIMARY KEY, name VARCHAR(190) NOT NULL, data JSON NOT NULL, items INT NOT NULL, revision INT NOT NULL,
    deleted_at DATETIME(3) NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL, INDEX (deleted_at, name))`;
  for (const sql of [
    kept('shelf_kits'),
    kept('shelf_rigs'),
    `CREATE TABLE shelf_photos (
      id INT AUTO_INCREMENT PRIMARY KEY, kit_id CHAR(36) NOT NULL, sha256 CHAR(64) NOT NULL,
      created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL, UNIQUE (kit_id, sha256), INDEX (sha256),
      FOREIGN KEY (kit_id) REFERENCES shelf_kits (id) ON DELETE CASCADE, FOREIGN KEY (sha256) REFERENCES files (sha256))`,
    `CREATE TABLE pairings (
      id INT AUTO_INCREMENT PRIMARY KEY, session_id CHAR(36) NOT NULL, secret_hash CHAR(64) NOT NULL,
      revoked_at DATETIME(3) NULL, seen_at DATETIME(3) NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
      UNIQUE (secret_hash), INDEX (session_id), FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE)`,
  ])
    await query.sequelize.query(sql);
}

export async function down(query: QueryInterface): Promise<void> {
  for (const name of ['pairings', 'shelf_photos', 'shelf_rigs', 'shelf_kits']) await query.dropTable(name);
}
