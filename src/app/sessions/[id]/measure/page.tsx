import type { Metadata } from 'next';
import { loadView } from '@/server/view';
import { Measure } from '@/stages/measure/Measure';
import { Header } from '@/ui/Header';
import { latestJob } from '@/jobs/queue';

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { session } = await loadView((await params).id);
  return { title: `Measure · ${session.title}` };
}

export default async function Page({ params }: Props) {
  const view = await loadView((await params).id);
  return (
    <>
      <Header session={{ id: view.id, title: view.session.title }} stage="measure" />
      <Measure view={view} job={await latestJob(view.id)} />
    </>
  );
}
