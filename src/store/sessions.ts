/** Sessions in the store: taken apart into rows, put together again without loss. */
import { createHash, randomUUID } from 'node:crypto';
import { Op, type Transaction } from 'sequelize';
import { parseSession, SessionError } from '@/core/session/parse';
import type { Session } from '@/core/session/schema';
import { GENERATOR } from '@/core/version';
import { atomically, atOneMoment, store } from './database';
import type { Json } from './models';
import { Revisions } from './revisions';

/** Where the lists of a session file live: keys of the file that are tables of their own. */
const LISTS = ['kits', 'kit', 'scenes', 'takes', 'patches', 'rig'] as const;

/** A session that isn't in the store (any more). */
export class NoSuchSession extends Error {
  constructor(id: string) {
    super(`There is no session ${id}.`);
  }
}

/** For a list from which a session may have been put away meanwhile: `null` for that one, every other error goes on. */
export function nullIfGone(error: unknown): null {
  if (error instanceof NoSuchSession) return null;
  throw error;
}

/**
 * Stores a session.
 *
 * @param document the session file's JSON; checked, and kept with its unknown keys
 * @param files which stored file (SHA-256) each path stands for; paths without one are kept as missing
 * @returns the new session's id
 * @throws SessionError when the document isn't a session
 */
export async function createSession(document: unknown, files: ReadonlyMap<string, string>): Promise<string> {
  parseSession(document);
  const id = randomUUID();
  await atomically((transaction) => writeSession(id, document as Json, files, transaction, true));
  return id;
}

/**
 * Changes a session's JSON inside one transaction, so that two windows don't lose each other's edits, and keeps what it leads to as a
 * revision.
 *
 * @param change gets the document as it is now, and its revisions; may run several times
 * @param files stored files (SHA-256) of paths that the change brings
 * @returns the revision's number, by which the edit can be taken back; `null` where nothing but taps and votes came
 * @throws NoSuchSession; SessionError when the change doesn't lead to a session; what `change` throws
 */
export async function editSession(
  id: string,
  change: (document: Json, revisions: Revisions) => Json | Promise<Json>,
  files: ReadonlyMap<string, string> = new Map(),
): Promise<number | null> {
  return atomically(async (transaction) => {
    await lockSession(id, transaction);
    const revisions = new Revisions(id, transaction);
    const before = await readDocument(id, transaction);
    const document = await change(before, revisions);
    parseSession(document);
    await writeSession(id, document, files, transaction, false);
    return revisions.keep(before, document);
  });
}

