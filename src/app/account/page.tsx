import type { Metadata } from 'next';
import { Account } from '@/stages/people/Account';
import { accountView } from '@/server/account';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Your account' };

export default async function AccountPage() {
  return (
    <>
      <Header />
      <Account account={await accountView()} />
    </>
  );
}
