/** Readings of a session, newest first. */
import { col, fn, Op, QueryTypes } from 'sequelize';
import type { Readings } from '@/core/session/readings';
import { store } from './database';

export interface StoredReadings {
  id: number;
  readings: Readings;
  inputHash: string;
  createdAt: Date;
}

/** The newest readings of a session; `null` before the first. */
export async function latestReadings(sessionId: string): Promise<StoredReadings | null> {
  const row = await store().models.Readings.findOne({ where: { sessionId }, order: [['id', 'DESC']] });
  return (
    row && {
      id: row.id,
      readings: row.document as unknown as Readings,
      inputHash: row.inputHash,
      createdAt: row.createdAt,
    }
  );
}

/** Ids of the newest readings of several sessions: they grow with every measurement. */
export async function latestReadingIds(sessionIds: readonly string[]): Promise<Map<string, number>> {
  if (sessionIds.length === 0) return new Map();
  const rows = (await store().models.Readings.findAll({
    where: { sessionId: { [Op.in]: [...sessionIds] } },
    attributes: ['sessionId', [fn('MAX', col('id')), 'newest']],
    group: ['sessionId'],
    raw: true,
  })) as unknown as { sessionId: string; newest: number }[];
  return new Map(rows.map((row) => [row.sessionId, Number(row.newest)]));
}

/** Sessions that were measured, newest first, with their newest readings. */
export async function measuredIds(limit: number): Promise<{ id: string; updatedAt: Date; readingId: number }[]> {
  const rows = await store().sequelize.query<{ id: string; updatedAt: Date | string; readingId: number }>(
    // Walked from the newest session on: the walk ends with the list.
    `SELECT s.id, s.updated_at AS updatedAt, (SELECT MAX(r.id) FROM readings r WHERE r.session_id = s.id) AS readingId
      FROM sessions s WHERE s.deleted_at IS NULL AND EXISTS (SELECT 1 FROM readings r WHERE r.session_id = s.id)
      ORDER BY s.created_at DESC LIMIT :limit`,
    { replacements: { limit }, type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ ...row, updatedAt: new Date(row.updatedAt), readingId: Number(row.readingId) }));
}
