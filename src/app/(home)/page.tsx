import { demoProgress, homeList, lastBackup } from '@/server/homeList';
import { whatWaits } from '@/server/waiting';
import { Home } from '@/stages/home/Home';
import { wantedOf } from '@/stages/home/listed';
import { Header } from '@/ui/Header';

export const dynamic = 'force-dynamic';

type Props = { searchParams: Promise<Record<string, string | string[] | undefined>> };

export default async function HomePage({ searchParams }: Props) {
  const asked = await searchParams;
  const wanted = wantedOf(asked);
  const [{ sessions, more, names, isBehind }, demo, backup] = await Promise.all([
    homeList(Number(asked.shown ?? NaN), wanted),
    demoProgress(),
    lastBackup(),
  ]);
  const waiting = await whatWaits(sessions);
  return (
    <>
      <Header />
      <Home
        sessions={sessions}
        more={more}
        names={names}
        asked={wanted}
        isBehind={isBehind}
        waiting={waiting}
        demo={demo}
        backup={backup}
      />
    </>
  );
}
