/** Frozen versions of reports, and the links by which they are read. */
import { createHash } from 'node:crypto';
import { col, fn, Op, where } from 'sequelize';
import { reportSchema, type Report } from '@/core/exports/report';
import { atomically, store } from './database';
import type { Json } from './models';

export interface ReportVersion {
  number: number;
  /** SHA-256 of the document as JSON. */
  hash: string;
  frozenAt: Date;
}

/** Keeps a report with its figures as they are now; nothing changes it any more. */
export async function freezeReport(reportId: string, document: Json): Promise<ReportVersion> {
  const { ReportVersion } = store().models;
  const hash = createHash('sha256').update(JSON.stringify(document)).digest('hex');
  return atomically(async (transaction) => {
    const last = Number((await ReportVersion.max('number', { where: { reportId }, transaction })) ?? 0);
    const row = await ReportVersion.create({ reportId, number: last + 1, hash, document }, { transaction });
    return { number: row.number, hash, frozenAt: row.createdAt };
  });
}

/** Versions of a report, newest first. */
export async function reportVersions(reportId: string): Promise<ReportVersion[]> {
  const rows = await store().models.ReportVersion.findAll({
    where: { reportId },
    attributes: ['number', 'hash', 'createdAt'],
    order: [['number', 'DESC']],
  });
  return rows.map(({ number, hash, createdAt }) => ({ number, hash, frozenAt: createdAt }));
}

/** A frozen version whole; `null` where there is none. */
export async function readVersion(
  reportId: string,
  number: number,
): Promise<(ReportVersion & { document: Json }) | null> {
  const row = await store().models.ReportVersion.findOne({ where: { reportId, number } });
  return row && { number: row.number, hash: row.hash, frozenAt: row.createdAt, document: row.document };
}

/** The report that a link opens; `null` where no report has it. */
export async function reportByLink(link: string): Promise<{ id: string; report: Report } | null> {
  if (!/^[0-9a-f]{32}$/.test(link)) return null;
  // A dollar sign in a text would be taken for a bound value's.
  const path = fn('CONCAT', fn('CHAR', 36), '.link');
  const row = await store().models.Report.findOne({
    where: { [Op.and]: [{ deletedAt: null }, where(fn('JSON_VALUE', col('data'), path), link)] },
  });
  return row && { id: row.id, report: reportSchema.parse(row.data) };
}
