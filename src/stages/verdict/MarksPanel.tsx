import type { FilterReadings } from '@/core/session/readings';
import { CurveChart } from '@/ui/charts/CurveChart';
import { StopMap } from '@/ui/charts/StopMap';
import { fixed, plusMinus } from '@/ui/format';
import { Panel } from './Panel';

/** A variable filter's marks against what they take, and where the crossed pattern begins. */
export function MarksPanel({ readings }: { readings: FilterReadings }) {
  const { marks = [], variable } = readings;
  const worst = [...marks].sort((a, b) => (b.unevenness?.value ?? 0) - (a.unevenness?.value ?? 0))[0];
  const highest = Math.max(...marks.map((one) => one.stops.value)) + 0.1;
  // A whole number of the axis's steps, so that its top isn't written over the one below.
  const most = highest > 6 ? 2 * Math.ceil(highest / 2) : Math.ceil(highest);
  const ends = [marks[0].mark, marks[marks.length - 1].mark];
  const aside = worst?.map && (worst.unevenness?.value ?? 0) > 0.1 ? { mark: worst.mark, map: worst.map } : null;
  return (
    <Panel title="Marks" method="variable-filters" word={`${marks.length} marks`}>
      <div className={aside ? 'grid gap-x-8 gap-y-3 md:grid-cols-[minmax(0,1fr)_minmax(0,300px)] items-start' : ''}>
        <div className="min-w-0">
          {variable && (
            <>
              {variable.sentences.map((sentence) => (
                <p key={sentence} className="text-ink-2 mt-1">
                  {sentence}
                </p>
              ))}
              <div className="mt-2">
                <CurveChart
                  label={`Stops by mark, from ${fixed(variable.lightest.value)} to ${fixed(variable.darkest.value)}`}
                  curves={[
                    { points: variable.curve, ink: 'bright' },
                    ...marks.map((one) => ({
                      points: [[one.mark, one.stops.value]] as [number, number][],
                      ink: 'bright' as const,
                      dots: true,
                    })),
                  ]}
                  x={{ min: ends[0], max: ends[1], interval: ends[1] - ends[0] <= 8 ? 1 : undefined, name: 'mark' }}
                  y={{ min: 0, max: most, interval: most > 6 ? 2 : 1, name: 'stops' }}
                  height={170}
                />
              </div>
            </>
          )}
          <table className="w-full text-label mt-2">
            <thead>
              <tr className="text-ink-3 text-small">
                <th className="text-left font-medium">mark</th>
                <th className="text-right font-medium">stops</th>
                <th className="text-right font-medium">cast ΔE00</th>
                <th className="text-right font-medium">sharpness</th>
                <th className="text-right font-medium">unevenness</th>
              </tr>
            </thead>
            <tbody>
              {marks.map((one) => (
                <tr key={one.mark} className="border-t border-rule">
                  <td className="py-1">{one.mark}</td>
                  <td className="text-right whitespace-nowrap">
                    {fixed(one.stops.value)} <span className="unit">{plusMinus(one.stops.u95)}</span>
                  </td>
                  <td className="text-right">{one.cast ? fixed(one.cast.deltaE00.value, 1) : '–'}</td>
                  <td className="text-right">{one.retained ? fixed(one.retained.value) : '–'}</td>
                  <td className="text-right whitespace-nowrap">
                    {one.unevenness ? (
                      <>
                        {fixed(one.unevenness.value)} <span className="unit">{plusMinus(one.unevenness.u95)}</span>
                      </>
                    ) : (
                      '–'
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        {aside && (
          <div className="mt-3">
            <StopMap
              map={aside.map}
              title={`Mark ${aside.mark} over the frame`}
              darkest={Math.min(-0.1, ...aside.map.stops)}
            />
          </div>
        )}
      </div>
    </Panel>
  );
}
