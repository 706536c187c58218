'use server';

import { randomBytes } from 'node:crypto';
import { revalidatePath } from 'next/cache';
import type { Report } from '@/core/exports/report';
import { freezeReport, loadSession, putReportAway, readReport, ShelfError, writeReport } from '@/store';
import { reportFigures } from './reportFigures';
import type { Kept } from './shelfActions';

async function keep(work: () => Promise<{ id: string; revision: number }>): Promise<Kept> {
  try {
    const { id, revision } = await work();
    revalidatePath('/reports');
    return { ok: true, id, revision };
  } catch (error) {
    if (error instanceof ShelfError) return { ok: false, error: error.message };
    console.error(error);
    return { ok: false, error: 'Nothing was changed: the server ran into a problem that its log tells.' };
  }
}

/** Writes a report that was changed. */
export async function keepReportAction(report: Report, place: { id: string; revision: number }): Promise<Kept> {
  return keep(() => writeReport(report, place));
}

/** Begins a report of sessions. */
export async function newReportAction(sessions: string[]): Promise<Kept> {
  return keep(async () => {
    const titles = await Promise.all(sessions.slice(0, 3).map(async (id) => (await loadSession(id)).session.title));
    return writeReport({ title: titles.join(' and ') || 'A report', sessions });
  });
}

/** Keeps the report with its figures as they are now. */
export async function freezeAction(id: string): Promise<{ ok: true; number: number } | { ok: false; error: string }> {
  const found = await readReport(id);
  if (!found) return { ok: false, error: 'There is no such report any more.' };
  try {
    const figures = await reportFigures(found.item);
    if (figures.sessions.length === 0)
      return { ok: false, error: 'None of its sessions is measured: there is nothing to freeze yet.' };
    // A link opens a report, not a version of it.
    const { number } = await freezeReport(id, { report: { ...found.item, link: null }, figures });
    revalidatePath(`/reports/${id}`);
    return { ok: true, number };
  } catch (error) {
    console.error(error);
    return { ok: false, error: 'Nothing was frozen: the server ran into a problem that its log tells.' };
  }
}

/** A secret for a link that only reads. */
export async function newLinkAction(): Promise<string> {
  return randomBytes(16).toString('hex');
}

/** Puts a report away for a week, or brings it back. */
export async function putReportAwayAction(id: string, gone: boolean): Promise<void> {
  await putReportAway(id, gone);
  revalidatePath('/reports');
}
