import type { ReactNode } from 'react';
import { notFound } from 'next/navigation';
import { readKit } from '@/store';

export const dynamic = 'force-dynamic';

/** Asks for the kit before anything of its page is sent: one that is not there is answered as such. */
export default async function Layout({ children, params }: { children: ReactNode; params: Promise<{ id: string }> }) {
  if (!(await readKit((await params).id))) notFound();
  return children;
}
