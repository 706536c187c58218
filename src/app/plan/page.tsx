import type { Metadata } from 'next';
import { PlanStage } from '@/stages/plan/PlanStage';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Plan' };

export default function Page() {
  return (
    <>
      <Header stage="plan" />
      <PlanStage />
    </>
  );
}
