'use client';

import { useRouter } from 'next/navigation';
import type { KeptRig } from '@/core/sitting/kits/keptRig';
import { Select } from '@/ui/controls/Select';
import { Link } from '@/ui/Link';
import { CheckDrop } from './CheckDrop';
import { CheckGuide } from './CheckGuide';
import { CheckRunning } from './CheckRunning';
import { FreshCheck, KeptCheck } from './KeptCheck';
import type { CheckSeries } from './series';

/** A camera's check: which pictures to shoot, the pictures, and what they told. */
export function CheckStage({
  rig,
  profile,
  series,
}: {
  rig: { id: string; camera: string; profiles: KeptRig['profiles'] };
  profile: number;
  series: CheckSeries | null;
}) {
  const router = useRouter();
  const own = rig.profiles[profile];
  const running = series?.job && ['queued', 'running'].includes(series.job.state);
  if (!own)
    return (
      <Frame rig={rig}>
        <p className="text-ink-2 text-lead mt-2">
          This rig has no profile yet.{' '}
          <Link href={`/rigs/${rig.id}`} className="underline">
            Add one
          </Link>{' '}
          first: a check belongs to one.
        </p>
      </Frame>
    );
  return (
    <Frame rig={rig}>
      <p className="text-ink-2 text-lead mt-1 max-w-[70ch]">
        Cameras bend the curve that their files tell. Twenty-two bare pictures, ten minutes, and the app knows how this
        one does: later sittings need no extra pictures, and their ± gets smaller.
      </p>
      {rig.profiles.length > 1 && (
        <label className="flex gap-2 items-center mt-4">
          <span className="text-ink-2">Profile</span>
          <Select
            label="Profile"
            className="min-w-[200px]"
            value={String(profile)}
            options={rig.profiles.map((one, i) => [String(i), one.name] as const)}
            onChange={(chosen) => router.push(`/rigs/${rig.id}/check?profile=${chosen}`)}
          />
        </label>
      )}
      {series && (running || !series.measured) && <CheckRunning series={series} />}
      {series && !running && series.measured && (
        <FreshCheck rig={rig.id} profile={profile} before={own.check} series={series} />
      )}
      {!series && own.check && <KeptCheck rig={rig.id} profile={profile} check={own.check} before={own.before} />}
      <div className="grid gap-8 mt-7 lg:grid-cols-[1fr_1.1fr]">
        <CheckGuide />
        <CheckDrop rig={rig} profile={profile} checked={own.check !== undefined} />
      </div>
    </Frame>
  );
}

function Frame({ rig, children }: { rig: { id: string; camera: string }; children: React.ReactNode }) {
  return (
    <main id="main" className="px-[18px] py-[18px] w-full max-w-[1180px] mx-auto">
      <p className="text-small">
        <Link href={`/rigs/${rig.id}`} className="underline text-ink-2">
          {rig.camera || 'The rig'}
        </Link>
      </p>
      <h1>Camera check</h1>
      {children}
    </main>
  );
}
