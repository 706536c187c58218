import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { People } from '@/stages/people/People';
import { peopleView } from '@/server/account';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'People' };

export default async function PeoplePage() {
  const view = await peopleView();
  if (!view) notFound();
  return (
    <>
      <Header />
      <People view={view} />
    </>
  );
}
