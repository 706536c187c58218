import type { Metadata } from 'next';
import { bandsInForce } from '@/server/judged';
import { boundsOf } from '@/core/judging/rating/bands';
import { Bands } from '@/stages/verdict/Bands';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Rating limits' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  return (
    <>
      <Header keeps />
      <Bands inForce={boundsOf(await bandsInForce())} />
    </>
  );
}
