import type { Metadata } from 'next';
import { NewSession } from '@/stages/newSession/NewSession';
import { listInbox } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'New session' };

// What waits changes from visit to visit.
export const dynamic = 'force-dynamic';

export default async function Page() {
  return (
    <>
      <Header />
      <NewSession inbox={await listInbox()} />
    </>
  );
}
