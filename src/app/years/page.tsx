import type { Metadata } from 'next';
import { measuredSessions } from '@/server/across';
import { Years } from '@/stages/years/Years';
import { kitKey } from '@/core/judging/ranking/figures';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Over the years' };
export const dynamic = 'force-dynamic';

export default async function Page({ searchParams }: { searchParams: Promise<{ kit?: string }> }) {
  const [{ sessions, lookedAt }, { kit }] = await Promise.all([measuredSessions(), searchParams]);
  // Figures that no longer stand would look like a filter's change.
  const standing = sessions.filter(({ stale }) => stale === null);
  return (
    <>
      <Header stage="years" />
      <Years
        sittings={standing.flatMap(({ day, sittings }) => sittings.map((one) => ({ ...one, day })))}
        leftOut={sessions
          .filter(({ stale }) => stale !== null)
          .map(({ id, title, sittings }) => ({ id, title, kits: sittings.map(({ kit }) => kitKey(kit)) }))}
        wanted={kit ?? null}
        lookedAt={lookedAt}
      />
    </>
  );
}
