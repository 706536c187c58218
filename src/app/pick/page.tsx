import type { Metadata } from 'next';
import { pickList } from '@/server/pickList';
import { Pick } from '@/stages/pick/Pick';

export const metadata: Metadata = { title: 'Pick' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  return <Pick {...await pickList()} home={null} first={null} />;
}
