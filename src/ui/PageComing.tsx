'use client';

import { useParams, usePathname } from 'next/navigation';
import { PaperRoom } from './controls/room';
import { Header } from './Header';

/** Stands in while a page is made: the line of stages, and where its content will be. */
export function PageComing({ stage }: { stage?: string }) {
  const { id } = useParams<{ id?: string }>();
  const inSession = usePathname().startsWith('/sessions/') && id !== undefined;
  return (
    <>
      <Header stage={stage} session={inSession ? { id, title: '' } : undefined} />
      <main id="main" className="w-full max-w-[1180px] mx-auto px-[18px] py-7" aria-busy>
        <Coming />
      </main>
    </>
  );
}

/** The same for a page of the field, which stands alone: white from the first moment on. */
export function PaperComing() {
  return (
    <PaperRoom className="min-h-dvh px-4 pt-3">
      <Coming />
    </PaperRoom>
  );
}

function Coming() {
  return (
    <p role="status" className="text-ink-3">
      Coming …
    </p>
  );
}
