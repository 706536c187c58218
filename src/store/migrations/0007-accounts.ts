/** People who sign in, by password and passkey, their sign-ins, and a record of what they did; who made a revision. */
import type { QueryInterface } from 'sequelize';

const TIMES = 'created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL';

export async function up(query: QueryInterface): Promise<void> {
  for (const sql of [
    `CREATE TABLE accounts (
      id INT AUTO_INCREMENT PRIMARY KEY, name VARCHAR(60) NOT NULL, name_key VARCHAR(60) NOT NULL, role VARCHAR(10) NOT NULL,
      password_hash VARCHAR(200) NOT NULL, ${TIMES}, UNIQUE (name_key))`,
    `CREATE TABLE passkeys (
      id INT AUTO_INCREMENT PRIMARY KEY, account_id INT NOT NULL, credential_id VARCHAR(700) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      public_key BLOB NOT NULL, counter BIGINT NOT NULL, transports VARCHAR(120) NOT NULL, name VARCHAR(60) NOT NULL,
      used_at DATETIME(3) NULL, ${TIMES}, UNIQUE (credential_id), FOREIGN KEY (account_id) REFERENCES accounts (id) ON DELETE CASCADE)`,
    `CREATE TABLE sign_ins (
      id INT AUTO_INCREMENT PRIMARY KEY, account_id INT NOT NULL, token_hash CHAR(64) NOT NULL, address VARCHAR(60) NOT NULL,
      browser VARCHAR(120) NOT NULL, seen_at DATETIME(3) NOT NULL, until DATETIME(3) NOT NULL, ${TIMES},
      UNIQUE (token_hash), FOREIGN KEY (account_id) REFERENCES accounts (id) ON DELETE CASCADE)`,
    `CREATE TABLE doings (
      id INT AUTO_INCREMENT PRIMARY KEY, account_id INT NULL, name VARCHAR(60) NOT NULL, method VARCHAR(8) NOT NULL,
      path VARCHAR(200) NOT NULL, times INT NOT NULL, first_at DATETIME(3) NOT NULL, last_at DATETIME(3) NOT NULL,
      INDEX (last_at), FOREIGN KEY (account_id) REFERENCES accounts (id) ON DELETE SET NULL)`,
    'ALTER TABLE session_revisions ADD author VARCHAR(60) NULL',
  ])
    await query.sequelize.query(sql);
}

export async function down(query: QueryInterface): Promise<void> {
  for (const table of ['doings', 'sign_ins', 'passkeys', 'accounts']) await query.dropTable(table);
  await query.sequelize.query('ALTER TABLE session_revisions DROP author');
}
