import { formatISO } from 'date-fns';
import type { Metadata } from 'next';
import { benchOf, ownBench } from '@/core/judging/agreement/benches';
import { measuredSessions } from '@/server/across';
import { Benches } from '@/stages/benches/Benches';
import { allBenches, wholeKits } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Between benches' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  const [{ sessions, lookedAt }, others, kits] = await Promise.all([measuredSessions(), allBenches(), wholeKits()]);
  const standing = sessions.filter(({ stale }) => stale === null);
  const own = ownBench(standing.flatMap(({ sittings }) => sittings));
  return (
    <>
      <Header stage="benches" />
      <Benches
        benches={[own, ...others.map(({ id, item }) => benchOf(id, item))]}
        theirs={others.map(({ id, item: { name, file, filters } }) => ({ id, name, file, filters: filters.length }))}
        kits={kits.map(({ id, item }) => ({
          id,
          kit: {
            id: item.id,
            name: item.name,
            filters: item.filters.map(({ id: key, name, kind, nominal }) => ({ id: key, name, kind, nominal })),
          },
        }))}
        lookedAt={lookedAt}
        today={formatISO(new Date(), { representation: 'date' })}
      />
    </>
  );
}
