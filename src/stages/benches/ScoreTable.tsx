import type { Grouping } from '@/core/judging/agreement/benches';
import type { Consensus } from '@/core/judging/agreement/consensus';
import { signed, signedWithU95, withU95 } from '@/ui/format';
import { wordOf } from './words';
import { FiguresHead } from '@/ui/FiguresHead';

/** Every bench's figure, what it is off by, and its scores. */
export function ScoreTable({
  consensus: { scores },
  by,
  what,
  unit,
}: {
  consensus: Consensus;
  by: Grouping;
  what: string;
  unit: string;
}) {
  return (
    <div className="relative bg-sheet rounded-sheet p-3 overflow-x-auto">
      <table className="w-full text-label tabular-nums">
        <caption className="sr-only">{what} by bench</caption>
        <FiguresHead names={['Bench', `Found, ${unit}`, 'Off the others by', 'Eₙ', 'z']} />
        <tbody>
          {scores.map(({ bench, reading, off, en, z, word }, i) => (
            <tr key={`${bench} ${i}`}>
              <th scope="row" className="text-left font-medium pr-3 py-1 min-w-[120px]">
                {bench}
              </th>
              <td className="pr-3 text-right whitespace-nowrap">{withU95(reading)}</td>
              <td className="pr-3 text-right whitespace-nowrap">{signedWithU95(off)}</td>
              <td className="pr-3 text-right whitespace-nowrap">{signed(en, 1)}</td>
              <td className="pr-3 text-right whitespace-nowrap">{signed(z, 1)}</td>
              <td className={`whitespace-nowrap ${word === 'agrees' ? '' : 'font-semibold'}`}>{wordOf(word, by)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
