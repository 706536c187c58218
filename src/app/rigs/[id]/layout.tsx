import type { ReactNode } from 'react';
import { notFound } from 'next/navigation';
import { readRig } from '@/store';

export const dynamic = 'force-dynamic';

/** Asks for the rig before anything of its page is sent: one that is not there is answered as such. */
export default async function Layout({ children, params }: { children: ReactNode; params: Promise<{ id: string }> }) {
  if (!(await readRig((await params).id))) notFound();
  return children;
}
