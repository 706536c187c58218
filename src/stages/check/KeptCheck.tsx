'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import type { CameraCheck } from '@/core/session/cameraCheck';
import { dropCheckAction, keepCheckAction, takeInCheckAction } from '@/server/checkActions';
import type { ActionResult } from '@/server/asked';
import { Button, buttonClass } from '@/ui/Button';
import { FilePicker, type Picking } from '@/ui/controls/FilePicker';
import { NO_LINE_NOW } from '@/ui/saving/asked';
import { CheckFigures } from './CheckFigures';
import type { CheckSeries } from './series';

/** Asks, and shows what is wrong where it is refused. */
function useAsked() {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  async function ask(work: () => Promise<ActionResult>, then: () => void) {
    setBusy(true);
    const answer = await work().catch(() => NO_LINE_NOW);
    setBusy(false);
    setProblem(answer.ok ? null : answer.error);
    if (answer.ok) then();
  }
  return { problem, busy, ask };
}

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
      {problem && (
        <p role="alert" className="text-failure">
          {problem}
        </p>
      )}
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
      {problem && (
        <p role="alert" className="text-failure">
          {problem}
        </p>
      )}
    </CheckFigures>
  );
}

/** Takes in a check's JSON file. */
export function TakeIn({ rig, profile }: { rig: string; profile: number }) {
  const router = useRouter();
  const picker = useRef<Picking>(null);
  const { problem, busy, ask } = useAsked();
  return (
    <>
      <Button look="quiet" disabled={busy} onClick={() => picker.current?.open()}>
        Take one in
      </Button>
      <FilePicker
        picking={picker}
        label="Check file"
        accept=".json"
        onFiles={
          ([file]) =>
          void file.text().then((text) => ask(() => takeInCheckAction(rig, profile, text), () => router.refresh())) // prettier-ignore
        }
      />
      {problem && (
        <p role="alert" className="text-failure">
          {problem}
        </p>
      )}
    </>
  );
}
