'use client';

import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { takeInCheckAction } from '@/server/checkActions';
import { Button } from '@/ui/Button';
import { FilePicker, type Picking } from '@/ui/controls/FilePicker';
import { Refusal } from './Refusal';
import { useAsked } from './useAsked';

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
      <Refusal words={problem} />
    </>
  );
}
