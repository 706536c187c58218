import { Home, type HomeSession } from '@/stages/home/Home';
import { Header } from '@/ui/Header';
import { beadsOf } from '@/ui/beads';
import { writeHeadline } from '@/core/rating';
import { latestReadingsOf, listSessions, loadSession } from '@/store';

export const dynamic = 'force-dynamic';

/** Sessions whose ladder is drawn; a longer list says how many more there are. */
const SHOWN = 30;

export default async function HomePage() {
  const list = await listSessions();
  const shown = list.slice(0, SHOWN);
  const readings = await latestReadingsOf(shown.map((one) => one.id));
  const sessions: HomeSession[] = await Promise.all(
    shown.map(async (summary) => {
      const { session } = await loadSession(summary.id);
      const found = readings.get(summary.id) ?? null;
      const names = new Map(
        session.kits.flatMap((kit) => kit.filters.map((filter) => [filter.id, filter.name ?? filter.id])),
      );
      return {
        id: summary.id,
        title: summary.title,
        takes: summary.takes,
        filters: summary.filters,
        createdAt: summary.createdAt.toISOString(),
        beads: beadsOf(session, found),
        measured: found !== null,
        finding: found ? writeHeadline(found, (id) => names.get(id) ?? id).title : null,
        placed: session.patches.length > 0 || session.scenes.some((scene) => scene.kind === 'outdoor'),
      };
    }),
  );
  return (
    <>
      <Header />
      <Home sessions={sessions} more={list.length - shown.length} />
    </>
  );
}
