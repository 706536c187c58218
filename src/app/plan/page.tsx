import type { Metadata } from 'next';
import { PlanStage } from '@/stages/plan/PlanStage';
import { listKits, listRigs, readKit, readRig } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Plan' };
export const dynamic = 'force-dynamic';

type Props = { searchParams: Promise<{ kit?: string; rig?: string }> };

export default async function Page({ searchParams }: Props) {
  const wanted = await searchParams;
  const [kits, rigs, kit, rig] = await Promise.all([
    listKits(),
    listRigs(),
    wanted.kit ? readKit(wanted.kit) : null,
    wanted.rig ? readRig(wanted.rig) : null,
  ]);
  const names = (list: { id: string; name: string }[]) => list.map(({ id, name }) => ({ id, name }));
  return (
    <>
      <Header stage="plan" />
      <PlanStage shelf={{ kits: names(kits), rigs: names(rigs) }} kit={kit?.item ?? null} rig={rig?.item ?? null} />
    </>
  );
}
