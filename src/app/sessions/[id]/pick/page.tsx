import type { Metadata } from 'next';
import { pickList } from '@/server/pickList';
import { loadView } from '@/server/view';
import { kitKey } from '@/core/judging/ranking/figures';
import { Pick } from '@/stages/pick/Pick';

type Props = { params: Promise<{ id: string }> };

export const metadata: Metadata = { title: 'Pick' };

/** Pick, with the session's own kit in hand. */
export default async function Page({ params }: Props) {
  const { session, id } = await loadView((await params).id);
  const [kit] = session.kits;
  return <Pick {...await pickList()} home={{ id, title: session.title }} first={kit ? kitKey(kit) : null} />;
}
