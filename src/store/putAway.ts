/** What was put away and can still be brought back: sessions, kits, rigs, other benches, reports. */
import { Op } from 'sequelize';
import { store } from './database';
import { KEPT_DAYS } from './purge';

export const PUT_AWAY_KINDS = ['session', 'kit', 'rig', 'bench', 'report'] as const;
export type PutAwayKind = (typeof PUT_AWAY_KINDS)[number];

export interface PutAway {
  kind: PutAwayKind;
  id: string;
  name: string;
  /** When it was put away, and until when it can be brought back; `null` for reports with frozen versions, which stay. */
  at: Date;
  until: Date | null;
}

/** More than this many are no person's doing; the last ones are shown. */
const SHOWN = 500;
const DAY_MS = 86_400_000;

/** Everything that is put away, last first. */
export async function listPutAway(): Promise<PutAway[]> {
  const { Session, ShelfKit, ShelfRig, OtherBench, Report, ReportVersion } = store().models;
  const gone = {
    where: { deletedAt: { [Op.ne]: null } },
    order: [['deletedAt', 'DESC']] as [string, string][],
    limit: SHOWN,
  };
  const [sessions, kits, rigs, benches, reports, frozen] = await Promise.all([
    Session.findAll({ ...gone, attributes: ['id', 'title', 'deletedAt'] }),
    ShelfKit.findAll({ ...gone, attributes: ['id', 'name', 'deletedAt'] }),
    ShelfRig.findAll({ ...gone, attributes: ['id', 'name', 'deletedAt'] }),
    OtherBench.findAll({ ...gone, attributes: ['id', 'name', 'deletedAt'] }),
    Report.findAll({ ...gone, attributes: ['id', 'name', 'deletedAt'] }),
    ReportVersion.findAll({ attributes: ['reportId'], group: ['reportId'] }),
  ]);
  const of = (kind: PutAwayKind, id: string, name: string, at: Date | null): PutAway => ({
    kind,
    id,
    name,
    at: at!,
    until: new Date(at!.getTime() + KEPT_DAYS * DAY_MS),
  });
  return [
    ...sessions.map((row) => of('session', row.id, row.title, row.deletedAt)),
    ...kits.map((row) => of('kit', row.id, row.name, row.deletedAt)),
    ...rigs.map((row) => of('rig', row.id, row.name, row.deletedAt)),
    ...benches.map((row) => of('bench', row.id, row.name, row.deletedAt)),
    ...reports.map((row) => ({
      ...of('report', row.id, row.name, row.deletedAt),
      ...(frozen.some((version) => version.reportId === row.id) ? { until: null } : {}),
    })),
  ].sort((a, b) => b.at.getTime() - a.at.getTime());
}
