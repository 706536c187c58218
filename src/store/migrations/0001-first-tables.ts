/** The tables of the first version. */
import type { QueryInterface } from 'sequelize';

const TABLES = [
  `CREATE TABLE rigs (
    id INT AUTO_INCREMENT PRIMARY KEY, name VARCHAR(190) NOT NULL, data JSON NOT NULL,
    created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL)`,
  `CREATE TABLE sessions (
    id CHAR(36) PRIMARY KEY, title VARCHAR(500) NOT NULL, rig_id INT NOT NULL, data JSON NOT NULL,
    deleted_at DATETIME(3) NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
    INDEX (deleted_at, created_at), FOREIGN KEY (rig_id) REFERENCES rigs (id))`,
  ...[
    ['kits', '', ''],
    ['filters', 'kit_id INT NOT NULL,', ', FOREIGN KEY (kit_id) REFERENCES kits (id) ON DELETE CASCADE'],
    ['scenes', '', ''],
    ['takes', 'scene_key VARCHAR(190) NOT NULL, filter_key VARCHAR(190) NULL,', ''],
    ['patches', 'scene_key VARCHAR(190) NOT NULL,', ''],
  ].map(
    ([name, columns, keys]) => `CREATE TABLE ${name} (
    id INT AUTO_INCREMENT PRIMARY KEY, session_id CHAR(36) NOT NULL, \`key\` VARCHAR(190) NOT NULL, position INT NOT NULL, ${columns}
    data JSON NOT NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
    UNIQUE (session_id, \`key\`), INDEX (session_id, position),
    FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE${keys})`,
  ),
  `CREATE TABLE files (
    sha256 CHAR(64) PRIMARY KEY, bytes BIGINT NOT NULL, facts JSON NOT NULL,
    created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL)`,
  `CREATE TABLE session_files (
    id INT AUTO_INCREMENT PRIMARY KEY, session_id CHAR(36) NOT NULL, path VARCHAR(500) NOT NULL, sha256 CHAR(64) NOT NULL,
    created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
    UNIQUE (session_id, path), INDEX (sha256),
    FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE, FOREIGN KEY (sha256) REFERENCES files (sha256))`,
  `CREATE TABLE jobs (
    id INT AUTO_INCREMENT PRIMARY KEY, session_id CHAR(36) NOT NULL, kind VARCHAR(40) NOT NULL, state VARCHAR(20) NOT NULL,
    attempts INT NOT NULL, worker VARCHAR(190) NULL, heartbeat_at DATETIME(3) NULL, cancel_requested BOOLEAN NOT NULL,
    progress JSON NOT NULL, error TEXT NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
    INDEX (state, heartbeat_at), INDEX (session_id, id), FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE)`,
  `CREATE TABLE readings (
    id INT AUTO_INCREMENT PRIMARY KEY, session_id CHAR(36) NOT NULL, job_id INT NOT NULL, input_hash CHAR(64) NOT NULL,
    document JSON NOT NULL, created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
    UNIQUE (job_id), INDEX (session_id, id),
    FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE, FOREIGN KEY (job_id) REFERENCES jobs (id) ON DELETE CASCADE)`,
];

export async function up(query: QueryInterface): Promise<void> {
  for (const sql of TABLES) await query.sequelize.query(sql);
}

export async function down(query: QueryInterface): Promise<void> {
  for (const name of [
    'readings',
    'jobs',
    'session_files',
    'files',
    'patches',
    'takes',
    'scenes',
    'filters',
    'kits',
    'sessions',
    'rigs',
  ])
    await query.dropTable(name);
}