async function lockSession(id: string, transaction: Transaction): Promise<void> {
  const row = await store().models.Session.findOne({
    where: { id, deletedAt: null },
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  if (!row) throw new NoSuchSession(id);
}

async function writeSession(
  id: string,
  document: Json,
  files: ReadonlyMap<string, string>,
  transaction: Transaction,
  isNew: boolean,
): Promise<void> {
  const { Rig, Session: SessionRow, Kit, Filter, Scene, Take, Patch, SessionFile } = store().models;
  const kits = listOf('kits' in document ? document.kits : 'kit' in document ? [document.kit] : []);
  const rig = (document.rig ?? null) as Json | null;
  // The file's own order of keys, with lists cut out: a round trip gives the same file back.
  const frame = Object.fromEntries(
    Object.entries(document).map(([key, value]) => [key, (LISTS as readonly string[]).includes(key) ? null : value]),
  );
  const title = String(document.title ?? 'Untitled session').slice(0, 500);
  const rigName = String(rig?.camera ?? 'Unnamed rig').slice(0, 190);
  if (isNew) {
    const rigRow = await Rig.create({ name: rigName, data: rig ?? {} }, { transaction });
    await SessionRow.create({ id, title, rigId: rigRow.id, data: { frame, hasRig: rig !== null } }, { transaction });
  } else {
    const row = await SessionRow.findByPk(id, { transaction });
    if (!row) throw new NoSuchSession(id);
    await Rig.update({ name: rigName, data: rig ?? {} }, { where: { id: row.rigId }, transaction });
    // Also where only a list of it changed: what was made of the session before is known by its time.
    await SessionRow.update({ title, data: { frame, hasRig: rig !== null } }, { where: { id }, transaction });
    for (const model of [Filter, Kit, Scene, Take, Patch])
      await model.destroy({ where: { sessionId: id }, transaction });
  }
  if (files.size > 0)
    await SessionFile.bulkCreate(
      [...files].map(([path, sha256]) => ({ sessionId: id, path, sha256 })),
      { transaction },
    );
  for (const [position, kit] of kits.entries()) {
    const { filters, ...data } = kit;
    const order = Object.keys(kit);
    const row = await Kit.create(
      { sessionId: id, key: String(kit.id ?? 'kit'), position, data: { order, data } },
      { transaction },
    );
    await Filter.bulkCreate(
      listOf(filters).map((filter, index) => ({
        sessionId: id,
        kitId: row.id,
        key: String(filter.id),
        position: index,
        data: filter,
      })),
      { transaction },
    );
  }
  const rows = (list: unknown) =>
    listOf(list).map((data, position) => ({ sessionId: id, key: String(data.id), position, data }));
  await Scene.bulkCreate(rows(document.scenes), { transaction });
  await Take.bulkCreate(
    rows(document.takes).map((row) => ({
      ...row,
      sceneKey: String(row.data.scene),
      filterKey: row.data.filter === null ? null : String(row.data.filter),
    })),
    { transaction },
  );
  await Patch.bulkCreate(
    rows(document.patches).map((row) => ({ ...row, sceneKey: String(row.data.scene) })),
    { transaction },
  );
}

function listOf(value: unknown): Json[] {
  return Array.isArray(value) ? (value as Json[]) : [];
}

async function readDocument(id: string, transaction: Transaction): Promise<Json> {
  const { Rig, Session: SessionRow, Kit, Filter, Scene, Take, Patch } = store().models;
  const row = await SessionRow.findOne({ where: { id, deletedAt: null }, transaction });
  if (!row) throw new NoSuchSession(id);
  const query = { where: { sessionId: id }, order: [['position', 'ASC']] as [string, string][], transaction };
  const [rig, kits, filters, scenes, takes, patches] = await Promise.all([
    Rig.findByPk(row.rigId, { transaction }),
    Kit.findAll(query),
    Filter.findAll(query),
    Scene.findAll(query),
    Take.findAll(query),
    Patch.findAll(query),
  ]);
  const kitList = kits.map((kit) => {
    const { order, data } = kit.data as { order: string[]; data: Json };
    const own = filters.filter((filter) => filter.kitId === kit.id).map((filter) => filter.data);
    return Object.fromEntries(order.map((key) => [key, key === 'filters' ? own : data[key]]));
  });
  const lists: Json = {
    kits: kitList,
    kit: kitList[0],
    rig: rig?.data,
    scenes: scenes.map((one) => one.data),
    takes: takes.map((one) => one.data),
    patches: patches.map((one) => one.data),
  };
  const { frame } = row.data as { frame: Json };
  const document = Object.fromEntries(
    Object.entries(frame).map(([key, value]) => [key, key in lists ? lists[key] : value]),
  );
  // Lists that the file didn't have and an edit brought.
  for (const key of ['patches', 'kits'] as const)
    if (!(key in document) && !(key === 'kits' && 'kit' in document) && (lists[key] as unknown[]).length > 0)
      document[key] = lists[key];
  return document;
}

export interface LoadedSession {
  id: string;
  session: Session;
  /** The session file's JSON as it was given, with unknown keys. */
  document: Json;
  /** SHA-256 by path. */
  files: Map<string, string>;
  updatedAt: Date;
}

/** A session with its files. Throws NoSuchSession; SessionError can't happen for what was stored by this program. */
export async function loadSession(id: string): Promise<LoadedSession> {
  const [document, links, row] = await atOneMoment((transaction) =>
    Promise.all([
      readDocument(id, transaction),
      store().models.SessionFile.findAll({ where: { sessionId: id }, transaction }),
      store().models.Session.findByPk(id, { transaction }),
    ]),
  );
  return {
    id,
    document,
    session: parseSession(document),
    files: new Map(links.map((link) => [link.path, link.sha256])),
    updatedAt: row?.updatedAt ?? new Date(0),
  };
}

export interface SessionSummary {
  id: string;
  title: string;
  createdAt: Date;
  updatedAt: Date;
  takes: number;
  filters: number;
}

/**
 * Sessions, newest first.
 *
 * @param among ids of those that are asked for; all when left out
 */
export async function listSessions(limit = 200, among?: readonly string[]): Promise<SessionSummary[]> {
  if (among?.length === 0) return [];
  const { Session: SessionRow, Take, Filter } = store().models;
  const rows = await SessionRow.findAll({
    where: { deletedAt: null, ...(among ? { id: [...among] } : {}) },
    attributes: ['id', 'title', 'createdAt', 'updatedAt'],
    order: [['createdAt', 'DESC']],
    limit,
  });
  const ids = rows.map((row) => row.id);
  const countBy = async (model: typeof Take | typeof Filter) => {
    const counted = (await (model as typeof Take).count({
      where: { sessionId: { [Op.in]: ids } },
      group: ['sessionId'],
    })) as unknown as { sessionId: string; count: number }[];
    return new Map(counted.map((one) => [one.sessionId, Number(one.count)]));
  };
  const [takes, filters] =
    ids.length > 0 ? await Promise.all([countBy(Take), countBy(Filter)]) : [new Map(), new Map()];
  return rows.map((row) => ({
    id: row.id,
    title: row.title,
    createdAt: row.createdAt,
    updatedAt: row.updatedAt,
    takes: takes.get(row.id) ?? 0,
    filters: filters.get(row.id) ?? 0,
  }));
}

/** How many sessions there are. */
export async function countSessions(): Promise<number> {
  return store().models.Session.count({ where: { deletedAt: null } });
}

/** Puts a session away; it can be brought back for 30 days. */
export async function deleteSession(id: string): Promise<void> {
  await store().models.Session.update({ deletedAt: new Date() }, { where: { id, deletedAt: null } });
}

/** Brings a session back that was put away. */
export async function restoreSession(id: string): Promise<void> {
  await store().models.Session.update({ deletedAt: null }, { where: { id } });
}

/** Keys of a session that no figure depends on: what it is called, what was planned and tapped, and votes of blind viewing. */
const NO_FIGURES = ['title', 'place', 'date', 'notes', 'plan', 'blindRounds'];

/** Hash of all that readings depend on: the document, the files' content and the program's version. */
export function inputHash(loaded: Pick<LoadedSession, 'session' | 'files'>): string {
  const files = [...loaded.files].sort(([a], [b]) => (a < b ? -1 : 1));
  const measured = Object.fromEntries(Object.entries(loaded.session).filter(([key]) => !NO_FIGURES.includes(key)));
  return createHash('sha256')
    .update(JSON.stringify([GENERATOR, measured, files]))
    .digest('hex');
}

export { SessionError };
