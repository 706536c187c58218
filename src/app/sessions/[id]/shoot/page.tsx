import type { Metadata } from 'next';
import { loadView } from '@/server/view';
import { RunSheet } from '@/stages/shoot/RunSheet';

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { session } = await loadView((await params).id);
  return { title: `Shoot · ${session.title}` };
}

export default async function Page({ params }: Props) {
  const view = await loadView((await params).id);
  return <RunSheet sessionId={view.id} session={view.session} />;
}
