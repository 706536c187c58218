import { useState } from 'react';
import type { HistoryEntry } from '@/server/details';
import { bringBackAction, undoAction } from '@/server/editActions';
import { Button } from '@/ui/Button';
import { useTell } from '@/ui/controls/Toasts';
import { notAnswered } from '@/ui/saving/asked';
import { When } from '@/ui/When';

/** A moment as its reader's clock has it; rendered on the server it is universal time. */
/** The last states of the session, each with the way back to it. */
export function History({ sessionId, entries }: { sessionId: string; entries: readonly HistoryEntry[] }) {
  const tell = useTell();
  const [busy, setBusy] = useState<number | null>(null);

  async function bringBack(entry: HistoryEntry) {
    setBusy(entry.number);
    const result = await bringBackAction(sessionId, entry.number).catch(notAnswered);
    setBusy(null);
    if (!result.ok) return tell({ words: result.error, bad: true });
    const { revision } = result;
    if (revision === null) return tell({ words: 'The session is as it was then already.' });
    tell({
      words: 'The session is as it was then.',
      action: { words: 'Undo', run: () => void undoAction(sessionId, revision) },
    });
  }
  return (
    <aside className="bg-sheet rounded-sheet p-[18px]" aria-label="History">
      <h2>History</h2>
      {entries.length === 0 ? (
        <p className="text-ink-2 mt-1">Nothing was changed yet. Each change will stand here, with the way back.</p>
      ) : (
        <ol className="mt-2 max-h-[70vh] overflow-y-auto -mx-1 px-1">
          {entries.map((entry, i) => (
            <li key={entry.number} className="border-t border-rule first:border-0 py-2.5 grid gap-0.5">
              <span className="[overflow-wrap:anywhere]">{entry.words}</span>
              <span className="flex justify-between items-center gap-2 text-ink-3 text-small min-h-[32px]">
                <When at={entry.at} />
                {i === 0 ? (
                  <span>now</span>
                ) : (
                  <Button
                    look="quiet"
                    disabled={busy !== null}
                    aria-label={`Bring back: ${entry.words}`}
                    onClick={() => void bringBack(entry)}
                  >
                    Bring back
                  </Button>
                )}
              </span>
            </li>
          ))}
        </ol>
      )}
    </aside>
  );
}
