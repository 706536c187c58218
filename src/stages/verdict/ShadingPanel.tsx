import type { FilterReadings } from '@/core/session/readings';
import { CurveChart } from '@/ui/charts/CurveChart';
import { StopMap, StopScale } from '@/ui/charts/StopMap';
import { fixed, plusMinus } from '@/ui/format';
import { BudgetBar } from './Budget';
import { Panel } from './Panel';

type Shading = NonNullable<FilterReadings['shading']>;

const CORNERS = [
  ['topLeft', 'top left'],
  ['topRight', 'top right'],
  ['bottomLeft', 'bottom left'],
  ['bottomRight', 'bottom right'],
] as const;

/** Shading of a filter: what it adds beside what the lens does alone, corners, profile; several fields side by side. */
export function ShadingPanel({ shading, words }: { shading: Shading; words: (string | undefined)[] }) {
  const others = (shading.others as Shading[] | undefined) ?? [];
  const fields = [shading, ...others];
  // One scale for all maps, so that the filter isn't blamed for the lens, nor one field for another's.
  const darkest = Math.min(-0.1, ...fields.flatMap(({ map, lens }) => [...map.stops, ...lens.stops]));
  return (
    <Panel title="Corners" method="corners" word={words.filter(Boolean).join(', ')}>
      {fields.map((field) => (
        <div key={field.scene} className="mt-3">
          {fields.length > 1 && <h3 className="text-label font-strong mb-1">“{field.scene}”</h3>}
          <div className="grid grid-cols-2 gap-3">
            <StopMap map={field.map} title="The filter adds" darkest={darkest} />
            <StopMap map={field.lens} title="The lens alone" darkest={darkest} />
          </div>
        </div>
      ))}
      <div className="mt-2">
        <StopScale darkest={darkest} />
      </div>
      <Profile fields={fields} />
      <table className="w-full text-label mt-1">
        {fields.length > 1 && (
          <thead>
            <tr className="text-ink-3 text-small">
              <td />
              {fields.map((field) => (
                <th key={field.scene} className="text-right font-medium">
                  {field.scene}
                </th>
              ))}
            </tr>
          </thead>
        )}
        <tbody>
          {CORNERS.map(([key, name]) => (
            <tr key={key}>
              <th scope="row" className="text-left font-normal text-ink-2">
                {name}
              </th>
              {fields.map((field) => (
                <Figure key={field.scene} reading={field.corners[key]} />
              ))}
            </tr>
          ))}
          {fields.some(({ hotSpot }) => hotSpot) && (
            <tr>
              <th scope="row" className="text-left font-normal text-ink-2">
                hot spot
              </th>
              {fields.map(({ scene, hotSpot }) =>
                hotSpot === undefined || hotSpot.value > 0 ? (
                  <Figure key={scene} reading={hotSpot} />
                ) : (
                  <td key={scene} className="text-right">
                    none
                  </td>
                ),
              )}
            </tr>
          )}
          {fields.some(({ unevenness }) => unevenness) && (
            <tr>
              <th scope="row" className="text-left font-normal text-ink-2">
                unevenness, whole field
              </th>
              {fields.map(({ scene, unevenness }) => (
                <Figure key={scene} reading={unevenness} />
              ))}
            </tr>
          )}
        </tbody>
      </table>
      {shading.budget && shading.budget.length > 0 && (
        <BudgetBar lines={shading.budget} unit="of a stop, darkest corner" advice={shading.advice} />
      )}
    </Panel>
  );
}

function Figure({ reading }: { reading?: { value: number; u95: number } }) {
  return (
    <td className="text-right whitespace-nowrap">
      {reading ? (
        <>
          {fixed(reading.value, 3)} <span className="unit">stops {plusMinus(reading.u95, 3)}</span>
        </>
      ) : (
        'withheld'
      )}
    </td>
  );
}

function Profile({ fields }: { fields: readonly Shading[] }) {
  const all = fields.flatMap(({ profile }) => profile.map(([, stops]) => stops));
  const lowest = Math.min(-0.02, ...all);
  const step = [0.02, 0.05, 0.1, 0.25, 0.5, 1].find((one) => -lowest / one <= 4) ?? 2;
  const top = Math.max(...all) > step / 4 ? step : 0;
  return (
    <CurveChart
      label="Stops against the distance from the center"
      height={140}
      curves={fields.map(({ profile }, i) => ({
        points: profile,
        ink: i === 0 ? ('bright' as const) : ('gray' as const),
        dash: i === 0 ? ('solid' as const) : ('dashed' as const),
        dots: true,
      }))}
      x={{ min: 0, max: 1, interval: 0.25, name: 'distance from the center, half diagonals' }}
      y={{ min: Math.floor(lowest / step - 1e-9) * step, max: top, interval: step, name: 'stops' }}
    />
  );
}
