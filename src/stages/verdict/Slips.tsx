'use client';

import { CircleHelp } from 'lucide-react';
import { useState } from 'react';
import type { Slip } from '@/core/judging/slips';
import { undoAction } from '@/server/editActions';
import { editTakesAction } from '@/server/takeActions';
import { Button } from '@/ui/Button';
import { useTell } from '@/ui/controls/Toasts';
import { notAnswered } from '@/ui/saving/asked';

/** What may have been a slip of the hand, with a press that puts it right. */
export function Slips({ slips, sessionId }: { slips: readonly Slip[]; sessionId: string }) {
  const tell = useTell();
  const [busy, setBusy] = useState(false);
  if (slips.length === 0) return null;

  async function putRight(slip: Slip) {
    setBusy(true);
    const result = await editTakesAction(sessionId, slip.edits).catch(notAnswered);
    setBusy(false);
    if (!result.ok) return tell({ words: result.error, bad: true });
    const { revision, refused } = result;
    if (refused.length > 0) tell({ words: refused[0], bad: true });
    if (revision === null) return;
    tell({
      words: 'Put right. Measure again to renew the figures.',
      action: { words: 'Undo', run: () => void undoAction(sessionId, revision) },
    });
  }
  return (
    <ul className="mt-3.5 grid gap-2" aria-label="Questions">
      {slips.map((slip) => (
        <li
          key={slip.question}
          className="flex gap-x-4 gap-y-2 items-center flex-wrap bg-well border-l-[3px] border-accent rounded-r-md px-3.5 py-2.5"
        >
          <span className="flex gap-2.5 grow basis-[300px]">
            <CircleHelp size={18} aria-hidden className="text-accent shrink-0 mt-px" />
            {slip.question}
          </span>
          <Button disabled={busy} onClick={() => void putRight(slip)}>
            {slip.answer}
          </Button>
        </li>
      ))}
    </ul>
  );
}
