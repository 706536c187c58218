import { illuminanceLux } from '@/core/formulas/optics/exposure';
import type { Plan, PlanRequest } from '@/core/sitting/planning/plan';
import { fixed } from '@/ui/format';

/** Stops of light that are missing from here on are told. */
export const LEAST_SHORT = 0.05;

/** The light that every filter needs, what is short, and what helps. */
export function LightBudget({
  request,
  plan,
  nameOf,
}: {
  request: PlanRequest;
  plan: Plan;
  nameOf: (id: string) => string;
}) {
  const have = illuminanceLux(request.ev100, 100);
  return (
    <section aria-label="Light budget" className="mt-5">
      <h2>
        Light budget{' '}
        <small className="font-normal text-label text-ink-2">
          {lux(have)} at the chart, EV {fixed(request.ev100, 1)} at ISO 100
        </small>
      </h2>
      <table className="w-full mt-1 text-label">
        <thead>
          <tr className="text-ink-3 text-small text-left border-b border-rule">
            <th className="font-medium py-1">Filter</th>
            <th className="font-medium text-right pr-4">Needs</th>
            <th className="font-medium text-right pr-4">Short at base ISO by</th>
            <th className="font-medium">What helps, cheapest first</th>
          </tr>
        </thead>
        <tbody>
          {plan.outlook.map(({ filter, strength, need, cannot }) => (
            <tr key={filter} className="border-b border-rule align-top">
              <th scope="row" className="text-left font-strong py-1.5 whitespace-nowrap pr-4">
                {nameOf(filter)}
              </th>
              <td className="text-right whitespace-nowrap pr-4 py-1.5">
                {strength === null ? 'no label' : lux(need.lux)}
              </td>
              <td className="text-right whitespace-nowrap pr-4 py-1.5">
                {need.short < LEAST_SHORT ? '–' : `${fixed(need.short, 1)} stops`}
              </td>
              <td className="py-1.5 text-ink-2">
                {cannot && <b className="text-warning font-semibold">{cannot} </b>}
                {need.remedies.map((one) => `${fixed(one.stops, 1)} stops: ${one.words}`).join('; ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-small text-ink-3 mt-1">
        Needs are those of the slowest shutter that the target allows, at base ISO and the chosen aperture.
      </p>
    </section>
  );
}

function lux(value: number): string {
  const digits = Math.max(0, Math.floor(Math.log10(value)) - 1);
  return `${(Math.round(value / 10 ** digits) * 10 ** digits).toLocaleString('en-US')} lx`;
}
