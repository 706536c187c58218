'use client';

import { Archive, FileText } from 'lucide-react';
import { Link } from '@/ui/Link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { newReportAction, putReportAwayAction } from '@/server/reportActions';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/controls/Checkbox';
import { useTell } from '@/ui/controls/Toasts';
import { IconButton } from '@/ui/controls/Tooltip';
import { notAnswered } from '@/ui/saving/asked';

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
  const tell = useTell();
  const [busy, setBusy] = useState(false);

  async function begin() {
    setBusy(true);
    const wanted = sessions.filter((one) => chosen.has(one.id)).map((one) => one.id);
    const made = await newReportAction(wanted).catch(notAnswered);
    setBusy(false);
    if (made.ok) router.push(`/reports/${made.id}`);
    else setProblem(made.error);
  }
  async function put(report: ListedReport, gone: boolean) {
    const result = await putReportAwayAction(report.id, gone).catch(notAnswered);
    if (!result.ok) return tell({ words: result.error, bad: true });
    if (gone)
      tell({
        words: `“${report.title}” is put away and kept for 30 days.`,
        action: { words: 'Bring it back', run: () => void put(report, false) },
      });
    router.refresh();
  }
  return (
    <main id="main" className="w-full max-w-[980px] mx-auto px-[18px] py-7">
      <h1>Reports</h1>
      <p className="text-ink-2 text-lead mt-1 mb-5 max-w-[66ch]">
        A page to publish or print. Your texts are kept apart from the figures: measuring again changes the figures
        alone, and a frozen version changes no more.
      </p>
      {reports.length > 0 && (
        <ul className="border-t border-rule mb-8" aria-label="Reports">
          {reports.map((one) => (
            <li key={one.id} className="border-b border-rule py-3 flex items-center gap-4">
              <Link
                href={`/reports/${one.id}`}
                className="text-head font-strong hover:underline min-w-0 flex-1 truncate"
              >
                {one.title}
              </Link>
              <span className="text-ink-3">
                {one.sessions} {one.sessions === 1 ? 'session' : 'sessions'}, {one.changed.slice(0, 10)}
              </span>
              <IconButton label={`Put “${one.title}” away`} words="Put away" onClick={() => void put(one, true)}>
                <Archive size={16} aria-hidden />
              </IconButton>
            </li>
          ))}
        </ul>
      )}
      <section aria-label="A new report" className="bg-sheet rounded-sheet px-[18px] py-4">
        <h2>A new report</h2>
        {sessions.length === 0 ? (
          <p className="text-ink-2 mt-2">
            A report shows sessions: <Link href="/sessions/new">start one</Link> and measure it.
          </p>
        ) : (
          <>
            <fieldset className="mt-2">
              <legend className="text-ink-3 text-label">Of these sessions</legend>
              {sessions.map((one) => (
                <Checkbox
                  key={one.id}
                  className="py-1"
                  checked={chosen.has(one.id)}
                  onChange={() => {
                    const next = new Set(chosen);
                    if (!next.delete(one.id)) next.add(one.id);
                    setChosen(next);
                  }}
                >
                  {one.title}
                </Checkbox>
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
