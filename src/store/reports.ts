/** Frozen versions of reports, and the links by which they are read. */
import { createHash, randomBytes } from 'node:crypto';
import { Op } from 'sequelize';
import { reportSchema, type Report } from '@/core/exports/report';
import { atomically, store } from './database';
import type { Json } from './models';
import { ShelfError } from './shelf';

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

/**
 * Puts a stored picture, or what is to be carried, behind a report's others; what others write of it meanwhile stays. Rejects with ShelfError
 * where there are too many.
 *
 * @returns whether there is such a report
 */
export async function addToReport(
  reportId: string,
  { pictures = [], carry = [] }: Partial<Pick<Report, 'pictures' | 'carry'>>,
): Promise<boolean> {
  return atomically(async (transaction) => {
    const where = { id: reportId, deletedAt: null };
    const row = await store().models.Report.findOne({ where, transaction, lock: transaction.LOCK.UPDATE });
    if (!row) return false;
    const report = reportSchema.parse(row.data);
    const wanted = reportSchema.safeParse({
      ...report,
      pictures: [...report.pictures, ...pictures],
      carry: [...report.carry, ...carry],
    });
    if (!wanted.success) throw new ShelfError(wanted.error.issues[0].message);
    await row.update({ data: wanted.data as unknown as Json, revision: row.revision + 1 }, { transaction });
    return true;
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

/** Links hold so long. */
export const LINK_DAYS = 90;
const DAY_MS = 86_400_000;

export interface ReportLink {
  token: string;
  until: Date;
}

/** Makes a link by which a report is read; one that held until now ends. */
export async function makeLink(reportId: string, now = Date.now()): Promise<ReportLink> {
  const link = { token: randomBytes(16).toString('hex'), until: new Date(now + LINK_DAYS * DAY_MS) };
  const { ReportLink } = store().models;
  await atomically(async (transaction) => {
    await ReportLink.destroy({ where: { reportId }, transaction });
    await ReportLink.create({ reportId, ...link }, { transaction });
  });
  return link;
}

/** From now on nobody reads the report by a link. */
export async function endLinks(reportId: string): Promise<void> {
  await store().models.ReportLink.destroy({ where: { reportId } });
}

/** The link of a report that holds; `null` where none does. */
export async function linkOf(reportId: string, now = Date.now()): Promise<ReportLink | null> {
  const row = await store().models.ReportLink.findOne({ where: { reportId, until: { [Op.gt]: new Date(now) } } });
  return row && { token: row.token, until: row.until };
}

/** The report that a link opens; `null` where it opens none, or not any more. */
export async function reportByLink(token: string, now = Date.now()): Promise<{ id: string; report: Report } | null> {
  if (!/^[0-9a-f]{32}$/.test(token)) return null;
  const { ReportLink, Report } = store().models;
  const link = await ReportLink.findOne({ where: { token, until: { [Op.gt]: new Date(now) } } });
  const row = link && (await Report.findOne({ where: { id: link.reportId, deletedAt: null } }));
  return row && { id: row.id, report: reportSchema.parse(row.data) };
}
