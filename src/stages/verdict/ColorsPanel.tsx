import type { ColorReadings } from '@/core/session/readings';
import { fixed, plusMinus, signed } from '@/ui/format';
import { Panel } from './Panel';

/** What the filter does to colored surfaces once the pictures are equally bright. */
export function ColorsPanel({
  colors,
  nameOf = (patch) => patch,
}: {
  colors: readonly ColorReadings[];
  /** What people call a patch. */
  nameOf?: (patch: string) => string;
}) {
  const head = 'text-right font-medium pl-3 align-bottom';
  const cell = 'text-right pl-3 whitespace-nowrap';
  return (
    <Panel title="Colors" method="colors" word="after levelling">
      <table className="w-full text-label mt-2">
        <thead>
          <tr className="text-ink-3 text-small">
            <th className="text-left font-medium align-bottom">surface</th>
            <th className={head}>
              chroma,
              <br />
              times bare
            </th>
            <th className={head}>hue turned</th>
            <th className={head}>
              darker than
              <br />
              neutral
            </th>
            <th className={head}>
              chroma
              <br />
              as shot
            </th>
          </tr>
        </thead>
        <tbody>
          {colors.map((one) => (
            <tr key={`${one.scene}/${one.patch}`} className="border-t border-rule">
              <td className="py-1">
                {nameOf(one.patch)}
                {one.atDegrees === undefined ? null : (
                  <span className="unit ml-1.5">at {fixed(one.atDegrees, 0)}°</span>
                )}
              </td>
              <td className={cell}>
                {fixed(one.chromaRatio.value)} <span className="unit">{plusMinus(one.chromaRatio.u95)}</span>
              </td>
              <td className={cell}>
                {signed(one.hueShiftDegrees.value, 1)}°{' '}
                <span className="unit">{plusMinus(one.hueShiftDegrees.u95, 1)}</span>
              </td>
              <td className={cell}>
                {signed(one.contrastStops.value)} <span className="unit">{plusMinus(one.contrastStops.u95)}</span>
              </td>
              <td className={`${cell} text-ink-3`}>{fixed(one.asShotRatio)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-small text-ink-3 mt-2">
        A darker picture looks more or less colorful by itself; the first figures are free of that, the last one isn’t.
      </p>
    </Panel>
  );
}
