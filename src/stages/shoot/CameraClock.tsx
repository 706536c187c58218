import { useEffect, useState } from 'react';
import { clockOf } from './words';

/** The phone's clock to photograph, and what the camera's showed at that moment. */
export function CameraClock({ offset, onNote }: { offset: number | null; onNote: (text: string) => void }) {
  const [now, setNow] = useState<number | null>(null);
  const [camera, setCamera] = useState('');
  useEffect(() => {
    const tick = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(tick);
  }, []);
  function note() {
    const match = /^(\d{1,2}):(\d{2})(?::(\d{2}))?$/.exec(camera.trim());
    if (!match) return;
    const moment = new Date();
    moment.setHours(Number(match[1]), Number(match[2]), Number(match[3] ?? 0), 0);
    onNote(moment.toISOString());
    setCamera('');
  }
  return (
    <section aria-label="The camera’s clock" className="mt-6">
      <h2 className="!text-title">The camera’s clock</h2>
      <p className="text-body text-ink-3 mt-0.5">
        Photograph this clock once with the camera, or type what the camera’s clock shows now.
      </p>
      <p className="text-hero font-medium mt-1 tabular-nums">{now === null ? '--:--:--' : clockOf(now)}</p>
      <div className="flex gap-2">
        <input
          aria-label="The camera’s clock shows"
          className="flex-1 h-12 rounded-sheet border border-ink-4 bg-well px-3 text-head min-w-0"
          placeholder="14:05:30"
          value={camera}
          onChange={(event) => setCamera(event.target.value)}
        />
        <button type="button" onClick={note} className="h-12 px-4 rounded-sheet border border-ink-4">
          Note it
        </button>
      </div>
      {offset !== null && (
        <p className="text-body mt-1">
          Noted: the camera is {Math.abs(Math.round(offset / 1000))} s {offset < 0 ? 'behind' : 'ahead'}.
        </p>
      )}
    </section>
  );
}
