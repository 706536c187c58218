import type { Metadata } from 'next';
import { PutAwayList } from '@/stages/putAway/PutAwayList';
import { putAwayView } from '@/server/putAway';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Put away' };

export default async function PutAwayPage() {
  return (
    <>
      <Header />
      <PutAwayList entries={await putAwayView()} />
    </>
  );
}
