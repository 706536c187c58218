'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { Progress } from '@/ui/controls/Progress';

export interface DemoProgress {
  made: number;
  of: number;
}

/** The list is asked for again so often while the demo comes. */
const EVERY_MS = 3_000;

/** The demo on its way: how many of its sittings are there; the list grows by itself. */
export function DemoComing({ made, of }: DemoProgress) {
  const router = useRouter();
  useEffect(() => {
    const timer = setInterval(() => router.refresh(), EVERY_MS);
    return () => clearInterval(timer);
  }, [router]);
  return (
    <div className="bg-sheet rounded-md px-4 py-3 mb-5" role="status">
      <p className="mb-2">
        The demo is being made: {made} of {of} sittings are there.{' '}
        <span className="text-ink-2">
          Each appears below with its verdict; your own pictures need not wait for them.
        </span>
      </p>
      <Progress label="The demo" done={made} total={of} />
    </div>
  );
}
