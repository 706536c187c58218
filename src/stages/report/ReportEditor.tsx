'use client';

import { Link } from '@/ui/Link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { freezeAction, keepReportAction, type LinkView } from '@/server/reportActions';
import type { Report } from '@/core/exports/report';
import { notAnswered } from '@/ui/saving/asked';
import { useKept } from '@/ui/saving/useKept';
import type { FrozenMark } from './html';
import { PageBar } from './PageBar';
import { ReportTexts } from './ReportTexts';

/** A report being written: texts on the left, the page as it will be on the right. */
export function ReportEditor({
  id,
  first,
  revision,
  versions,
  sessions,
  firstLink,
  lan,
}: {
  id: string;
  first: Report;
  revision: number;
  versions: FrozenMark[];
  sessions: { id: string; title: string }[];
  /** The link that holds, if one does. */
  firstLink: LinkView | null;
  /** Addresses at which machines on the local network reach it; none where they aren't let in. */
  lan: readonly string[];
}) {
  const router = useRouter();
  const { item: report, change, state, problem, flush } = useKept(first, id, revision, keepReportAction);
  const [link, setLink] = useState(firstLink);
  const [said, setSaid] = useState<string | null>(null);
  const [shown, setShown] = useState<number | null>(null);
  const set = (part: Partial<Report>) => change({ ...report, ...part });
  const version = shown === null ? '' : `?version=${shown}`;

  async function freeze() {
    await flush();
    const result = await freezeAction(id).catch(notAnswered);
    setSaid(result.ok ? `Version ${result.number} is frozen.` : result.error);
    if (result.ok) router.refresh();
  }
  return (
    <main
      id="main"
      className="w-full px-[18px] py-[18px] grid gap-[18px] items-start lg:grid-cols-[400px_minmax(0,1fr)]"
    >
      <section aria-label="Texts" className="min-w-0">
        <p className="text-ink-2 text-label">
          <Link href="/reports" className="underline">
            All reports
          </Link>{' '}
          · <span role="status">{state === 'kept' ? 'Saved' : state === 'keeping' ? 'Saving …' : 'Not saved yet'}</span>
        </p>
        {problem && (
          <p role="alert" className="text-failure mt-1">
            {problem}
          </p>
        )}
        <h1 className="sr-only">Report: {report.title}</h1>
        <ReportTexts report={report} sessions={sessions} onChange={set} />
      </section>
      <section aria-label="The page" className="min-w-0 grid gap-2 lg:sticky lg:top-3">
        <PageBar
          id={id}
          link={link}
          versions={versions}
          shown={shown}
          onShown={setShown}
          onFreeze={() => void freeze()}
          onLink={setLink}
        />
        {said && (
          <p role="status" className="text-ink-2">
            {said}
          </p>
        )}
        {link !== null && (
          <p className="text-ink-3 text-small">
            Until {link.until.slice(0, 10)} it shows the newest frozen version to whoever has it
            {lan.length > 0 ? (
              <>
                , on this network by{' '}
                <span className="text-ink-2 break-all select-all">
                  {lan[0]}/r/{link.token}
                </span>
                {lan[0].startsWith('https:') && ' (a browser that doesn’t trust this desk warns of it first)'}
              </>
            ) : (
              ' and reaches this computer (./glade up --lan lets others on this network)'
            )}
            . To publish, send the HTML file.
          </p>
        )}
        <iframe
          title="The report"
          // Texts that were saved are shown; another key loads it anew.
          key={`${shown} ${state === 'kept' ? JSON.stringify(report).length : 'typing'} ${versions.length}`}
          src={`/api/reports/${id}/page${version}`}
          className="w-full h-[calc(100dvh-130px)] min-h-[420px] bg-ink rounded-md"
        />
      </section>
    </main>
  );
}
