import type { Metadata } from 'next';
import { NewSession } from '@/stages/newSession/NewSession';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'New session' };

export default function Page() {
  return (
    <>
      <Header />
      <NewSession />
    </>
  );
}
