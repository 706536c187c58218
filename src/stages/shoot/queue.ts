/** The log as this browser knows it, kept in its own database: a reload, a flat battery or a lost line loses no tap. */
import { openDB, type IDBPDatabase } from 'idb';
import type { LogEntry } from '@/core/sitting/planning/shootLog';

const NAME = 'aurora-glade-run-sheet';
const STORE = 'taps';

interface Tap {
  session: string;
  entry: LogEntry;
  /** Whether the server has it. */
  sent: boolean;
}

let database: Promise<IDBPDatabase> | null = null;

function open(): Promise<IDBPDatabase> {
  database ??= openDB(NAME, 2, {
    upgrade(db, from) {
      // Of the first version only what waited was kept; a page that is open on it goes on sending from there.
      if (from < 2) db.createObjectStore(STORE, { keyPath: 'entry.id' }).createIndex('session', 'session');
    },
  });
  return database;
}

/** Keeps a tap until it has been sent. */
export async function keep(session: string, entry: LogEntry): Promise<void> {
  await (await open()).put(STORE, { session, entry, sent: false } satisfies Tap);
}

/** All taps of a session that this browser knows, its own and those that the server told. */
export async function known(session: string): Promise<LogEntry[]> {
  return (await taps(session)).map((one) => one.entry);
}

/** All taps of a session that wait. */
export async function waiting(session: string): Promise<LogEntry[]> {
  return (await taps(session)).filter((one) => !one.sent).map((one) => one.entry);
}

async function taps(session: string): Promise<Tap[]> {
  return (await (await open()).getAllFromIndex(STORE, 'session', session)) as Tap[];
}

/** Taps that the server has. */
export async function noteSent(session: string, entries: readonly LogEntry[]): Promise<void> {
  const transaction = (await open()).transaction(STORE, 'readwrite');
  await Promise.all([
    ...entries.map((entry) => transaction.store.put({ session, entry, sent: true } satisfies Tap)),
    transaction.done,
  ]);
}

/** An id of one tap; pages on plain http have no `randomUUID`. */
export function tapId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}
