import { CurveChart } from './CurveChart';

const DARKEST = -14;

/** A camera's curve, light in stops over the code, with what is uncertain of it dotted. */
export function DoubtedCurve({
  points,
  height,
}: {
  points: readonly { code: number; stops: number; u95: number }[];
  height: number;
}) {
  const lines = [-1, 0, 1].map((side) =>
    points.map(({ code, stops, u95 }) => [100 * code, stops + side * u95] as const),
  );
  const stops = points.map((one) => one.stops);
  return (
    <CurveChart
      label="Light in stops against the code value in percent, with what is uncertain of it"
      height={height}
      curves={lines.map((line, i) => ({
        points: line,
        ink: i === 1 ? 'bright' : 'gray',
        dash: i === 1 ? 'solid' : 'dotted',
      }))}
      x={{ min: 0, max: 100, interval: 25, name: 'code value, % of full scale' }}
      y={{
        min: Math.max(DARKEST, Math.floor(Math.min(...stops) / 2) * 2),
        max: Math.max(2, Math.ceil(Math.max(...stops) / 2) * 2),
        interval: 2,
        name: 'light, stops',
      }}
    />
  );
}
