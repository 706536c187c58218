import type { Change } from '@/core/judging/overTime/change';
import { FOLLOWED, type FilterLife, type Followed } from '@/core/judging/overTime/lives';
import { figure, told } from './words';

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
        <thead>
          <tr className="text-left text-ink-3">
            {['Filter', 'Sittings', 'From', 'To', `Change, ${unit}`, 'A year', ''].map((name, i) => (
              <th
                key={name}
                scope="col"
                className={`font-medium pr-3 pb-1 whitespace-nowrap ${i > 0 && name ? 'text-right' : ''}`}
              >
                {name || <span className="sr-only">In a word</span>}
              </th>
            ))}
          </tr>
        </thead>
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
                  <td className="pr-3 text-right whitespace-nowrap">{figure(change.first)}</td>
                  <td className="pr-3 text-right whitespace-nowrap">{figure(change.last)}</td>
                  <td className="pr-3 text-right whitespace-nowrap">{told(change.over)}</td>
                  <td className="pr-3 text-right whitespace-nowrap">{change.perYear ? told(change.perYear) : '–'}</td>
                  <td className={`whitespace-nowrap ${change.word === 'changed' ? 'font-semibold' : ''}`}>
                    {WORDS[change.word]}
                  </td>
                </>
              ) : (
                <>
                  <td className="pr-3 text-right whitespace-nowrap">{figure(points[0].reading)}</td>
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
