import type { Metadata } from 'next';
import { loadView } from '@/server/view';
import { Verdict } from '@/stages/verdict/Verdict';
import { Header } from '@/ui/Header';

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { session } = await loadView((await params).id);
  return { title: `Verdict · ${session.title}` };
}

export default async function Page({ params }: Props) {
  const view = await loadView((await params).id);
  return (
    <>
      <Header session={{ id: view.id, title: view.session.title }} stage="verdict" />
      <Verdict view={view} />
    </>
  );
}
