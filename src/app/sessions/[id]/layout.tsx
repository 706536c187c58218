import type { ReactNode } from 'react';
import { loadView } from '@/server/view';

// Sessions change under their pages; nothing of them is cached.
export const dynamic = 'force-dynamic';

/** Asks for the session before anything of its pages is sent: one that is not there is answered as such. */
export default async function SessionLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ id: string }>;
}) {
  await loadView((await params).id);
  return children;
}
