'use client';

import { useState } from 'react';
import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/controls/Checkbox';

const MISHAPS = [
  ['cloud', 'a cloud passes one take'],
  ['swapped', 'two neighbors are exchanged'],
  ['missed', 'one take is forgotten'],
  ['ring', 'the ring isn’t turned once'],
] as const;

/** The stand-in camera: the whole course can be practiced with no camera, and with what goes wrong. */
export function Practice({
  sessionId,
  onCard,
}: {
  sessionId: string;
  /** Lays what the card holds. */
  onCard: (files: ArrivedFile[]) => Promise<void>;
}) {
  const [mishaps, setMishaps] = useState<string[]>([]);
  const [state, setState] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  async function shoot() {
    setBusy(true);
    setState('Shooting and developing …');
    try {
      const answer = await fetch(`/api/sessions/${sessionId}/practice`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ mishaps }),
      });
      const { files, error } = (await answer.json()) as { files?: ArrivedFile[]; error?: string };
      if (!files) throw new Error(error ?? 'The simulated bench gave no pictures.');
      await onCard(files);
      setState(null);
    } catch (error) {
      setState((error as Error).message);
    } finally {
      setBusy(false);
    }
  }

  return (
    <section aria-label="Simulated bench" className="mt-7 print:hidden">
      <h2>Simulated bench</h2>
      <p className="text-ink-2 mt-1 max-w-[66ch]">
        No camera at hand? The stand-in shoots this plan, with filters that are a little off their labels, and lays the
        card’s pictures on their takes. Choose what shall go wrong, and see what is caught.
      </p>
      <div className="flex gap-x-5 gap-y-1.5 flex-wrap mt-2">
        {MISHAPS.map(([mishap, words]) => (
          <Checkbox
            key={mishap}
            checked={mishaps.includes(mishap)}
            onChange={(on) => setMishaps((now) => (on ? [...now, mishap] : now.filter((one) => one !== mishap)))}
          >
            {words}
          </Checkbox>
        ))}
      </div>
      <div className="flex items-center gap-4 mt-3">
        <Button onClick={() => void shoot()} disabled={busy}>
          Shoot with the stand-in
        </Button>
        {state && <span role="status">{state}</span>}
      </div>
    </section>
  );
}
