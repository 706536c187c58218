import { demoProgress, homeList, lastBackup } from '@/server/homeList';
import { Home } from '@/stages/home/Home';
import { Header } from '@/ui/Header';

export const dynamic = 'force-dynamic';

type Props = { searchParams: Promise<{ shown?: string }> };

export default async function HomePage({ searchParams }: Props) {
  const { shown } = await searchParams;
  const [{ sessions, more }, demo, backup] = await Promise.all([
    homeList(Number(shown ?? NaN)),
    demoProgress(),
    lastBackup(),
  ]);
  return (
    <>
      <Header />
      <Home sessions={sessions} more={more} demo={demo} backup={backup} />
    </>
  );
}
