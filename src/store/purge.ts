/**
 * What may go: views and remembered figures that were used least lately, sessions put away a month ago, and media that nothing points at any
 * more. Nothing that is needed is lost: views and memory are made again, media go only with their last session.
 */
import { readdir, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { cast, col, Op, where as sequelizeWhere } from 'sequelize';
import { readConfig } from './config';
import { atomically, store } from './database';
import { mediaPath } from './media';

const DAY_MS = 86_400_000;
/** What is put away can be brought back for so long. */
export const KEPT_DAYS = 30;
/** Media that came and were never used wait so long. */
const UNUSED_DAYS = 7;
/** Views kept at most, and remembered figures. */
const MOST_VIEW_BYTES = 4_000_000_000;
const MOST_MEMORY_BYTES = 6_000_000_000;
/** A file's time of last use is written at most this often. */
const TOUCH_MS = 3_600_000;

/** Notes that a file was used now. */
export async function touch(path: string): Promise<void> {
  const info = await stat(path).catch(() => null);
  if (info && Date.now() - info.mtimeMs > TOUCH_MS) {
    const now = new Date();
    await utimes(path, now, now).catch(() => undefined);
  }
}

/** Removes the files of a folder that were used least lately until it holds no more than so many bytes. */
export async function purgeFolder(folder: string, mostBytes: number): Promise<void> {
  const names = await readdir(folder, { recursive: true }).catch(() => []);
  const files: { path: string; bytes: number; used: number }[] = [];
  for (const name of names) {
    const info = await stat(join(folder, name)).catch(() => null);
    if (info?.isFile()) files.push({ path: join(folder, name), bytes: info.size, used: info.mtimeMs });
  }
  let total = files.reduce((sum, file) => sum + file.bytes, 0);
  for (const file of files.sort((a, b) => a.used - b.used)) {
    if (total <= mostBytes) return;
    await rm(file.path, { force: true });
    total -= file.bytes;
  }
}

/** Sessions, kits, rigs and other benches put away longer than {@link KEPT_DAYS} go for good, then media that nothing names any more. */
export async function purgeDeleted(now = Date.now()): Promise<void> {
  const { Session, ShelfKit, ShelfRig, OtherBench, Report, ReportVersion, File, SessionFile, ShelfPhoto, Inbox } =
    store().models;
  const daysAgo = (days: number) => new Date(now - days * DAY_MS);
  const longGone = { where: { deletedAt: { [Op.lt]: daysAgo(KEPT_DAYS) } } };
  await Session.destroy(longGone);
  await ShelfKit.destroy(longGone);
  await ShelfRig.destroy(longGone);
  await OtherBench.destroy(longGone);
  // What was frozen was given to others as it stood; it outlives the report it was frozen of.
  const frozen = await ReportVersion.findAll({ attributes: ['reportId'], group: ['reportId'] });
  await Report.destroy({
    where: { ...longGone.where, id: { [Op.notIn]: frozen.map((version) => version.reportId) } },
  });
  const old = { updatedAt: { [Op.lt]: daysAgo(UNUSED_DAYS) } } as Record<string, unknown>;
  const candidates = await File.findAll({ where: old, attributes: ['sha256'] });
  for (const { sha256 } of candidates) {
    const path = mediaPath(sha256);
    const gone = await atomically(async (transaction) => {
      const named = { where: { sha256 }, transaction };
      const names = (await SessionFile.count(named)) + (await Inbox.count(named)) + (await ShelfPhoto.count(named));
      if (names > 0) return false;
      // A report names its pictures within its own document.
      const showing = sequelizeWhere(cast(col('data'), 'char'), { [Op.like]: `%${sha256}%` });
      if ((await Report.count({ where: showing, transaction })) > 0) return false;
      // Since the list was made it may have come again.
      return (await File.destroy({ where: { ...old, sha256 }, transaction })) > 0;
    });
    if (gone) await rm(path, { force: true });
  }
}

/** All of it; called now and then by a worker that has nothing else to do. */
export async function purge(): Promise<void> {
  const { varFolder, renditionFolder } = readConfig();
  await purgeDeleted();
  await purgeFolder(renditionFolder, MOST_VIEW_BYTES);
  await purgeFolder(join(varFolder, 'memory'), MOST_MEMORY_BYTES);
}
