import type { ClipLook } from '@/core/sitting/intake/look';

const WIDTH = 560;
const HEIGHT = 150;
const LEFT = 46;
const BOTTOM = 24;

/** Level of a clip over time, in stops from its first moment, and how red and blue stand to green. */
export function MomentsGraph({ moments, name }: { moments: ClipLook['moments']; name: string }) {
  const log = moments.map(({ light }) => light.map((value) => Math.log2(value + 1e-6)));
  const series = [
    { label: 'level', dash: '', values: log.map(([, green]) => green - log[0][1]) },
    { label: 'red to green', dash: '5 3', values: log.map(([red, green]) => red - green - (log[0][0] - log[0][1])) },
    {
      label: 'blue to green',
      dash: '1.5 3',
      values: log.map(([, green, blue]) => blue - green - (log[0][2] - log[0][1])),
    },
  ];
  const all = series.flatMap((one) => one.values);
  const least = Math.min(-0.1, ...all);
  const most = Math.max(0.1, ...all);
  const end = Math.max(1e-3, moments[moments.length - 1].seconds);
  const x = (seconds: number) => LEFT + ((WIDTH - LEFT - 8) * seconds) / end;
  const y = (stops: number) => 8 + ((HEIGHT - BOTTOM - 8) * (most - stops)) / (most - least);
  const ticks = [least, 0, most].filter((tick, i) => i === 1 || Math.abs(y(tick) - y(0)) > 14);
  const range = Math.max(...series[0].values) - Math.min(...series[0].values);
  return (
    <figure>
      <svg
        role="img"
        aria-label={`Level of ${name} over time: it moves by ${range.toFixed(2)} stop.`}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full max-w-[620px]"
      >
        {ticks.map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={WIDTH - 8} y1={y(tick)} y2={y(tick)} className="stroke-rule" />
            <text x={LEFT - 6} y={y(tick) + 4} textAnchor="end" className="fill-ink-3 text-tiny">
              {tick === 0 ? '0' : tick.toFixed(2).replace('-', '−')}
            </text>
          </g>
        ))}
        {series.map(({ label, dash, values }) => (
          <polyline
            key={label}
            points={values.map((value, i) => `${x(moments[i].seconds)},${y(value)}`).join(' ')}
            className="fill-none stroke-ink"
            strokeWidth={dash === '' ? 2 : 1.2}
            strokeDasharray={dash}
          />
        ))}
        <text x={LEFT} y={HEIGHT - 6} className="fill-ink-3 text-tiny">
          0 s
        </text>
        <text x={WIDTH - 8} y={HEIGHT - 6} textAnchor="end" className="fill-ink-3 text-tiny">
          {end.toFixed(1)} s
        </text>
      </svg>
      <figcaption className="text-ink-3 text-small">
        Stops from the first moment: level solid, red to green dashed, blue to green dotted.
      </figcaption>
    </figure>
  );
}
