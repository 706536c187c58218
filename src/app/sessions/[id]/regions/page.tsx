import type { Metadata } from 'next';
import { loadView } from '@/server/view';
import { Regions } from '@/stages/regions/Regions';
import { GrayRoom } from '@/ui/controls/room';
import { Header } from '@/ui/Header';

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { session } = await loadView((await params).id);
  return { title: `Regions · ${session.title}` };
}

export default async function Page({ params }: Props) {
  const view = await loadView((await params).id);
  return (
    <>
      <Header session={{ id: view.id, title: view.session.title }} stage="regions" />
      <GrayRoom>
        <Regions view={view} />
      </GrayRoom>
    </>
  );
}
