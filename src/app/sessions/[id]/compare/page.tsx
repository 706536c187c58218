import type { Metadata } from 'next';
import { comparedSession } from '@/server/compare';
import { loadView } from '@/server/view';
import { Compare } from '@/stages/compare/Compare';
import { GrayRoom } from '@/ui/controls/room';
import { Header } from '@/ui/Header';

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { session } = await loadView((await params).id);
  return { title: `Compare · ${session.title}` };
}

export default async function Page({ params }: Props) {
  const { id } = await params;
  const view = await loadView(id);
  return (
    <>
      <Header session={{ id: view.id, title: view.session.title }} stage="compare" />
      <GrayRoom>
        <Compare view={view} compared={await comparedSession(id)} />
      </GrayRoom>
    </>
  );
}
