'use client';

import { Download, Link2, Lock } from 'lucide-react';
import { Link } from '@/ui/Link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { freezeAction, keepReportAction, newLinkAction } from '@/server/reportActions';
import { REPORT_TEXTS, type Report } from '@/core/exports/report';
import { useKept } from '@/ui/useKept';
import { Button, buttonClass } from '@/ui/Button';
import type { FrozenMark } from './html';

/** A report being written: texts on the left, the page as it will be on the right. */
export function ReportEditor({
  id,
  first,
  revision,
  versions,
  sessions,
}: {
  id: string;
  first: Report;
  revision: number;
  versions: FrozenMark[];
  sessions: { id: string; title: string }[];
}) {
  const router = useRouter();
  const { item: report, change, state, problem, flush } = useKept(first, id, revision, keepReportAction);
  const [said, setSaid] = useState<string | null>(null);
  const [shown, setShown] = useState<number | null>(null);
  const set = (part: Partial<Report>) => change({ ...report, ...part });
  const version = shown === null ? '' : `?version=${shown}`;
  const save = shown === null ? '?save' : `?version=${shown}&save`;

  async function freeze() {
    await flush();
    const result = await freezeAction(id).catch(() => ({
      ok: false as const,
      error: 'There is no line to the server.',
    }));
    setSaid(result.ok ? `Version ${result.number} is frozen.` : result.error);
    if (result.ok) router.refresh();
  }
  return (
    <main
      id="main"
      className="w-full px-[18px] py-[18px] grid gap-[18px] items-start lg:grid-cols-[400px_minmax(0,1fr)]"
    >
      <section aria-label="Texts" className="min-w-0">
        <p className="text-ink-2 text-[13px]">
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
        <label className="grid gap-1 mt-2">
          <span className="text-ink-3 text-[13px]">Title</span>
          <input
            className="field text-[17px] font-[650]"
            value={report.title}
            onChange={(event) => set({ title: event.target.value })}
          />
        </label>
        {REPORT_TEXTS.map(({ key, name, hint }) => (
          <label key={key} className="grid gap-1 mt-3">
            <span className="text-ink-3 text-[13px]">{name}</span>
            <textarea
              className="field min-h-[64px] [field-sizing:content]"
              placeholder={hint}
              value={report[key]}
              onChange={(event) => set({ [key]: event.target.value })}
            />
          </label>
        ))}
        <fieldset className="mt-3">
          <legend className="text-ink-3 text-[13px]">Sessions</legend>
          {sessions.map((one) => (
            <label key={one.id} className="flex items-center gap-2 py-1 min-h-7">
              <input
                type="checkbox"
                className="accent-accent size-4"
                checked={report.sessions.includes(one.id)}
                disabled={report.sessions.length === 1 && report.sessions[0] === one.id}
                onChange={() =>
                  set({
                    sessions: report.sessions.includes(one.id)
                      ? report.sessions.filter((other) => other !== one.id)
                      : [...report.sessions, one.id],
                  })
                }
              />
              {one.title}
            </label>
          ))}
        </fieldset>
        <label className="flex items-center gap-2 mt-3">
          <span className="text-ink-3 text-[13px]">Paper</span>
          <select
            className="field"
            value={report.paper}
            onChange={(event) => set({ paper: event.target.value as Report['paper'] })}
          >
            <option>A4</option>
            <option>Letter</option>
          </select>
        </label>
      </section>
      <section aria-label="The page" className="min-w-0 grid gap-2 lg:sticky lg:top-3">
        <div className="flex items-center gap-x-3 gap-y-1 flex-wrap">
          <Button look="main" onClick={() => void freeze()}>
            <Lock size={16} aria-hidden /> Freeze a version
          </Button>
          <a className={buttonClass('plain')} href={`/api/reports/${id}/pdf${version}`} download>
            <Download size={16} aria-hidden /> PDF
          </a>
          <a className={buttonClass('plain')} href={`/api/reports/${id}/page${save}`} download>
            <Download size={16} aria-hidden /> HTML
          </a>
          {report.link === null ? (
            <Button look="plain" onClick={() => void newLinkAction().then((link) => set({ link }))}>
              <Link2 size={16} aria-hidden /> Make a link
            </Button>
          ) : (
            <span className="flex items-center gap-2">
              <a href={`/r/${report.link}`} className="underline" target="_blank" rel="noreferrer">
                read-only link
              </a>
              <button type="button" className="underline text-ink-2" onClick={() => set({ link: null })}>
                take it back
              </button>
            </span>
          )}
          <label className="flex items-center gap-2 ml-auto">
            <span className="text-ink-3 text-[13px]">Shown</span>
            <select
              className="field"
              value={shown ?? ''}
              onChange={(event) => setShown(event.target.value === '' ? null : Number(event.target.value))}
            >
              <option value="">as it is now</option>
              {versions.map((one) => (
                <option key={one.number} value={one.number}>
                  version {one.number}, {one.frozenAt.slice(0, 10)}, {one.hash.slice(0, 8)}
                </option>
              ))}
            </select>
          </label>
        </div>
        {said && (
          <p role="status" className="text-ink-2">
            {said}
          </p>
        )}
        {report.link !== null && (
          <p className="text-ink-3 text-[12.5px]">
            The link shows the newest frozen version to whoever reaches this computer; to publish, send the HTML file.
          </p>
        )}
        <iframe
          title="The report"
          // Texts that were saved are shown; another key loads it anew.
          key={`${shown} ${state === 'kept' ? JSON.stringify(report).length : 'typing'} ${versions.length}`}
          src={`/api/reports/${id}/page${version}`}
          className="w-full h-[calc(100dvh-130px)] min-h-[420px] bg-[#ffffff] rounded-[6px]"
        />
      </section>
    </main>
  );
}
