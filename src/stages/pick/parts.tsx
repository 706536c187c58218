import type { PickKit } from '@/server/pickList';
import { formatShutter, shutterMark, writeFNumber, writeIso, writeShutter } from '@/core/formulas/optics/exposure';
import type { Picked } from '@/core/judging/pick/pick';
import { fixed, plusMinus, signed } from '@/ui/format';

/** Where a variable filter is turned to; without measured marks by the stops that its label counts. */
export const turnOf = ({ mark, u95 }: Picked) =>
  mark === null ? '' : u95 === null ? ` at about ${fixed(mark, 1)} stops` : ` at mark ${fixed(mark, 1)}`;

export const leftWords = (left: number) => (Math.abs(left) < 0.05 ? 'right' : `${signed(left, 1)} EV`);

/** The filter to put on, and what it leads to. */
export function Best({ picked, wanted }: { picked: Picked; wanted: number }) {
  return (
    <div className="rounded-sheet bg-accent text-on-accent px-5 py-4" role="status" data-testid="pick">
      <p className="text-hero font-strong leading-tight">
        {picked.name}
        {turnOf(picked)}
      </p>
      <p className="text-title mt-1">
        {writeShutter(picked.settings.seconds)}, ISO {writeIso(picked.settings.iso)}, f/
        {writeFNumber(picked.settings.fNumber)}
      </p>
      <p className="mt-2">{picked.words}</p>
      <p className="mt-2 text-body">
        It takes {fixed(picked.stops)} stops{' '}
        {picked.u95 === null ? 'by its label; it wasn’t measured' : picked.u95 > 0 ? plusMinus(picked.u95) : ''}. At the
        ISO and aperture wished for {formatShutter(shutterMark(picked.rightSeconds))} would be right,{' '}
        {writeShutter(wanted)} is wanted.
        {!picked.workable &&
          ' That is more than is workable by common practice: change the light, the shutter or the ISO.'}
      </p>
    </div>
  );
}

/** Bare shutters that a card lists, seconds. */
const BARE = [1 / 4000, 1 / 2000, 1 / 1000, 1 / 500, 1 / 250, 1 / 125, 1 / 60];

/** The kit's true strengths on a card, with what bare shutters become; only printed. */
export function PrintedCard({ kit }: { kit: PickKit }) {
  return (
    <section aria-label={`Card of ${kit.name}`} className="hidden print:block text-ink">
      <h2>{kit.name}</h2>
      <table className="mt-2 text-small border-collapse">
        <thead>
          <tr>
            <th className="text-left pr-4 border-b">filter</th>
            <th className="text-right pr-4 border-b">stops</th>
            {BARE.map((seconds) => (
              <th key={seconds} className="text-right pr-3 border-b">
                {writeShutter(seconds)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {kit.filters.map((one) => (
            <tr key={one.id}>
              <th className="text-left pr-4 border-b">{one.name}</th>
              <td className="text-right pr-4 border-b">
                {one.stops === null ? '–' : fixed(one.stops)}
                {one.u95 === null ? ' (label)' : ` ± ${fixed(one.u95)}`}
              </td>
              {BARE.map((seconds) => (
                <td key={seconds} className="text-right pr-3 border-b">
                  {one.stops === null ? '–' : formatShutter(shutterMark(seconds * 2 ** one.stops))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
