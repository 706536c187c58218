/** Readings of a session, newest first. */
import { col, fn, Op } from 'sequelize';
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
