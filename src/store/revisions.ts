/** A session as its edits left it, one after the other: what undo and history are made of. */
import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import { Op, type Transaction } from 'sequelize';
import { changeOf, differences, type Change } from '@/core/session/edits';
import { store } from './database';
import type { Json } from './models';
import { who } from './who';

/** Revisions kept of a session: more than history shows, since a patch that is dragged makes several. */
const KEPT = 200;
/** Changes that are told of one edit; a table filled anew has thousands. */
const MOST_CHANGES = 40;

const [pack, unpack] = [promisify(deflate), promisify(inflate)];

/** Taps on the run sheet and votes only grow, by themselves, and are no edits: a revision has none, and bringing one back leaves them. */
function withoutTaps({ blindRounds: _, ...document }: Json): Json {
  if (typeof document.plan !== 'object' || document.plan === null) return document;
  const { log: __, ...plan } = document.plan as Json;
  return { ...document, plan };
}

/** A document as it was, with the taps and votes that there are now. */
export function withTapsOf(document: Json, now: Json): Json {
  const log = (now.plan as Json | undefined)?.log;
  return {
    ...document,
    ...(log === undefined ? {} : { plan: { ...((document.plan as Json) ?? {}), log } }),
    ...(now.blindRounds === undefined ? {} : { blindRounds: now.blindRounds }),
  };
}

/** Revisions of one session within a transaction that holds it. */
export class Revisions {
  constructor(
    private readonly sessionId: string,
    private readonly transaction: Transaction,
  ) {}

  /** The document of a revision; `null` where it is kept no more, or never was. */
  async documentAt(number: number): Promise<Json | null> {
    const { sessionId, transaction } = this;
    const row = await store().models.Revision.findOne({ where: { sessionId, number }, transaction });
    return row && (JSON.parse((await unpack(row.document)).toString('utf8')) as Json);
  }

  /** Keeps where an edit led, and before the first one where it began. @returns its number; `null` where nothing changed */
  async keep(before: Json, after: Json): Promise<number | null> {
    const { sessionId, transaction } = this;
    const { Revision } = store().models;
    const [old, now] = [withoutTaps(before), withoutTaps(after)];
    const changes = differences(old, now).map(changeOf);
    if (changes.length === 0) return null;
    const last = ((await Revision.max('number', { where: { sessionId }, transaction })) as number | null) ?? 0;
    const { account, name } = who();
    const author = account === null ? null : name;
    const row = async (number: number, document: Json, told: Change[]) => ({
      sessionId,
      number,
      author: told.length === 0 ? null : author,
      document: await pack(JSON.stringify(document)),
      changes: told.slice(0, MOST_CHANGES) as unknown as Json[],
    });
    const rows = last === 0 ? [await row(1, old, [])] : [];
    const number = Math.max(last, 1) + 1;
    await Revision.bulkCreate([...rows, await row(number, now, changes)], { transaction });
    await Revision.destroy({ where: { sessionId, number: { [Op.lte]: number - KEPT } }, transaction });
    return number;
  }
}

export interface RevisionSummary {
  number: number;
  at: Date;
  /** Who made it; `null` for the desk. */
  author: string | null;
  /** What the edit did; none for the session as it was made. */
  changes: Change[];
}

/** Revisions of a session, last first. */
export async function listRevisions(sessionId: string): Promise<RevisionSummary[]> {
  const rows = await store().models.Revision.findAll({
    where: { sessionId },
    attributes: ['number', 'changes', 'author', 'createdAt'],
    order: [['number', 'DESC']],
  });
  return rows.map((row) => ({
    number: row.number,
    at: row.createdAt,
    author: row.author,
    changes: row.changes as unknown as Change[],
  }));
}
