import type { Metadata } from 'next';
import { pickList } from '@/server/pickList';
import { Carry } from '@/stages/carry/Carry';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'What to carry' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  return (
    <>
      <Header stage="carry" />
      <Carry {...await pickList()} />
    </>
  );
}
