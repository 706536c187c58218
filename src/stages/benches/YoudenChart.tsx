import { useMemo } from 'react';
import { youdenOf } from '@/core/judging/agreement/youden';
import type { Shared } from '@/core/judging/agreement/benches';
import { FOLLOWED, type Followed } from '@/core/judging/overTime/lives';
import { ChartFigure, type Drawing } from '@/ui/charts/ChartFigure';
import { youdenOption } from '@/ui/charts/agreementOption';
import { Select } from '@/ui/controls/Select';
import { fixed, signed } from '@/ui/format';

/** Two filters that the same benches measured: what a bench does to both lies along the diagonal. */
export function YoudenChart({
  first,
  others,
  second,
  quality,
  onSecond,
}: {
  first: Shared;
  /** Filters that can stand beside it, with those of the benches that have both. */
  others: readonly Shared[];
  second: Shared;
  quality: Followed;
  onSecond: (key: string) => void;
}) {
  const { unit, noticeable } = FOLLOWED[quality];
  const plot = useMemo(() => youdenOf(pairsOf(first, second)), [first, second]);
  const drawing = useMemo((): Drawing | null => {
    if (!plot) return null;
    const names = [`${first.name}, ${unit}`, `${second.name}, ${unit}`] as const;
    return (theme, size) => youdenOption(plot, names, noticeable / 4, theme, size);
  }, [plot, first, second, unit, noticeable]);
  if (!plot || !drawing) return null;
  return (
    <section aria-label="Two filters" className="grid gap-2 min-w-0">
      <label className="flex items-center gap-2 flex-wrap">
        Beside it
        <Select value={second.key} options={others.map(({ key, name }) => [key, name] as const)} onChange={onSecond} />
      </label>
      <ChartFigure
        title={`${first.name} and ${second.name}`}
        says="A bench that is off along the diagonal does the same to both filters; one off it, to one of them. The circle would hold 95 % of benches that are off by chance alone."
        name="two-filters"
        drawing={drawing}
        height={340}
        head={['Bench', first.name, second.name, 'Both by', 'The first alone by', '']}
        rows={plot.points.map((one) => [
          one.bench,
          fixed(one.first, 3),
          fixed(one.second, 3),
          signed(one.both, 3),
          signed(one.one, 3),
          one.outside ? 'outside' : 'inside',
        ])}
      />
    </section>
  );
}

/** Benches that have both filters. */
export function pairsOf(first: Shared, second: Shared) {
  return first.results.flatMap(({ bench, reading }) => {
    const other = second.results.find((one) => one.bench === bench);
    return other ? [{ bench, first: reading.value, second: other.reading.value }] : [];
  });
}
