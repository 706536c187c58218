'use client';

import { useRouter } from 'next/navigation';
import type { CameraCheck } from '@/core/session/cameraCheck';
import { dropCheckAction, keepCheckAction } from '@/server/checkActions';
import { Button, buttonClass } from '@/ui/Button';
import { CheckFigures } from './CheckFigures';
import type { CheckSeries } from './series';
import { TakeIn } from './TakeIn';
import { Refusal } from './Refusal';
import { useAsked } from './useAsked';

/** What a series that was just measured tells; kept with the profile when asked for. */
export function FreshCheck({
  rig,
  profile,
  before,
  series: { session, check, faults },
}: {
  rig: string;
  profile: number;
  /** The profile's check so far. */
  before?: CameraCheck;
  series: CheckSeries;
}) {
  const router = useRouter();
  const { problem, busy, ask } = useAsked();
  if (!check)
    return (
      <section aria-label="No check" className="mt-5">
        <p role="alert" className="text-failure">
          These pictures give no check.
        </p>
        <ul className="text-ink-2 mt-2 flex flex-col gap-1 max-w-[80ch]">
          {faults.length === 0 && (
            <li>Their files tell how their codes became light (raw, log, linear, a profile): they need none.</li>
          )}
          {faults.map(({ message, remedy }) => (
            <li key={message}>
              {message} {remedy}
            </li>
          ))}
        </ul>
      </section>
    );
  return (
    <CheckFigures check={check} before={before} faults={faults}>
      <Button
        look="main"
        disabled={busy}
        onClick={() =>
          void ask(
            () => keepCheckAction(rig, profile, session),
            () => router.push(`/rigs/${rig}/check?profile=${profile}`),
          )
        }
      >
        Keep with the rig
      </Button>
      <Refusal words={problem} />
    </CheckFigures>
  );
}

/** A check that is kept with a profile: taken away, another one taken in. */
export function KeptCheck({
  rig,
  profile,
  check,
  before,
}: {
  rig: string;
  profile: number;
  check: CameraCheck;
  before?: CameraCheck;
}) {
  const router = useRouter();
  const { problem, busy, ask } = useAsked();
  const file = (format: string) => `/api/rigs/${rig}/check?profile=${profile}&format=${format}`;
  return (
    <CheckFigures check={check} before={before} faults={[]}>
      {(['json', 'csv', 'cube'] as const).map((format) => (
        <a key={format} href={file(format)} download className={buttonClass()}>
          {format === 'cube' ? '1-D .cube' : format.toUpperCase()}
        </a>
      ))}
      <TakeIn rig={rig} profile={profile} />
      <Button
        look="quiet"
        disabled={busy}
        onClick={() => void ask(() => dropCheckAction(rig, profile), () => router.refresh())} // prettier-ignore
      >
        Remove
      </Button>
      <Refusal words={problem} />
    </CheckFigures>
  );
}
