import { homeList } from '@/server/homeList';
import { Home } from '@/stages/home/Home';
import { Header } from '@/ui/Header';

export const dynamic = 'force-dynamic';

export default async function HomePage() {
  const { sessions, more } = await homeList();
  return (
    <>
      <Header />
      <Home sessions={sessions} more={more} />
    </>
  );
}
