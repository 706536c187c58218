'use client';

import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import type { PutAwayEntry } from '@/server/putAway';
import { putBenchAwayAction } from '@/server/benchActions';
import { putReportAwayAction } from '@/server/reportActions';
import { putAwayAction } from '@/server/sessionActions';
import { putAwayFromShelfAction } from '@/server/shelfActions';
import { Button } from '@/ui/Button';
import { useTell } from '@/ui/controls/Toasts';
import { Link } from '@/ui/Link';
import { notAnswered } from '@/ui/saving/asked';

const KINDS = {
  session: { words: 'session', place: '/' },
  kit: { words: 'kit', place: '/kits' },
  rig: { words: 'rig', place: '/kits' },
  bench: { words: 'bench', place: '/benches' },
  report: { words: 'report', place: '/reports' },
} as const;

const bringBack = ({ kind, id }: PutAwayEntry) => {
  if (kind === 'session') return putAwayAction(id, false);
  if (kind === 'bench') return putBenchAwayAction(id, false);
  return kind === 'report' ? putReportAwayAction(id, false) : putAwayFromShelfAction(kind, id, false);
};

/** Everything that was put away, with the way back. */
export function PutAwayList({ entries }: { entries: PutAwayEntry[] }) {
  const tell = useTell();
  const [back, setBack] = useState<ReadonlySet<string>>(new Set());
  const [busy, setBusy] = useState<string | null>(null);

  async function bring(entry: PutAwayEntry) {
    setBusy(entry.id);
    const result = await bringBack(entry).catch(notAnswered);
    setBusy(null);
    if (!result.ok) return tell({ words: result.error, bad: true });
    setBack((known) => new Set([...known, entry.id]));
    tell({ words: `“${entry.name}” is back.` });
  }

  const left = entries.filter(({ id }) => !back.has(id));
  return (
    <main id="main" className="w-full max-w-[860px] mx-auto px-[18px] py-7">
      <h1>Put away</h1>
      <p className="text-ink-2 text-lead mt-1 mb-5 max-w-[62ch]">
        Sessions, kits, rigs, reports and other people’s benches that you put away stay here for 30 days; then they go
        for good, with the pictures that nothing else uses.
      </p>
      {left.length === 0 ? (
        <p className="text-ink-2">
          Nothing is put away. <Link href="/">All sessions</Link>
        </p>
      ) : (
        <ul className="border-t border-rule" aria-label="What is put away">
          {left.map((entry) => (
            <li key={entry.id} className="border-b border-rule py-3 flex items-center gap-x-4 gap-y-1 flex-wrap">
              <span className="min-w-0 flex-1 basis-[260px]">
                <span className="text-head font-strong block truncate" title={entry.name}>
                  {entry.name}
                </span>
                <span className="text-ink-3">
                  {KINDS[entry.kind].words}, put away on {entry.at.slice(0, 10)},{' '}
                  {entry.until ? `kept until ${entry.until.slice(0, 10)}` : 'kept for its frozen versions'}
                </span>
              </span>
              <Button
                disabled={busy === entry.id}
                onClick={() => void bring(entry)}
                aria-label={`Bring “${entry.name}” back`}
              >
                <Undo2 size={16} aria-hidden /> Bring it back
              </Button>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
