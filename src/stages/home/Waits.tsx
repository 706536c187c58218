'use client';

import { useEffect, useState } from 'react';
import { Progress } from '@/ui/controls/Progress';
import { Link } from '@/ui/Link';
import { inWords, keyOf, type Waiting } from './waiting';

type Job = Extract<Waiting, { kind: 'job' }>;

/** Measurements that are followed at once: each keeps a line to the server open, and a browser has six. */
const FOLLOWED = 2;

/** What is told of a measurement that has ended. */
const ENDS: Record<string, 'measured' | 'failed' | 'stopped' | undefined> = {
  done: 'measured',
  failed: 'failed',
  cancelled: 'stopped',
};

/**
 * What waits for the reader, each with the step that goes on with it. It stays as it was when the page came, so that nothing below it moves
 * while somebody reads; only how far measurements are is followed.
 */
export function Waits({ waiting }: { waiting: readonly Waiting[] }) {
  const [shown] = useState(waiting);
  if (shown.length === 0) return null;
  const followed = shown.filter((one) => one.kind === 'job').slice(0, FOLLOWED);
  return (
    <ul aria-label="Waiting" className="bg-sheet rounded-md px-4 py-1.5 mb-5">
      {shown.map((one) => (
        <li key={keyOf(one)} className="flex items-center gap-x-4 gap-y-1 flex-wrap py-1.5">
          {one.kind === 'job' && followed.includes(one) ? <Followed job={one} /> : <Told one={one} />}
        </li>
      ))}
    </ul>
  );
}

/** A measurement on its way, until it has ended. */
function Followed({ job }: { job: Job }) {
  const { session, title } = job;
  const [now, setNow] = useState<Waiting>(job);
  useEffect(() => {
    const events = new EventSource(`/api/sessions/${session}/progress`);
    events.onmessage = (event) => {
      const told = JSON.parse(event.data as string) as {
        state: string;
        progress: { done: number; total: number };
      } | null;
      if (told && (told.state === 'queued' || told.state === 'running'))
        return setNow({ kind: 'job', session, title, ...told.progress });
      events.close();
      const kind = ENDS[told?.state ?? ''];
      if (kind) setNow({ kind, session, title });
    };
    return () => events.close();
  }, [session, title]);
  return <Told one={now} />;
}

function Told({ one }: { one: Waiting }) {
  const { words, press, href } = inWords(one);
  return (
    <>
      <span className="min-w-0 grow truncate">{words}</span>
      {one.kind === 'job' && <Progress label={words} done={one.done} total={one.total} className="w-[140px]" />}
      <Link href={href} className="underline whitespace-nowrap">
        {press}
      </Link>
    </>
  );
}
