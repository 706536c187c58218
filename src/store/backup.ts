/** All rows as they are at one moment, as plain SQL, and back: any MariaDB reads it. Media are copied as the files that they are. */
import { createWriteStream } from 'node:fs';
import { once } from 'node:events';
import { QueryTypes, type Transaction } from 'sequelize';
import { z } from 'zod';
import { atOneMoment, store } from './database';
import { migrationsDone } from './migrate';

/** What a backup says of itself. */
export const manifestSchema = z.object({
  format: z.literal('aurora-glade-backup'),
  version: z.literal(1),
  madeAt: z.iso.datetime(),
  generator: z.string(),
  /** Of the tables that its rows are of. */
  migrations: z.array(z.string()).min(1),
  /** Rows by table. */
  rows: z.record(z.string(), z.number()),
});
export type BackupManifest = z.infer<typeof manifestSchema>;

/** Kept by the migrations themselves. */
const OWN_TABLE = 'migrations';
/** Rows asked for at a time. */
const AT_A_TIME = 200;
const BINARY = /blob|binary/i;

const quotedName = (name: string) => `\`${name.replaceAll('`', '``')}\``;

/** Tables of the database, by name. */
async function tablesOf(transaction: Transaction): Promise<string[]> {
  const rows = await store().sequelize.query<Record<string, string>>('SHOW TABLES', {
    type: QueryTypes.SELECT,
    transaction,
  });
  return rows.map((row) => Object.values(row)[0]).filter((name) => name !== OWN_TABLE);
}

/**
 * Writes all rows into a file. The database writes each value as SQL has it, so that what is read back is the same to the byte.
 *
 * @returns what the backup says of itself
 */
export async function writeRows(path: string, generator: string): Promise<BackupManifest> {
  const file = createWriteStream(path, { mode: 0o600 });
  const failed = new Promise<never>((_, reject) => file.once('error', reject));
  failed.catch(() => undefined);
  const write = async (text: string) => {
    if (!file.write(text)) await Promise.race([once(file, 'drain'), failed]);
  };
  const migrations = await migrationsDone();
  const rows: Record<string, number> = {};
  await atOneMoment(async (transaction) => {
    await write("SET NAMES utf8mb4;\nSET foreign_key_checks = 0;\nSET sql_mode = 'STRICT_ALL_TABLES,NO_AUTO_VALUE_ON_ZERO';\nSTART TRANSACTION;\n"); // prettier-ignore
    for (const table of await tablesOf(transaction)) rows[table] = await writeTable(table, transaction, write);
    await write('COMMIT;\n');
  });
  file.end();
  await Promise.race([once(file, 'close'), failed]);
  return { format: 'aurora-glade-backup', version: 1, madeAt: new Date().toISOString(), generator, migrations, rows };
}

async function writeTable(
  table: string,
  transaction: Transaction,
  write: (text: string) => Promise<void>,
): Promise<number> {
  const { sequelize } = store();
  const columns = await sequelize.query<{ Field: string; Type: string; Key: string }>(
    `SHOW COLUMNS FROM ${quotedName(table)}`,
    { type: QueryTypes.SELECT, transaction },
  );
  const literal = ({ Field, Type }: (typeof columns)[number]) => {
    const name = quotedName(Field);
    return BINARY.test(Type)
      ? `IF(${name} IS NULL, 'NULL', CONCAT('X''', HEX(${name}), ''''))`
      : `IFNULL(QUOTE(${name}), 'NULL')`;
  };
  const keys = columns.filter((one) => one.Key === 'PRI').map((one) => quotedName(one.Field));
  const names = columns.map((one) => quotedName(one.Field)).join(', ');
  const select = `SELECT CONCAT_WS(', ', ${columns.map(literal).join(', ')}) AS line FROM ${quotedName(table)}`;
  for (let count = 0; ;) {
    const lines = await sequelize.query<{ line: string }>(
      `${select} ORDER BY ${keys.join(', ')} LIMIT ${AT_A_TIME} OFFSET ${count}`,
      { type: QueryTypes.SELECT, transaction },
    );
    for (const { line } of lines) await write(`INSERT INTO ${quotedName(table)} (${names}) VALUES (${line});\n`);
    count += lines.length;
    if (lines.length < AT_A_TIME) return count;
  }
}

/** Rows by table, as they are now. */
export async function countRows(): Promise<Record<string, number>> {
  return atOneMoment(async (transaction) => {
    const counts: Record<string, number> = {};
    for (const table of await tablesOf(transaction)) {
      const [{ count }] = await store().sequelize.query<{ count: number }>(
        `SELECT COUNT(*) AS count FROM ${quotedName(table)}`,
        { type: QueryTypes.SELECT, transaction },
      );
      counts[table] = Number(count);
    }
    return counts;
  });
}
