/**
 * Cards of sessions: what lists show of them, and the words by which they are found. A card is made of its session and its newest readings; it
 * says of which, so that an outdated one is known. None of it is anybody's data: cards are made again whenever they are wanted.
 */
import { QueryTypes } from 'sequelize';
import { atomically, store } from './database';
import { asProgram } from './who';

export interface Card {
  sessionId: string;
  /** State of the session that it was made of, milliseconds since 1970. */
  sessionAt: number;
  /** Readings that it was made of; 0 before the first. */
  readingId: number;
  /** Names whatever else it depends on, 16 characters. */
  madeBy: string;
  /** What a list shows. */
  entry: object;
}

/** What a session is found by, and stands by in lists. */
export interface CardTerms {
  title: string;
  /** When the session was made. */
  begunAt: Date;
  /** Any texts beside the title. */
  texts: readonly (string | null)[];
  /** ISO 8601. */
  day: string;
  camera: string | null;
  kits: readonly string[];
}

export interface CardQuery {
  /** Each word of it must begin a word of the session's; empty finds all. */
  text: string;
  /** Exact names; empty for any. */
  kit: string;
  camera: string;
  sort: 'newest' | 'day' | 'title';
}

/** Shorter words aren't in the index (`innodb_ft_min_token_size`). */
const SHORTEST = 3;
/** Words that the index leaves out, by MariaDB's own list. */
const UNINDEXED = new Set(
  'about are com for from how that the this was what when where who will with und www'.split(' '),
);

/** A text as words: letters and digits, lower case. */
export const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

/** Titles in the order in which people count: `weir 2` before `Weir 10`. */
const titleKeyOf = (title: string): string =>
  title
    .toLowerCase()
    .replace(/\d+/g, (digits) => digits.padStart(9, '0'))
    .slice(0, 190);

const select = <T extends object>(sql: string, replacements: Record<string, unknown> = {}): Promise<T[]> =>
  store().sequelize.query<T>(sql, { replacements, type: QueryTypes.SELECT });

/** Cards by their sessions. */
export async function readCards(sessionIds: readonly string[]): Promise<Map<string, Card>> {
  if (sessionIds.length === 0) return new Map();
  const rows = await store().models.SessionCard.findAll({ where: { sessionId: [...sessionIds] } });
  return new Map(
    rows.map(({ sessionId, sessionAt, readingId, madeBy, entry }) => [
      sessionId,
      { sessionId, sessionAt: sessionAt.getTime(), readingId, madeBy, entry },
    ]),
  );
}

/** Keeps a card in place of the one before; of a session that has gone meanwhile nothing is kept. Written in the program's own name. */
export async function writeCard(card: Card, { title, begunAt, texts, day, camera, kits }: CardTerms): Promise<void> {
  const { SessionCard } = store().models;
  // Begins with a space, so that a word's beginning is found without the index too.
  const words = ` ${[title, ...texts].flatMap((text) => wordsOf(text ?? '')).join(' ')}`.slice(0, 20_000);
  await asProgram(() =>
    atomically(async (transaction) => {
      const [there] = await store().sequelize.query('SELECT id FROM sessions WHERE id = :id LOCK IN SHARE MODE', { replacements: { id: card.sessionId }, transaction, type: QueryTypes.SELECT }); // prettier-ignore
      if (!there) return;
      await SessionCard.upsert(
        { ...card, sessionAt: new Date(card.sessionAt), words, day: day.slice(0, 10), camera: (camera ?? '').slice(0, 190), titleKey: titleKeyOf(title), begunAt }, // prettier-ignore
        { transaction },
      );
      await store().sequelize.query('DELETE FROM session_card_kits WHERE session_id = :id', { replacements: { id: card.sessionId }, transaction }); // prettier-ignore
      for (const name of new Set(kits.map((kit) => kit.slice(0, 190))))
        await store().sequelize.query('INSERT IGNORE INTO session_card_kits (name, session_id, begun_at) SELECT :name, id, created_at FROM sessions WHERE id = :id', { replacements: { name, id: card.sessionId }, transaction }); // prettier-ignore
    }),
  );
}

/** Sessions whose card is missing or of an earlier state of them, newest first. */
export async function outdatedCards(limit: number): Promise<string[]> {
  const rows = await select<{ id: string }>(
    `SELECT s.id FROM sessions s LEFT JOIN session_cards c ON c.session_id = s.id
      LEFT JOIN (SELECT session_id, MAX(id) AS newest FROM readings GROUP BY session_id) r ON r.session_id = s.id
      WHERE s.deleted_at IS NULL
        AND (c.session_id IS NULL OR c.session_at <> s.updated_at OR c.reading_id <> COALESCE(r.newest, 0))
      ORDER BY s.created_at DESC LIMIT :limit`,
    { limit },
  );
  return rows.map(({ id }) => id);
}

