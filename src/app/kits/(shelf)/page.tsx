import type { Metadata } from 'next';
import { Shelf } from '@/stages/kits/Shelf';
import { shelfKits } from '@/server/shelfView';
import { listRigs } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Kits & rigs' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  const [kits, rigs] = await Promise.all([shelfKits(), listRigs()]);
  return (
    <>
      <Header stage="kits" />
      <Shelf kits={kits} rigs={rigs.map(({ id, name, items }) => ({ id, name, items }))} />
    </>
  );
}
