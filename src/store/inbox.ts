/** Files that have arrived and belong to no session yet: whatever happens to browser or server, they wait here. */
import { store } from './database';
import type { StoredFacts, StoredFile } from './media';

export interface InboxFile {
  id: number;
  path: string;
  source: 'drop' | 'watch';
  stored: StoredFile;
}

/** Enters a stored file; the same file under the same name is there once. */
export async function addToInbox(path: string, sha256: string, source: InboxFile['source']): Promise<void> {
  const name = path.slice(-500);
  const { Inbox } = store().models;
  await Inbox.findOrCreate({ where: { path: name, sha256 }, defaults: { path: name, sha256, source } });
}

/** How many files wait. */
export async function countInbox(): Promise<number> {
  return store().models.Inbox.count();
}

/** All that waits, in the order of arrival. */
export async function listInbox(): Promise<InboxFile[]> {
  const { Inbox, File } = store().models;
  const rows = await Inbox.findAll({ order: [['id', 'ASC']] });
  const files = await File.findAll({ where: { sha256: [...new Set(rows.map((row) => row.sha256))] } });
  const bySha = new Map(files.map((file) => [file.sha256, file]));
  return rows.flatMap(({ id, path, source, sha256 }) => {
    const file = bySha.get(sha256);
    if (!file) return [];
    const stored = { sha256, bytes: Number(file.bytes), facts: file.facts as unknown as StoredFacts };
    return [{ id, path, source, stored }];
  });
}

/** Takes files out, under whatever name they came: they were laid, or put away. */
export async function clearInbox(hashes: readonly string[]): Promise<void> {
  if (hashes.length > 0) await store().models.Inbox.destroy({ where: { sha256: [...hashes] } });
}
