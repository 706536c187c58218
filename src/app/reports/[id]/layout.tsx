import type { ReactNode } from 'react';
import { notFound } from 'next/navigation';
import { readReport } from '@/store';

export const dynamic = 'force-dynamic';

/** Asks for the report before anything of its page is sent: one that is not there is answered as such. */
export default async function Layout({ children, params }: { children: ReactNode; params: Promise<{ id: string }> }) {
  if (!(await readReport((await params).id))) notFound();
  return children;
}
