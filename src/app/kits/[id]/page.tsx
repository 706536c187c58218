import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { KitEditor } from '@/stages/kits/KitEditor';
import { listRigs, readKit, readRig } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Kit' };
export const dynamic = 'force-dynamic';

/** Rigs whose aircraft is offered for the check of mass. */
const MOST_RIGS = 30;

type Props = { params: Promise<{ id: string }> };

export default async function Page({ params }: Props) {
  const kept = await readKit((await params).id);
  if (!kept) notFound();
  const rigs = await Promise.all((await listRigs()).slice(0, MOST_RIGS).map(({ id }) => readRig(id)));
  const aircraft = rigs.flatMap((rig) => (rig?.item.aircraft ? [{ rig: rig.item.camera, ...rig.item.aircraft }] : []));
  return (
    <>
      <Header stage="kits" />
      <KitEditor id={kept.id} revision={kept.revision} kit={kept.item} aircraft={aircraft} />
    </>
  );
}
