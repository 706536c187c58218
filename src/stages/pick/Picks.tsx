import { Printer } from 'lucide-react';
import { formatShutter, shutterMark, writeShutter } from '@/core/formulas/optics/exposure';
import type { Picked } from '@/core/judging/pick/pick';
import type { Answer } from './asked';
import { Best, leftWords, turnOf } from './parts';

/** The filter to put on, all others below it, and the kit's card to print. */
export function Picks({
  answer: { picked, wanted },
  limited,
}: {
  answer: Answer;
  /** Whether a camera's limits are kept. */
  limited: boolean;
}) {
  const [best, ...rest] = picked;
  if (!best) return null;
  return (
    <>
      <section aria-label="The pick" className="mt-5 lg:mt-9 print:hidden">
        <Best picked={best} wanted={wanted} />
        {!limited && <p className="text-label text-ink-3">Without a rig no limit of the camera is kept.</p>}
        <h2 className="mt-6 !text-head">All others</h2>
        <ol className="mt-1 border-t border-rule" data-testid="others">
          {rest.map((one) => (
            <Other key={one.name} picked={one} />
          ))}
        </ol>
        <button
          type="button"
          className="mt-5 h-11 rounded-md border border-ink-4 px-4 flex items-center gap-2"
          onClick={() => window.print()}
        >
          <Printer size={17} aria-hidden /> Print the kit’s card
        </button>
        <p className="text-label text-ink-3 mt-4">
          An exposure within 0.7 EV of the meter’s is workable by common practice. Flying, mind the rules of the place
          and the maker’s manual; never point camera or eye at the sun.
        </p>
      </section>
      <p
        aria-hidden
        className="lg:hidden print:hidden fixed bottom-0 inset-x-0 bg-ink text-on-ink px-4 py-2.5 flex justify-between gap-3 text-head"
      >
        <b>
          {best.name}
          {turnOf(best)}
        </b>
        <span>
          {writeShutter(best.settings.seconds)}, {leftWords(best.over)}
        </span>
      </p>
    </>
  );
}

function Other({ picked }: { picked: Picked }) {
  return (
    <li className="border-b border-rule py-2 grid grid-cols-[minmax(0,1fr)_auto] gap-x-3">
      <span className="font-strong truncate">
        {picked.name}
        {turnOf(picked)}
      </span>
      <span className="text-right">
        {formatShutter(shutterMark(picked.rightSeconds))}{' '}
        <span className="text-label text-ink-3">{leftWords(picked.left)}</span>
      </span>
      <span className="text-label text-ink-3 col-span-2">
        {picked.words} {picked.u95 === null && 'By its label alone.'}
      </span>
    </li>
  );
}
