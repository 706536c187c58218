import type { Metadata } from 'next';
import { loadFootage } from '@/server/footage';
import { loadView } from '@/server/view';
import { Footage } from '@/stages/footage/Footage';
import { Header } from '@/ui/Header';

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { session } = await loadView((await params).id);
  return { title: `Footage · ${session.title}` };
}

export default async function Page({ params }: Props) {
  const view = await loadView((await params).id);
  return (
    <>
      <Header session={{ id: view.id, title: view.session.title }} stage="footage" />
      <Footage view={view} footage={await loadFootage(view.id)} />
    </>
  );
}
