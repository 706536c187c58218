import type { Metadata } from 'next';
import { plannedOf } from '@/core/sitting/planning/planned';
import { loadView } from '@/server/view';
import { Live } from '@/stages/live/Live';
import { Header } from '@/ui/Header';

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { session } = await loadView((await params).id);
  return { title: `Live · ${session.title}` };
}

export default async function Page({ params }: Props) {
  const { id, session } = await loadView((await params).id);
  return (
    <>
      <Header session={{ id, title: session.title }} stage="shoot" />
      <Live sessionId={id} session={session} isPlanned={plannedOf(session).length > 0} />
    </>
  );
}
