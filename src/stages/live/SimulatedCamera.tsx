'use client';

import { useState } from 'react';
import { SHOT_MISTAKES, type ShotMistake } from '@/core/sitting/live/mistakes';
import { Button } from '@/ui/Button';
import { sameWords, Select, type Option } from '@/ui/controls/Select';

const MISTAKES: readonly Option<ShotMistake | ''>[] = [['', 'no mistake'], ...sameWords(SHOT_MISTAKES)];

/** A stand-in for the camera: shoots the take at hand, rightly or with a mistake. */
export function SimulatedCamera({ sessionId }: { sessionId: string }) {
  const [mistake, setMistake] = useState<ShotMistake | ''>('');
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState('');

  async function shoot() {
    setBusy(true);
    setSaid('Shooting …');
    // What is chosen while it shoots is for the next one.
    setMistake('');
    try {
      const answer = await fetch(`/api/sessions/${sessionId}/camera`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ mistake: mistake === '' ? null : mistake }),
      });
      const { shot, error } = (await answer.json()) as { shot?: string | null; error?: string };
      setSaid(error ?? (shot ? `Shot: ${shot}` : 'All planned takes are shot.'));
    } catch {
      setSaid('The server doesn’t answer.');
    } finally {
      setBusy(false);
    }
  }

  return (
    <section aria-label="Simulated camera" className="grid gap-2">
      <h2>Simulated camera</h2>
      <p className="text-ink-2 max-w-[62ch]">
        No camera at hand? The stand-in shoots the take that comes next, also with a mistake, to see what is told.
      </p>
      <div className="flex items-center gap-3 flex-wrap">
        <Select label="What goes wrong" value={mistake} options={MISTAKES} onChange={setMistake} />
        <Button onClick={() => void shoot()} disabled={busy}>
          {busy ? 'Shooting …' : 'Shoot the next take'}
        </Button>
        <span role="status" className="text-ink-2">
          {said}
        </span>
      </div>
      <p className="text-label text-ink-3 [overflow-wrap:anywhere]">
        By itself: <code>./glade camera {sessionId} FOLDER</code> shoots into a folder, and{' '}
        <code>./glade watch FOLDER</code> takes in what a camera, a card reader or a tethering program writes there.
      </p>
    </section>
  );
}
