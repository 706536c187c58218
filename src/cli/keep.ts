/**
 * Keeping the library safe, for `./glade backup | restore | check`: `keep rows FOLDER`, `keep share SHARED FOLDER`, `keep fetch SHARED FOLDER`,
 * `keep prune SHARED LIST…`, `keep tables FOLDER`, `keep counted FOLDER`, `keep check`.
 */
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { GENERATOR } from '@/core/version';
import { closeStore, migrate, readConfig } from '@/store';
import { countRows, manifestSchema, writeRows, type BackupManifest } from '@/store/backup';
import { checkLibrary } from '@/store/checkLibrary';
import { fetchMedia, MEDIA_LIST, pruneShared, shareMedia } from '@/store/sharedMedia';

async function manifestIn(folder: string): Promise<BackupManifest> {
  try {
    return manifestSchema.parse(JSON.parse(await readFile(join(folder, 'manifest.json'), 'utf8')));
  } catch {
    throw new Error('This is no backup of Aurora Glade, or one that this version can’t read.');
  }
}

async function main(): Promise<void> {
  const [command, folder, ...more] = process.argv.slice(2);
  if (command === 'rows' && folder) {
    const manifest = await writeRows(join(folder, 'rows.sql'), GENERATOR);
    await writeFile(join(folder, 'manifest.json'), `${JSON.stringify(manifest, null, 2)}\n`);
  } else if (command === 'share' && folder && more.length === 1) {
    const { kept, damaged } = await shareMedia(readConfig().mediaFolder, folder);
    await writeFile(join(more[0], MEDIA_LIST), kept.map((one) => `${one}\n`).join(''));
    if (damaged.length > 0) console.error(`${damaged.length} pictures are damaged on the disk and not in this backup: ./glade check names them.`); // prettier-ignore
  } else if (command === 'fetch' && folder && more.length === 1) {
    await fetchMedia(folder, join(more[0], MEDIA_LIST), join(more[0], 'media'));
  } else if (command === 'prune' && folder) {
    await pruneShared(folder, await Promise.all(more.map((list) => readFile(list, 'utf8'))));
  } else if (command === 'tables' && folder) {
    // The tables as they were when the backup was made; what came since is added once its rows are in.
    const { migrations } = await manifestIn(folder);
    await migrate(migrations[migrations.length - 1]);
  } else if (command === 'counted' && folder) {
    const [{ rows }, now] = [await manifestIn(folder), await countRows()];
    const wrong = Object.entries(rows).filter(([table, count]) => now[table] !== count);
    if (wrong.length > 0)
      throw new Error(wrong.map(([table, count]) => `${table}: ${now[table] ?? 0} rows of ${count}.`).join(' '));
  } else if (command === 'check') {
    const { media, bytes, problems, unnamed } = await checkLibrary();
    for (const problem of problems) console.log(problem);
    const waiting = unnamed > 0 ? `, ${unnamed} that nothing names` : '';
    console.log(`${media} files of ${(bytes / 1e6).toFixed(1)} MB looked at${waiting}: ${problems.length === 0 ? 'all is whole' : `${problems.length} of them or of the tables are not as they should be`}.`); // prettier-ignore
    if (problems.length > 0) process.exitCode = 1;
  } else
    throw new Error(
      'usage: keep rows | tables | counted FOLDER, keep share | fetch SHARED FOLDER, keep prune SHARED LIST…, keep check',
    );
}

try {
  await main();
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 1;
} finally {
  await closeStore();
}
