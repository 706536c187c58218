'use client';

import { FileText, Trash2 } from 'lucide-react';
import { Link } from '@/ui/Link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { newReportAction, putReportAwayAction } from '@/server/reportActions';
import { Button } from '@/ui/Button';

export interface ListedReport {
  id: string;
  title: string;
  sessions: number;
  changed: string;
}

/** All reports, and a new one of chosen sessions. */
export function ReportList({
  reports,
  sessions,
  first,
}: {
  reports: ListedReport[];
  sessions: { id: string; title: string }[];
  /** A session that is chosen already. */
  first: string | null;
}) {
  const router = useRouter();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(first ? [first] : []));
  const [problem, setProblem] = useState<string | null>(null);
  const [away, setAway] = useState<ListedReport | null>(null);
  const [busy, setBusy] = useState(false);

  async function begin() {
    setBusy(true);
    const made = await newReportAction(sessions.filter((one) => chosen.has(one.id)).map((one) => one.id)).catch(() => ({
      ok: false as const,
      error: 'There is no line to the server.',
    }));
    setBusy(false);
    if (made.ok) router.push(`/reports/${made.id}`);
    else setProblem(made.error);
  }
  async function put(report: ListedReport, gone: boolean) {
    await putReportAwayAction(report.id, gone);
    setAway(gone ? report : null);
    router.refresh();
  }
  return (
    <main id="main" className="w-full max-w-[980px] mx-auto px-[18px] py-7">
      <h1>Reports</h1>
      <p className="text-ink-2 text-[15px] mt-1 mb-5 max-w-[66ch]">
        A page to publish or print. Your texts are kept apart from the figures: measuring again changes the figures
        alone, and a frozen version changes no more.
      </p>
      {away && (
        <p role="status" className="bg-well rounded-md px-4 py-2.5 mb-4 flex items-center gap-4 flex-wrap">
          “{away.title}” is put away and kept for a week.
          <Button look="quiet" onClick={() => void put(away, false)}>
            Bring it back
          </Button>
        </p>
      )}
      {reports.length > 0 && (
        <ul className="border-t border-rule mb-8" aria-label="Reports">
          {reports.map((one) => (
            <li key={one.id} className="border-b border-rule py-3 flex items-center gap-4">
              <Link
                href={`/reports/${one.id}`}
                className="text-[16px] font-[650] hover:underline min-w-0 flex-1 truncate"
              >
                {one.title}
              </Link>
              <span className="text-ink-3">
                {one.sessions} {one.sessions === 1 ? 'session' : 'sessions'}, {one.changed.slice(0, 10)}
              </span>
              <button
                type="button"
                aria-label={`Put “${one.title}” away`}
                className="p-2 rounded-md text-ink-3 hover:text-ink hover:bg-sheet"
                onClick={() => void put(one, true)}
              >
                <Trash2 size={16} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      <section aria-label="A new report" className="bg-sheet rounded-[10px] px-[18px] py-4">
        <h2>A new report</h2>
        {sessions.length === 0 ? (
          <p className="text-ink-2 mt-2">
            A report shows sessions: <Link href="/sessions/new">start one</Link> and measure it.
          </p>
        ) : (
          <>
            <fieldset className="mt-2">
              <legend className="text-ink-3 text-[13px]">Of these sessions</legend>
              {sessions.map((one) => (
                <label key={one.id} className="flex items-center gap-2 py-1">
                  <input
                    type="checkbox"
                    className="accent-accent size-4"
                    checked={chosen.has(one.id)}
                    onChange={() => {
                      const next = new Set(chosen);
                      if (!next.delete(one.id)) next.add(one.id);
                      setChosen(next);
                    }}
                  />
                  {one.title}
                </label>
              ))}
            </fieldset>
            <Button look="main" className="mt-3" disabled={chosen.size === 0 || busy} onClick={() => void begin()}>
              <FileText size={16} aria-hidden /> Begin the report
            </Button>
          </>
        )}
        {problem && (
          <p role="alert" className="text-failure mt-2">
            {problem}
          </p>
        )}
      </section>
    </main>
  );
}
