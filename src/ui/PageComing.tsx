'use client';

import { useParams, usePathname } from 'next/navigation';
import { Header } from './Header';

/** Stands in while a page is made: the line of stages, and where its content will be. */
export function PageComing({ stage }: { stage?: string }) {
  const { id } = useParams<{ id?: string }>();
  const inSession = usePathname().startsWith('/sessions/') && id !== undefined;
  return (
    <>
      <Header stage={stage} session={inSession ? { id, title: '' } : undefined} />
      <main id="main" className="w-full max-w-[1180px] mx-auto px-[18px] py-7" aria-busy>
        <p role="status" className="text-ink-3">
          Coming …
        </p>
      </main>
    </>
  );
}
