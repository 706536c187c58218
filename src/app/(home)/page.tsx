import { demoProgress, homeList, lastBackup } from '@/server/homeList';
import { Home } from '@/stages/home/Home';
import { Header } from '@/ui/Header';

export const dynamic = 'force-dynamic';

export default async function HomePage() {
  const [{ sessions, more }, demo, backup] = await Promise.all([homeList(), demoProgress(), lastBackup()]);
  return (
    <>
      <Header />
      <Home sessions={sessions} more={more} demo={demo} backup={backup} />
    </>
  );
}
