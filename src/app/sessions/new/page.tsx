import type { Metadata } from 'next';
import { NewSession } from '@/stages/newSession/NewSession';
import { choicesOf } from '@/core/sitting/kits/rigChoice';
import { allRigs, listInbox } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'New session' };

// What waits changes from visit to visit.
export const dynamic = 'force-dynamic';

export default async function Page() {
  const [inbox, rigs] = await Promise.all([listInbox(), allRigs()]);
  return (
    <>
      <Header />
      <NewSession inbox={inbox} rigs={rigs.flatMap(({ id, item }) => choicesOf(id, item))} />
    </>
  );
}
