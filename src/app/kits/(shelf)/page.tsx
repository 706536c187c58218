import type { Metadata } from 'next';
import { Shelf } from '@/stages/kits/Shelf';
import { listKits, listRigs } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Kits & rigs' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  const [kits, rigs] = await Promise.all([listKits(), listRigs()]);
  return (
    <>
      <Header stage="kits" />
      <Shelf
        kits={kits.map(({ id, name, items }) => ({ id, name, items }))}
        rigs={rigs.map(({ id, name, items }) => ({ id, name, items }))}
      />
    </>
  );
}
