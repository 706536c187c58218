'use client';

import { missingFor } from '@/core/sitting/checks/measurable';
import { Link } from '@/ui/Link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { cancelAction, measureAction } from '@/server/sessionActions';
import { Button, buttonClass } from '@/ui/Button';
import { Progress } from '@/ui/controls/Progress';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { notAnswered } from '@/ui/saving/asked';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import type { MeasureJob } from './job';

const RUNNING = new Set(['queued', 'running']);

/** Measuring in the background: progress a take, cancel, measure again. */
export function Measure({ view, job: first }: { view: SessionView; job: MeasureJob | null }) {
  const router = useRouter();
  const [selected, select] = useSelectedFilter(view.beads);
  const [job, setJob] = useState(first);
  const [listening, setListening] = useState(first !== null && RUNNING.has(first.state));
  const [problem, setProblem] = useState<string | null>(null);
  const running = job !== null && RUNNING.has(job.state);

  useEffect(() => {
    if (!listening) return;
    const events = new EventSource(`/api/sessions/${view.id}/progress`);
    events.onmessage = (event) => {
      const now = JSON.parse(event.data as string) as MeasureJob | null;
      setJob(now);
      if (!now || !RUNNING.has(now.state)) {
        events.close();
        setListening(false);
        router.refresh();
      }
    };
    return () => events.close();
  }, [listening, router, view.id]);

  async function start() {
    setProblem(null);
    const result = await measureAction(view.id).catch(notAnswered);
    if (result.ok) setListening(true);
    else setProblem(result.error);
  }
  async function cancel() {
    if (!job) return;
    const result = await cancelAction(job.id).catch(notAnswered);
    setProblem(result.ok ? null : result.error);
  }

  const missing = missingFor(view.session);
  const done = job?.progress.done ?? 0;
  const total = job?.progress.total ?? 0;
  return (
    <>
      <StopLadder beads={view.beads} selected={selected} onSelect={select} />
      <main id="main" className="w-full max-w-[1020px] mx-auto px-[18px] py-[18px]">
        <div className="flex justify-between items-start gap-4 flex-wrap">
          <div>
            <h1>{title(view, job)}</h1>
            <p className="text-ink-2 text-lead mt-1 max-w-[64ch]" role="status">
              {sentence(view, job)}
            </p>
          </div>
          <div className="flex gap-2">
            {running ? (
              <Button onClick={cancel} disabled={job.cancelRequested}>
                Cancel
              </Button>
            ) : missing ? (
              <Link href={`/sessions/${view.id}/${missing.stage}`} className={buttonClass('main')}>
                {missing.step}
              </Link>
            ) : (
              <Button look={view.readings && !view.stale ? 'plain' : 'main'} onClick={start}>
                {view.readings ? 'Measure again' : 'Measure'}
              </Button>
            )}
            {view.readings && !running && (
              <Link href={`/sessions/${view.id}/verdict`} className={buttonClass(view.stale ? 'plain' : 'main')}>
                Read the verdict
              </Link>
            )}
          </div>
        </div>
        {problem && (
          <p role="alert" className="text-failure mt-3">
            {problem}
          </p>
        )}
        <Progress label="Pictures measured" done={done} total={total} className="mt-5" />
        <TakeList view={view} job={job} />
      </main>
    </>
  );
}

function title(view: SessionView, job: MeasureJob | null): string {
  if (job && RUNNING.has(job.state)) return job.state === 'queued' ? 'Waiting for the worker' : 'Measuring';
  if (job?.state === 'failed') return 'Measuring stopped';
  if (job?.state === 'cancelled') return 'Cancelled';
  if (view.readings) return view.stale ? 'Something changed since it was measured' : 'Measured';
  if (missingFor(view.session)) return 'Not ready to measure yet';
  return 'Ready to measure';
}

function sentence(view: SessionView, job: MeasureJob | null): string {
  const pictures = view.session.takes
    .filter((take) => take.role === 'measure')
    .reduce((sum, take) => sum + take.files.length, 0);
  if (job?.state === 'running')
    return job.progress.total > 0
      ? `${job.progress.done} of ${job.progress.total} pictures read${job.progress.take ? `, last ${job.progress.take}` : ''}.`
      : 'Starting …';
  if (job?.state === 'queued') return 'It starts by itself as soon as the worker is free.';
  if (job?.state === 'failed') return job.error ?? 'The worker gave no reason.';
  if (job?.state === 'cancelled')
    return view.readings ? 'The earlier figures stay as they are.' : 'Nothing was kept; measure whenever you like.';
  if (view.stale)
    return 'Takes, patches or files are not what the figures rest on any more. Measure again to renew them.';
  if (view.readings) return `${pictures} pictures, every figure with its uncertainty.`;
  const missing = missingFor(view.session);
  if (missing) return missing.words;
  return `${pictures} pictures are read once each; you can go on with something else meanwhile.`;
}

/** Every take with how many of its pictures are read. */
function TakeList({ view, job }: { view: SessionView; job: MeasureJob | null }) {
  const names = new Map(view.beads.map((bead) => [bead.id, bead.name]));
  const takes = view.session.takes.filter((take) => take.role === 'measure');
  const starts = takes.map((_, i) => takes.slice(0, i).reduce((sum, take) => sum + take.files.length, 0));
  const done = job?.state === 'done' ? Infinity : (job?.progress.done ?? 0);
  const faults = [...(view.readings?.faults ?? []), ...(view.readings?.filters.flatMap((one) => one.faults) ?? [])];
  return (
    <table className="w-full mt-5 border-collapse">
      <thead>
        <tr className="text-left text-ink-3 text-small border-b border-rule">
          <th className="font-medium py-1.5">Take</th>
          <th className="font-medium">Filter</th>
          <th className="font-medium text-right pr-6">Pictures read</th>
          <th className="font-medium">Notes</th>
        </tr>
      </thead>
      <tbody>
        {takes.map((take, i) => {
          const read = Math.min(take.files.length, Math.max(0, done - starts[i]));
          const own = view.stale
            ? []
            : faults.filter((fault) => fault.severity === 'error' && fault.takes.includes(take.id));
          return (
            <tr key={take.id} className="border-b border-rule">
              <td className="py-2">{take.id}</td>
              <td className={take.filter === null ? 'text-ink-2' : ''}>
                {take.filter === null ? 'bare' : names.get(take.filter)}
              </td>
              <td className="text-right pr-6">{job ? `${read} of ${take.files.length}` : take.files.length}</td>
              <td className="text-ink-2 text-small">{[...new Set(own.map((fault) => fault.message))].join(' ')}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
