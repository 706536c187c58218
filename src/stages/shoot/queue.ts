/** Taps that wait to be sent, kept in the browser's own database: a reload, a flat battery or a lost line loses none. */
import { openDB, type IDBPDatabase } from 'idb';
import type { LogEntry } from '@/core/planning';

const NAME = 'aurora-glade-run-sheet';
const STORE = 'waiting';

interface Waiting {
  session: string;
  entry: LogEntry;
}

let database: Promise<IDBPDatabase> | null = null;

function open(): Promise<IDBPDatabase> {
  database ??= openDB(NAME, 1, {
    upgrade(db) {
      db.createObjectStore(STORE, { keyPath: 'entry.id' }).createIndex('session', 'session');
    },
  });
  return database;
}

/** Keeps a tap until it has been sent. */
export async function keep(session: string, entry: LogEntry): Promise<void> {
  await (await open()).put(STORE, { session, entry } satisfies Waiting);
}

/** All taps of a session that wait. */
export async function waiting(session: string): Promise<LogEntry[]> {
  const list = (await (await open()).getAllFromIndex(STORE, 'session', session)) as Waiting[];
  return list.map((one) => one.entry);
}

/** Taps that the server has. */
export async function forget(ids: readonly string[]): Promise<void> {
  const transaction = (await open()).transaction(STORE, 'readwrite');
  await Promise.all([...ids.map((id) => transaction.store.delete(id)), transaction.done]);
}

/** An id of one tap; pages on plain http have no `randomUUID`. */
export function tapId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}
