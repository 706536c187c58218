import type { Metadata } from 'next';
import { detailsView } from '@/server/details';
import { loadView } from '@/server/view';
import { SessionDetails } from '@/stages/details/SessionDetails';
import { Header } from '@/ui/Header';

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { session } = await loadView((await params).id);
  return { title: `Details · ${session.title}` };
}

export default async function Page({ params }: Props) {
  const view = await detailsView((await params).id);
  return (
    <>
      <Header session={{ id: view.id, title: view.title }} stage="details" />
      <SessionDetails view={view} />
    </>
  );
}
