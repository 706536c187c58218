'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Progress } from '@/ui/controls/Progress';
import { Link } from '@/ui/Link';
import { followed, inWords, keyOf, type Waiting } from './waiting';

/** How far measurements are is asked for so often, while some run. */
const EVERY_MS = 3_000;

/** What waits for the reader, each with the step that goes on with it. */
export function Waits({
  waiting,
  isMeasured,
}: {
  waiting: readonly Waiting[];
  isMeasured: (session: string) => boolean;
}) {
  const router = useRouter();
  const [first] = useState(waiting);
  const shown = followed(first, waiting, isMeasured);
  const runs = shown.some(({ kind }) => kind === 'job');
  useEffect(() => {
    if (!runs) return;
    const timer = setInterval(() => router.refresh(), EVERY_MS);
    return () => clearInterval(timer);
  }, [runs, router]);
  if (shown.length === 0) return null;
  return (
    <ul aria-label="Waiting" className="bg-sheet rounded-md px-4 py-1.5 mb-5">
      {shown.map((one) => {
        const { words, press, href } = inWords(one);
        return (
          <li key={keyOf(one)} className="flex items-center gap-x-4 gap-y-1 flex-wrap py-1.5">
            <span className="min-w-0 grow truncate">{words}</span>
            {one.kind === 'job' && <Progress label={words} done={one.done} total={one.total} className="w-[140px]" />}
            <Link href={href} className="underline whitespace-nowrap">
              {press}
            </Link>
          </li>
        );
      })}
    </ul>
  );
}
