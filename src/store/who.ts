/**
 * Who a request is of. The web server says it once, before the framework sees the request; whatever works for it can ask, however deep. On
 * loopback nobody signs in: that is the desk, which may do everything.
 */
import { AsyncLocalStorage } from 'node:async_hooks';
import { DOOR_WORDS } from '@/core/words/door';

/** Owners look after people and rating limits, reviewers change sessions, kits and reports, readers look. */
export const ROLES = ['owner', 'reviewer', 'reader'] as const;
export type Role = (typeof ROLES)[number];

export interface Who {
  /** `null` for the desk. */
  account: number | null;
  signIn: number | null;
  name: string;
  role: Role;
  address: string;
  /** Whether anything was written in this name: set by the store. */
  wrote?: boolean;
}

const DESK: Who = { account: null, signIn: null, name: 'the desk', role: 'owner', address: '127.0.0.1' };

// Web server and framework are bundled apart, and would have one each.
const KEY = Symbol.for('aurora-glade.who');
const shared = globalThis as { [KEY]?: AsyncLocalStorage<Who> };
const storage = (shared[KEY] ??= new AsyncLocalStorage<Who>());

/** A reader's request asked for something to be changed; the message is the door's. */
class ReadersOnly extends Error {
  override readonly name = 'ReadersOnly';

  constructor() {
    super(DOOR_WORDS.reader);
  }
}

/** Whether a reader was kept from a change. By name: the store that throws may be of another bundle than who asks. */
export const isReadersOnly = (error: unknown): error is Error => error instanceof Error && error.name === 'ReadersOnly';

const READS = /^\s*(SELECT|SHOW|START|COMMIT|ROLLBACK|SET|SAVEPOINT)\b/i;
/** Signing in and out is no change of anything but oneself. */
const OWN_TABLES = /^\s*(INSERT INTO|UPDATE|DELETE FROM)\s+`(sign_ins|passkeys|accounts|doings)`/i;

/**
 * Looks at a statement before the database gets it: whatever code a reader's request reaches, it writes nothing.
 *
 * @throws Error that {@link isReadersOnly} knows
 */
export function watchStatement(sql: string): void {
  const person = storage.getStore();
  if (!person || READS.test(sql) || OWN_TABLES.test(sql)) return;
  if (person.role === 'reader') throw new ReadersOnly();
  person.wrote = true;
}

export const who = (): Who => storage.getStore() ?? DESK;

/** Does a work that no person asked for, such as remembering what was made of their data, in the program's own name. */
export const asProgram = <T>(work: () => T): T => storage.run(DESK, work);

/** Does a work, and all that it starts, in somebody's name. */
export const actingAs = <T>(one: Who, work: () => T): T => storage.run(one, work);
