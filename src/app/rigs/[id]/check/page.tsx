import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { latestJob } from '@/jobs/queue';
import { CheckStage } from '@/stages/check/CheckStage';
import { latestReadings, readRig } from '@/store';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Camera check' };
export const dynamic = 'force-dynamic';

type Props = {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ profile?: string; session?: string }>;
};

export default async function Page({ params, searchParams }: Props) {
  const [{ id }, wanted] = [await params, await searchParams];
  const kept = await readRig(id);
  if (!kept) notFound();
  const { profiles, camera } = kept.item;
  const profile = Math.min(profiles.length - 1, Math.max(0, Math.trunc(Number(wanted.profile ?? 0)) || 0));
  const [job, found] = wanted.session
    ? await Promise.all([latestJob(wanted.session), latestReadings(wanted.session)])
    : [null, null];
  // An address of a series that isn't there any more shows what is kept.
  const series =
    wanted.session && (job || found)
      ? { session: wanted.session, job, check: found?.readings.check ?? null, faults: found?.readings.faults ?? [], measured: found !== null } // prettier-ignore
      : null;
  return (
    <>
      <Header stage="kits" />
      <CheckStage rig={{ id, camera, profiles }} profile={profile} series={series} />
    </>
  );
}
