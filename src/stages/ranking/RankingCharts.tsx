import { useMemo } from 'react';
import { QUALITIES, type Ranking as Order } from '@/core/judging/ranking/rank';
import { ChartFigure, type Drawing } from '@/ui/charts/ChartFigure';
import { castsOption } from '@/ui/charts/castsOption';
import { breakdownOption } from '@/ui/charts/options';
import { fixed, signed } from '@/ui/format';

/** Scores by quality, and the casts of all filters. */
export function RankingCharts({ order }: { order: Order }) {
  const breakdown = useMemo(
    (): Drawing => (theme, size) =>
      breakdownOption(
        QUALITIES,
        order.kits.map(({ kit, qualities }) => ({ name: kit.name, scores: QUALITIES.map((one) => qualities[one]) })),
        theme,
        size,
      ),
    [order],
  );
  const casts = useMemo(
    (): Drawing => (theme, size) =>
      castsOption(
        order.kits.map(({ kit }) => ({
          name: kit.name,
          rows: kit.filters.flatMap(({ name, cast }) =>
            cast ? [{ name, a: cast.a.value, b: cast.b.value, u95: [cast.a.u95, cast.b.u95] as const }] : [],
          ),
        })),
        theme,
        size,
      ),
    [order],
  );
  if (order.kits.length === 0) return null;
  return (
    <div className="grid gap-[18px] mt-[18px] xl:grid-cols-2">
      <ChartFigure
        title="Scores by quality"
        says="Each kit’s score from 0 to 100 in what counts; no bar where it wasn’t measured."
        name="scores"
        drawing={breakdown}
        height={80 + 34 * QUALITIES.length}
        head={['Quality', ...order.kits.map(({ kit }) => kit.name)]}
        rows={QUALITIES.map((one) => [
          one,
          ...order.kits.map(({ qualities }) => (qualities[one] === null ? 'not measured' : fixed(qualities[one], 1))),
        ])}
      />
      <ChartFigure
        title="Casts of all filters"
        says="Right is redder, up is yellower, a halo is the ±. Names too close together to stand by their dots are in the table."
        name="casts"
        drawing={casts}
        height={430}
        head={['Kit', 'Filter', 'a*', 'b*']}
        rows={order.kits.flatMap(({ kit }) =>
          kit.filters.flatMap(({ name, cast }) =>
            cast ? [[kit.name, name, signed(cast.a.value), signed(cast.b.value)]] : [],
          ),
        )}
      />
    </div>
  );
}
