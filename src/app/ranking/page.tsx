import type { Metadata } from 'next';
import { measuredSessions } from '@/server/across';
import { bandsInForce } from '@/server/judged';
import { weightsSchema } from '@/core/judging/ranking/rank';
import { Ranking } from '@/stages/ranking/Ranking';
import { readSetting } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Ranking' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  const [{ sessions, lookedAt }, bands, weights] = await Promise.all([
    measuredSessions(),
    bandsInForce(),
    readSetting('weights'),
  ]);
  return (
    <>
      <Header stage="ranking" />
      <Ranking
        sessions={sessions}
        lookedAt={lookedAt}
        bands={bands}
        kept={weightsSchema.safeParse(weights).data ?? null}
      />
    </>
  );
}
