'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Progress } from '@/ui/controls/Progress';
import type { MeasureJob } from '../measure/job';
import type { CheckSeries } from './series';

const RUNNING = new Set(['queued', 'running']);

/** A check that is being worked out: how far it is, or why it stopped. */
export function CheckRunning({ series: { session, job: first } }: { series: CheckSeries }) {
  const router = useRouter();
  const [job, setJob] = useState(first);
  useEffect(() => {
    const events = new EventSource(`/api/sessions/${session}/progress`);
    events.onmessage = (event) => {
      const now = JSON.parse(event.data as string) as MeasureJob | null;
      setJob(now);
      if (now && RUNNING.has(now.state)) return;
      events.close();
      router.refresh();
    };
    return () => events.close();
  }, [router, session]);
  const { done = 0, total = 0 } = job?.progress ?? {};
  const stopped = job && !RUNNING.has(job.state) && job.state !== 'done';
  return (
    <section aria-label="Working out" className="mt-5">
      <p role={stopped ? 'alert' : 'status'} className={stopped ? 'text-failure' : 'text-ink-2'}>
        {stopped
          ? (job.error ?? 'It was cancelled.')
          : done < total || total === 0
            ? `${done} of ${total || '…'} pictures read`
            : 'The curve is being fitted …'}
      </p>
      <Progress label="Pictures read" done={done} total={total} className="mt-2" />
    </section>
  );
}
