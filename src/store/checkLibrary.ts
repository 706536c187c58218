/** Whether all that the library names is there and whole: media by their hashes, rows by their media, tables by the database's own check. */
import { stat } from 'node:fs/promises';
import { QueryTypes } from 'sequelize';
import { readConfig } from './config';
import { store } from './database';
import { hashOfFile, mediaPath } from './media';
import { hashesIn } from './sharedMedia';

export interface LibraryCheck {
  media: number;
  bytes: number;
  /** Sentences, each about one thing that isn't as it should be. */
  problems: string[];
  /** Files that nothing names: harmless, they go with the next tidying. */
  unnamed: number;
}

/** Looks at everything; changes nothing. */
export async function checkLibrary(): Promise<LibraryCheck> {
  const { File } = store().models;
  const files = await File.findAll({ attributes: ['sha256', 'bytes'] });
  const problems: string[] = [];
  let bytes = 0;
  for (const { sha256, bytes: expected } of files) {
    const path = mediaPath(sha256);
    const info = await stat(path).catch(() => null);
    const problem = !info ? 'is missing' : info.size !== Number(expected) ? `has ${info.size} bytes instead of ${expected}` : (await hashOfFile(path)) !== sha256 ? 'was changed on the disk' : null; // prettier-ignore
    if (problem) problems.push(`${await namesOf(sha256)} ${problem} (media ${sha256.slice(0, 12)}…); drop it again.`);
    else bytes += info!.size;
  }
  problems.push(...(await tableProblems()));
  const known = new Set(files.map((one) => one.sha256));
  const unnamed = (await hashesIn(readConfig().mediaFolder)).filter((hash) => !known.has(hash)).length;
  return { media: files.length, bytes, problems, unnamed };
}

/** What people call a stored file: by the sessions that have it. */
async function namesOf(sha256: string): Promise<string> {
  const rows = await store().sequelize.query<{ path: string; title: string }>(
    'SELECT path, title FROM session_files JOIN sessions ON sessions.id = session_id WHERE sha256 = ? LIMIT 3',
    { type: QueryTypes.SELECT, replacements: [sha256] },
  );
  return rows.length === 0 ? 'A file' : rows.map(({ path, title }) => `${path} of “${title}”`).join(', ');
}

async function tableProblems(): Promise<string[]> {
  const { sequelize } = store();
  const tables = await sequelize.query<Record<string, string>>('SHOW TABLES', { type: QueryTypes.SELECT });
  const problems: string[] = [];
  for (const table of tables.map((row) => Object.values(row)[0])) {
    const told = await sequelize.query<{ Msg_type: string; Msg_text: string }>(`CHECK TABLE \`${table}\``, {
      type: QueryTypes.SELECT,
    });
    const last = told[told.length - 1];
    if (last?.Msg_text !== 'OK') problems.push(`The table ${table}: ${last?.Msg_text ?? 'the database says nothing'}.`);
  }
  return problems;
}
