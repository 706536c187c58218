'use client';

import { ChevronDown } from 'lucide-react';
import type { BudgetLine, DensityReadings } from '@/core/session/readings';
import { Disclosure } from '@/ui/controls/Disclosure';
import { fixed, percent } from '@/ui/format';

/** From the ink down to the sheet, whatever the room. */
const SHADES = [90, 62, 38, 22, 12].map((part) => `color-mix(in srgb, var(--color-ink) ${part}%, var(--color-sheet))`);

/**
 * Where a ± comes from: a bar of the shares of the variance, which opens into the table of contributions.
 *
 * @param unit what the contributions are counted in, as "thousandths …"
 */
export function BudgetBar({
  lines,
  unit,
  advice,
  sensitivities,
  degreesOfFreedom,
}: {
  lines: readonly BudgetLine[];
  unit: string;
  advice?: string;
  sensitivities?: DensityReadings['sensitivities'];
  degreesOfFreedom?: number | null;
}) {
  const shown = lines.filter((line) => line.share >= 0.005);
  return (
    <div className="mt-2.5">
      <Disclosure
        plain
        label="Where the ± comes from: open the table"
        words={
          <>
            <span className="flex justify-between text-small text-ink-3">
              Where the ± comes from
              <ChevronDown size={15} aria-hidden className="group-data-[state=open]:rotate-180" />
            </span>
            <span className="flex h-2.5 rounded-md overflow-hidden mt-1.5 mb-1" aria-hidden>
              {shown.map((line, i) => (
                <i
                  key={line.source}
                  className="block"
                  style={{ width: `${100 * line.share}%`, background: SHADES[Math.min(i, SHADES.length - 1)] }}
                />
              ))}
            </span>
            <span className="block text-small text-ink-2">
              {shown.map((line) => `${line.source} ${percent(line.share)}`).join(' · ')}
            </span>
          </>
        }
      >
        <BudgetTable lines={lines} unit={unit} sensitivities={sensitivities} degreesOfFreedom={degreesOfFreedom} />
      </Disclosure>
      {advice && <p className="text-small text-ink-2 mt-1.5">{advice}</p>}
    </div>
  );
}

function BudgetTable({
  lines,
  unit,
  sensitivities,
  degreesOfFreedom,
}: {
  lines: readonly BudgetLine[];
  unit: string;
  sensitivities?: DensityReadings['sensitivities'];
  degreesOfFreedom?: number | null;
}) {
  const total = Math.sqrt(lines.reduce((sum, line) => sum + line.u * line.u, 0));
  const thousandths = (value: number | undefined) => (value === undefined ? '–' : fixed(1000 * value, 2));
  const cell = 'text-right pl-2 py-px';
  const channels = sensitivities !== undefined;
  return (
    <table className="w-full text-small mt-2" data-testid="budget">
      <caption className="text-left text-ink-3 pb-1">
        Standard uncertainties in thousandths {unit}
        {channels && '; the sensitivities say how much of each channel’s reaches the figure'}.
      </caption>
      <thead>
        <tr className="text-ink-3">
          <th className="text-left font-medium">from</th>
          {channels &&
            ['R', 'G', 'B'].map((name) => (
              <th key={name} className={`${cell} font-medium`}>
                {name}
              </th>
            ))}
          <th className={`${cell} font-medium`}>u</th>
          <th className={`${cell} font-medium`}>share</th>
          <th className={`${cell} font-medium`} title="Degrees of freedom">
            ν
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.source}>
            <th scope="row" className="text-left font-normal text-ink-2">
              {line.source}
            </th>
            {channels &&
              [0, 1, 2].map((c) => (
                <td key={c} className={cell}>
                  {thousandths(line.channels?.[c])}
                </td>
              ))}
            <td className={cell}>{thousandths(line.u)}</td>
            <td className={`${cell} whitespace-nowrap`}>{percent(line.share)}</td>
            <td className={cell}>{freedom(line.degreesOfFreedom)}</td>
          </tr>
        ))}
        {sensitivities && (
          <tr className="border-t border-rule">
            <th scope="row" className="text-left font-normal text-ink-2">
              sensitivity
            </th>
            {(['r', 'g', 'b'] as const).map((c) => (
              <td key={c} className={cell}>
                {fixed(sensitivities[c])}
              </td>
            ))}
            <td colSpan={3} />
          </tr>
        )}
        <tr className="border-t border-rule font-semibold">
          <th scope="row" className="text-left">
            together
          </th>
          {channels && <td colSpan={3} />}
          <td className={cell}>{thousandths(total)}</td>
          <td className={cell} />
          <td className={cell}>{degreesOfFreedom === undefined ? '' : freedom(degreesOfFreedom)}</td>
        </tr>
      </tbody>
    </table>
  );
}

function freedom(value: number | null): string {
  return value === null || value > 999 ? '∞' : fixed(value, 0);
}
