'use server';

import { revalidatePath } from 'next/cache';
import { greatest } from 'd3-array';
import { z } from 'zod';
import type { Report } from '@/core/exports/report';
import { carryAskSchema, type CarryAsked } from '@/core/judging/carry/asked';
import { kitKey } from '@/core/judging/ranking/figures';
import {
  addToReport,
  endLinks,
  freezeReport,
  listReports,
  loadSession,
  makeLink,
  putReportAway,
  readReport,
  writeReport,
} from '@/store';
import { AskedError, attempt, idSchema, MOST, taken, type ActionResult } from './asked';
import { measuredSessions } from './across';
import { reportFigures } from './reportFigures';
import type { Kept } from './shelfActions';

const MOST_LISTED = 50;

async function keep(work: () => Promise<{ id: string; revision: number }>): Promise<Kept> {
  return attempt(async () => {
    const { id, revision } = await work();
    revalidatePath('/reports');
    return { id, revision };
  });
}

/** Writes a report that was changed. What a report must be, the store itself says. */
export async function keepReportAction(report: Report, place: { id: string; revision: number }): Promise<Kept> {
  return keep(() => writeReport(report, taken(z.object({ id: idSchema, revision: z.number().int().min(0) }), place)));
}

/** Begins a report of sessions. */
export async function newReportAction(sessions: string[]): Promise<Kept> {
  return keep(async () => {
    const ids = taken(z.array(idSchema).min(1, 'Choose a session.').max(MOST), sessions);
    const titles = await Promise.all(ids.slice(0, 3).map(async (id) => (await loadSession(id)).session.title));
    return writeReport({ title: titles.join(' and ') || 'A report', sessions: ids });
  });
}

const pictureSchema = z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/), caption: z.string().max(500) });

/** Reports that a picture can go into, last changed first. */
export async function reportsAction(): Promise<{ id: string; title: string }[]> {
  return (await listReports()).slice(0, MOST_LISTED).map(({ id, name }) => ({ id, title: name }));
}

/** Puts a stored picture at the end of a report's; what others write of it meanwhile stays. */
export async function addPictureAction(
  reportId: string,
  picture: { sha256: string; caption: string },
): Promise<ActionResult> {
  return attempt(async () => {
    const id = taken(idSchema, reportId);
    const added = taken(pictureSchema, picture);
    if (!(await addToReport(id, { pictures: [added] }))) throw new AskedError('There is no such report any more.');
    revalidatePath(`/reports/${id}`);
  });
}

/**
 * Puts a question of what to carry at the end of a report's.
 *
 * @param place a report, or kits: a new report of the sessions in which they were measured last
 */
export async function addCarryAction(place: string | { kits: string[] }, carry: CarryAsked): Promise<Kept> {
  return keep(async () => {
    const wanted = taken(z.union([idSchema, z.object({ kits: z.array(z.string()).max(MOST) })]), place);
    const asked = taken(carryAskSchema, carry);
    if (typeof wanted !== 'string') {
      const sessions = await newestOf(wanted.kits);
      if (sessions.length === 0) throw new AskedError('None of these kits has a measured session any more.');
      return writeReport({ title: 'What to carry', sessions, carry: [asked] });
    }
    if (!(await addToReport(wanted, { carry: [asked] }))) throw new AskedError('There is no such report any more.');
    revalidatePath(`/reports/${wanted}`);
    return { id: wanted, revision: (await readReport(wanted))!.revision };
  });
}

/** The session in which each kit was measured last, each once. */
async function newestOf(kits: readonly string[]): Promise<string[]> {
  const { sessions } = await measuredSessions();
  const newest = kits.map((kit) =>
    greatest(
      sessions.filter(({ sittings }) => sittings.some((one) => kitKey(one.kit) === kit)),
      ({ day }) => day ?? 0,
    ),
  );
  return [...new Set(newest.flatMap((one) => one?.id ?? []))];
}

/** Keeps the report with its figures as they are now. */
export async function freezeAction(
  reportId: string,
): Promise<{ ok: true; number: number } | { ok: false; error: string }> {
  return attempt(async () => {
    const id = taken(idSchema, reportId);
    const found = await readReport(id);
    if (!found) throw new AskedError('There is no such report any more.');
    const figures = await reportFigures(found.item);
    if (figures.sessions.length === 0)
      throw new AskedError('None of its sessions is measured: there is nothing to freeze yet.');
    const { number } = await freezeReport(id, { report: found.item, figures });
    revalidatePath(`/reports/${id}`);
    return { number };
  });
}

/** A link by which a report is read, and until when. */
export interface LinkView {
  token: string;
  until: string;
}

/** Makes a link by which whoever has it reads the report; one that was there ends. */
export async function makeLinkAction(
  reportId: string,
): Promise<{ ok: true; link: LinkView } | { ok: false; error: string }> {
  return attempt(async () => {
    const id = taken(idSchema, reportId);
    if (!(await readReport(id))) throw new AskedError('There is no such report any more.');
    const { token, until } = await makeLink(id);
    return { link: { token, until: until.toISOString() } };
  });
}

/** Ends the link of a report. */
export async function endLinkAction(reportId: string): Promise<ActionResult> {
  return attempt(() => endLinks(taken(idSchema, reportId)));
}

/** Puts a report away for 30 days, or brings it back. */
export async function putReportAwayAction(id: string, gone: boolean): Promise<ActionResult> {
  return attempt(async () => {
    await putReportAway(taken(idSchema, id), taken(z.boolean(), gone));
    revalidatePath('/reports');
  });
}
