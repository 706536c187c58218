import type { Metadata } from 'next';
import { SignIn } from '@/stages/people/SignIn';

export const metadata: Metadata = { title: 'Sign in' };

type Props = { searchParams: Promise<Record<string, string | string[] | undefined>> };

export default async function SignInPage({ searchParams }: Props) {
  const { to } = await searchParams;
  return <SignIn to={typeof to === 'string' ? to : '/'} />;
}
