import type { Change } from '@/core/judging/overTime/change';
import { FOLLOWED, type FilterLife, type Followed } from '@/core/judging/overTime/lives';
import { withU95, signedWithU95 } from '@/ui/format';
import { FiguresHead } from '@/ui/FiguresHead';

const WORDS: Record<Change['word'], string> = {
  changed: 'changed',
  'perhaps changed': 'perhaps changed',
  steady: 'steady',
  open: 'can’t be told yet',
};

/** Every filter's change; one is drawn. */
export function ChangeTable({
  filters,
  quality,
  shown,
  onShow,
}: {
  filters: readonly FilterLife[];
  quality: Followed;
  shown: string | null;
  onShow: (filter: string) => void;
}) {
  const { unit } = FOLLOWED[quality];
  return (
    <div className="relative bg-sheet rounded-sheet p-3 overflow-x-auto">
      <table className="w-full text-label tabular-nums">
        <caption className="sr-only">Change of {quality} by filter</caption>
        <FiguresHead names={['Filter', 'Sittings', 'From', 'To', `Change, ${unit}`, 'A year']} />
        <tbody>
          {filters.map(({ filter, name, points, change }) => (
            <tr key={filter} className={filter === shown ? 'bg-raised' : ''}>
              <th scope="row" className="text-left font-medium pr-3 py-1">
                <button
                  type="button"
                  aria-pressed={filter === shown}
                  onClick={() => onShow(filter)}
                  className="underline underline-offset-2 px-1 -mx-1 py-0.5"
                >
                  {name}
                </button>
              </th>
              <td className="pr-3 text-right">{points.length}</td>
              {change ? (
                <>
                  <td className="pr-3 text-right whitespace-nowrap">{withU95(change.first)}</td>
                  <td className="pr-3 text-right whitespace-nowrap">{withU95(change.last)}</td>
                  <td className="pr-3 text-right whitespace-nowrap">{signedWithU95(change.over)}</td>
                  <td className="pr-3 text-right whitespace-nowrap">
                    {change.perYear ? signedWithU95(change.perYear) : '–'}
                  </td>
                  <td className={`whitespace-nowrap ${change.word === 'changed' ? 'font-semibold' : ''}`}>
                    {WORDS[change.word]}
                  </td>
                </>
              ) : (
                <>
                  <td className="pr-3 text-right whitespace-nowrap">{withU95(points[0].reading)}</td>
                  <td colSpan={4} className="text-right">
                    one day only
                  </td>
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
