import { QUALITIES, type Ranked, type Weights } from '@/core/judging/ranking/rank';
import type { AcrossKit } from '@/core/judging/ranking/figures';
import { fixed, percent } from '@/ui/format';
import { Link } from '@/ui/Link';

/** One kit in the order: its place, what it is made of, its score with the interval that draws from the ± give. */
export function KitRow({ ranked, count, weights }: { ranked: Ranked; count: number; weights: Weights }) {
  const { kit, rank, score, interval, qualities, ranks } = ranked;
  const across = kit as AcrossKit;
  const missing = QUALITIES.filter((one) => weights.qualities[one] > 0 && qualities[one] === null);
  return (
    <li className="bg-sheet rounded-sheet px-[18px] py-3.5 grid gap-x-5 gap-y-2 items-center sm:grid-cols-[34px_minmax(0,1fr)_220px]">
      <span className="text-figure font-semibold text-ink-2">{rank}</span>
      <div className="min-w-0">
        <h2 className="truncate">{kit.name}</h2>
        <p className="text-ink-2 text-label mt-0.5">
          {QUALITIES.filter((one) => weights.qualities[one] > 0 && qualities[one] !== null)
            .map((one) => `${one} ${Math.round(qualities[one]!)}`)
            .join(' · ')}
          {missing.length > 0 && (
            <span className="text-ink-3">
              {' '}
              · not measured: {missing.join(', ')} ({weights.unmeasured})
            </span>
          )}
        </p>
        <p className="text-ink-3 text-small mt-0.5">
          {ranks
            .map((share, i) => (share >= 0.005 ? `place ${i + 1} in ${percent(share)}` : ''))
            .filter(Boolean)
            .join(', ')}{' '}
          ·{' '}
          {across.sessions?.map((one, i) => (
            <span key={one.id}>
              {i > 0 && ', '}
              <Link href={`/sessions/${one.id}/verdict`} className="underline">
                {one.title}
              </Link>
            </span>
          ))}
        </p>
      </div>
      <div>
        <p className="text-right">
          <span className="text-figure font-medium" data-testid="score">
            {fixed(score, 1)}
          </span>{' '}
          <span className="unit">
            {fixed(interval[0], 1)} to {fixed(interval[1], 1)}
          </span>
        </p>
        <svg viewBox="0 0 200 12" className="w-full h-3 mt-1" aria-hidden>
          <rect x="0" y="5" width="200" height="2" className="fill-rule" />
          <rect
            x={2 * interval[0]}
            y="2"
            width={Math.max(2, 2 * (interval[1] - interval[0]))}
            height="8"
            rx="2"
            className="fill-ink-4"
          />
          <circle cx={2 * score} cy="6" r="5" className={rank === 1 && count > 1 ? 'fill-accent' : 'fill-ink'} />
        </svg>
      </div>
    </li>
  );
}
