import { redirect } from 'next/navigation';
import { loadView } from '@/server/view';

/** A session's address alone leads to what is next in it. */
export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const view = await loadView((await params).id);
  redirect(`/sessions/${view.id}/${view.readings ? 'verdict' : 'regions'}`);
}
