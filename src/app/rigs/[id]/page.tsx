import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { RigEditor } from '@/stages/kits/RigEditor';
import { readRig } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Rig' };
export const dynamic = 'force-dynamic';

type Props = { params: Promise<{ id: string }> };

export default async function Page({ params }: Props) {
  const kept = await readRig((await params).id);
  if (!kept) notFound();
  return (
    <>
      <Header stage="kits" />
      <RigEditor id={kept.id} revision={kept.revision} rig={kept.item} />
    </>
  );
}