/** Names a state of all sessions and readings: while it is the same, no list has changed. */
export async function stateOfLibrary(): Promise<string> {
  const [{ changed, measured }] = await select<{ changed: Date | null; measured: number | null }>(
    'SELECT (SELECT MAX(updated_at) FROM sessions) AS changed, (SELECT MAX(id) FROM readings) AS measured',
  );
  return `${changed ? new Date(changed).getTime() : 0} ${measured ?? 0}`;
}

const ORDERS: Record<CardQuery['sort'], string> = {
  newest: 'c.begun_at DESC',
  day: 'c.day DESC, c.begun_at DESC',
  title: 'c.title_key, c.begun_at DESC',
};

/**
 * Sessions that are wanted, in order, by their cards: those without one aren't found.
 *
 * @returns the first of them, and how many there are
 */
export async function findSessions(query: CardQuery, limit: number): Promise<{ ids: string[]; count: number }> {
  const { text, kit, camera, sort } = query;
  const words = [...new Set(wordsOf(text))];
  const indexed = words.filter((word) => word.length >= SHORTEST && !UNINDEXED.has(word));
  const others = words.filter((word) => !indexed.includes(word));
  // Of signs alone nothing is found by words.
  if (words.length === 0 && text.trim() !== '') return { ids: [], count: 0 };
  const conditions = [
    ...(indexed.length > 0 ? ['MATCH (c.words) AGAINST (:indexed IN BOOLEAN MODE)'] : []),
    ...others.map((_, i) => `c.words LIKE :other${i}`),
    ...(kit ? ['c.session_id IN (SELECT session_id FROM session_card_kits WHERE name = :kit)'] : []),
    ...(camera ? ['c.camera = :camera'] : []),
  ];
  const replacements = {
    indexed: indexed.map((word) => `+${word}*`).join(' '),
    ...Object.fromEntries(others.map((word, i) => [`other${i}`, `% ${word}%`])),
    kit,
    camera,
    limit,
  };
  const isAll = conditions.length === 0;
  // Asked so, cards are walked in the order of the list and the walk ends with the list, where nothing is searched.
  const isThere = 'NOT EXISTS (SELECT 1 FROM sessions s WHERE s.id = c.session_id AND s.deleted_at IS NOT NULL)';
  const rows = await select<{ id: string; count: number }>(
    `SELECT c.session_id AS id, ${isAll ? '(SELECT COUNT(*) FROM sessions WHERE deleted_at IS NULL)' : 'COUNT(*) OVER ()'} AS count
      FROM session_cards c WHERE ${[isThere, ...conditions].join(' AND ')} ORDER BY ${ORDERS[sort]} LIMIT :limit`,
    replacements,
  );
  return { ids: rows.map(({ id }) => id), count: Number(rows.at(0)?.count ?? 0) };
}

/** Names that sessions can be chosen by, each once. */
export async function cardNames(): Promise<{ kits: string[]; cameras: string[] }> {
  const [kits, cameras] = await Promise.all([
    select<{ name: string }>(
      'SELECT DISTINCT k.name FROM session_card_kits k JOIN sessions s ON s.id = k.session_id WHERE s.deleted_at IS NULL',
    ),
    select<{ camera: string }>(
      "SELECT DISTINCT c.camera FROM session_cards c JOIN sessions s ON s.id = c.session_id WHERE s.deleted_at IS NULL AND c.camera <> ''",
    ),
  ]);
  return { kits: kits.map(({ name }) => name), cameras: cameras.map(({ camera }) => camera) };
}

/** Kits asked for in one statement. */
const KITS_AT_ONCE = 100;

/** The newest sessions of each kit of these names, newest first. */
export async function sessionsOfKits(names: readonly string[], ofEach: number): Promise<string[]> {
  const of = (_: string, i: number) =>
    `(SELECT k.session_id AS id, k.begun_at AS begunAt FROM session_card_kits k JOIN sessions s ON s.id = k.session_id AND s.deleted_at IS NULL
      WHERE k.name = :name${i} ORDER BY k.begun_at DESC LIMIT :ofEach)`;
  const found = new Map<string, number>();
  for (let first = 0; first < names.length; first += KITS_AT_ONCE) {
    const some = names.slice(first, first + KITS_AT_ONCE);
    const rows = await select<{ id: string; begunAt: Date }>(some.map(of).join(' UNION ALL '), {
      ...Object.fromEntries(some.map((name, i) => [`name${i}`, name])),
      ofEach,
    });
    for (const { id, begunAt } of rows) found.set(id, new Date(begunAt).getTime());
  }
  return [...found].sort(([, a], [, b]) => b - a).map(([id]) => id);
}
