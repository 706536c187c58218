import type { CarryAnswer } from '@/core/judging/carry/carry';
import { hoursInWords, shareInWords, strengthOf } from './words';

/** The kit: what each filter adds to those above it. */
export function StepTable({ answer: { steps, bare, hours } }: { answer: CarryAnswer }) {
  const share = (covered: number) => (
    <td className="text-right whitespace-nowrap">
      <span className="inline-flex items-center gap-2">
        <span aria-hidden className="hidden sm:block w-24 h-2 rounded-sm bg-well overflow-hidden">
          <span className="block h-full bg-accent" style={{ width: `${(100 * covered) / Math.max(1e-9, hours)}%` }} />
        </span>
        <span className="w-[6ch]">{shareInWords(covered, hours)}</span>
      </span>
    </td>
  );
  const cell = 'pr-3 py-1 text-right whitespace-nowrap';
  return (
    <div className="relative bg-sheet rounded-sheet p-3 overflow-x-auto">
      <table className="w-full text-label tabular-nums">
        <caption className="sr-only">What to carry, in the order of what it adds</caption>
        <thead>
          <tr className="text-left text-ink-3">
            <th scope="col" className="font-medium pr-3 pb-1">
              Filter
            </th>
            {['Stops', 'Adds, a year', 'Covered so far'].map((name) => (
              <th key={name} scope="col" className="font-medium pr-3 pb-1 last:pr-0 text-right whitespace-nowrap">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row" className="text-left font-medium pr-3 py-1">
              No filter
            </th>
            <td className={cell}>0</td>
            <td className={cell}>{hoursInWords(bare)}</td>
            {share(bare)}
          </tr>
          {steps.map(({ offer, isOwned, adds, covered }) => (
            <tr key={offer.id} className="border-t border-rule">
              <th scope="row" className="text-left font-medium pr-3 py-1">
                {offer.name}
                <span className="block text-small text-ink-3 font-normal">
                  {offer.kit}
                  {isOwned ? ', you have it' : ''}
                </span>
              </th>
              <td className={cell}>{strengthOf(offer)}</td>
              <td className={cell}>{adds > 0 ? `+${hoursInWords(adds)}` : 'nothing'}</td>
              {share(covered)}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
