'use client';

import { Printer, Radio } from 'lucide-react';
import { Link } from '@/ui/Link';
import { ownLines, plannedOf } from '@/core/sitting/planning/planned';
import { countStates, progressInWords, takesWithFootage, takeStates } from '@/core/sitting/planning/progress';
import { logOf, readLog } from '@/core/sitting/planning/shootLog';
import { Button, buttonClass } from '@/ui/Button';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import { Checklist } from './Checklist';
import { RunOrder } from './RunOrder';

/** The plan that a session was made from, and which of its takes have footage. */
export function SessionPlan({ view }: { view: SessionView }) {
  const { session } = view;
  const [selected, select] = useSelectedFilter(view.beads);
  const planned = plannedOf(session);
  const footage = takesWithFootage(session);
  const states = takeStates(readLog(planned, logOf(session)), footage);
  const progress = countStates(states.values());
  const open = progress.left;
  const filters = session.kits.flatMap((kit) => kit.filters);
  const nameOf = (id: string) => filters.find((filter) => filter.id === id)?.name ?? id;
  return (
    <>
      <StopLadder beads={view.beads} selected={selected} onSelect={select} />
      <main id="main" className="px-[18px] py-[18px] w-full max-w-[1180px] mx-auto">
        {planned.length === 0 ? (
          <>
            <h1>This session has no plan</h1>
            <p className="text-ink-2 mt-2 mb-5">It was made from footage. The next one can be planned first.</p>
            <Link href="/plan" className={buttonClass('plain')}>
              Plan a sitting
            </Link>
          </>
        ) : (
          <>
            <div className="flex justify-between gap-4 items-start flex-wrap">
              <div>
                <h1>
                  {planned.every((take) => footage.has(take.id))
                    ? 'Every planned take has footage'
                    : progressInWords(progress)}
                </h1>
                <p className="text-ink-2 mt-1.5 max-w-[66ch]">
                  Shoot in this order and note what differs; without a camera the stand-in in Footage shoots it. Then
                  drop the files: each is laid on its take by exposure, time, ring angle and name.
                </p>
              </div>
              <div className="flex gap-2 print:hidden">
                <Button look="quiet" onClick={() => window.print()}>
                  <Printer size={16} aria-hidden /> Print
                </Button>
                <Link href={`/sessions/${view.id}/live`} className={buttonClass('quiet')}>
                  <Radio size={16} aria-hidden /> Live
                </Link>
                <Link href={`/sessions/${view.id}/shoot`} className={buttonClass(open > 0 ? 'main' : 'plain')}>
                  Shoot it
                </Link>
                <Link href={`/sessions/${view.id}/footage`} className={buttonClass(open > 0 ? 'plain' : 'main')}>
                  Go on to Footage
                </Link>
              </div>
            </div>
            <RunOrder takes={planned} nameOf={nameOf} states={states} footage={footage} />
            <Checklist own={ownLines(session)} />
          </>
        )}
      </main>
    </>
  );
}
