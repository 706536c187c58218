import type { FilterReadings, Readings } from '@/core/session/readings';
import { VerdictShape } from '@/ui/VerdictShape';
import { castOf, toneOf } from './castOf';
import { decimalsFor, fixed, plusMinus, signed } from '@/ui/format';

/** One row a filter. A withheld figure is a dash; the notes below say why. */
export function VerdictTable({
  readings,
  nameOf,
  selected,
  onSelect,
}: {
  readings: Readings;
  nameOf: (id: string) => string;
  selected: string | null;
  onSelect: (id: string) => void;
}) {
  const decimals = Math.min(
    3,
    Math.max(2, ...readings.filters.map((one) => (one.density ? decimalsFor(one.density.stops.u95) : 2))),
  );
  const extras = {
    sharpness: readings.filters.some((one) => one.sharpness),
    corners: readings.filters.some((one) => one.shading),
  };
  const kits = new Set(readings.filters.map((one) => one.kit));
  const head = 'font-medium py-1.5 px-2 align-bottom';
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse" data-testid="verdicts">
        <thead>
          <tr className="text-ink-3 text-[12px] text-left border-b border-[#5a5a5a]">
            <th className={head}>Filter</th>
            <th className={`${head} text-right`}>
              Label
              <br />
              stops
            </th>
            <th className={`${head} text-right`}>
              Found
              <br />
              stops
            </th>
            <th className={`${head} text-right pr-4`}>Error</th>
            <th className={head}>Strength</th>
            <th className={head}>Acts like</th>
            <th className={`${head} text-right pr-4`}>
              Cast
              <br />
              ΔE00
            </th>
            <th className={head}>Tone</th>
            {extras.sharpness && (
              <th className={`${head} text-right`}>
                Sharpness
                <br />
                kept
              </th>
            )}
            {extras.corners && (
              <th className={`${head} text-right`}>
                Darkest
                <br />
                corner
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {readings.filters.map((one) => (
            <Row
              key={one.filter}
              one={one}
              name={nameOf(one.filter)}
              kit={kits.size > 1 ? one.kit : null}
              decimals={decimals}
              extras={extras}
              active={one.filter === selected}
              onSelect={() => onSelect(one.filter)}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Row({
  one,
  name,
  kit,
  decimals,
  extras,
  active,
  onSelect,
}: {
  one: FilterReadings;
  name: string;
  kit: string | null;
  decimals: number;
  extras: { sharpness: boolean; corners: boolean };
  active: boolean;
  onSelect: () => void;
}) {
  const { density, verdict, variable } = one;
  const cast = castOf(one);
  const labelSpan =
    variable?.errors &&
    `${fixed(variable.lightest.value - variable.errors.low.value, 0)} to ${fixed(variable.darkest.value - variable.errors.high.value, 0)}`;
  const softest = [...(one.sharpness ?? [])].sort((a, b) => a.retained.value - b.retained.value)[0];
  const cell = 'py-2 px-2';
  const dash = <span className="text-ink-3">–</span>;
  return (
    <tr
      onClick={onSelect}
      className={`border-b border-[#484848] cursor-pointer ${active ? 'bg-sheet' : 'hover:bg-[#404040]'}`}
    >
      <th scope="row" className={`${cell} text-left`}>
        <button
          type="button"
          onClick={onSelect}
          aria-pressed={active}
          className={`font-[650] text-left ${active ? 'text-accent' : ''}`}
        >
          {name}
          {kit && <span className="unit ml-1.5">{kit}</span>}
        </button>
      </th>
      <td className={`${cell} text-right whitespace-nowrap`}>
        {one.nominalStops === null ? (labelSpan ?? dash) : fixed(one.nominalStops)}
      </td>
      <td className={`${cell} text-right whitespace-nowrap`}>
        {density ? (
          <>
            {fixed(density.stops.value, decimals)}{' '}
            <span className="unit">{plusMinus(density.stops.u95, decimals)}</span>
          </>
        ) : (
          (spanInWords(one) ?? dash)
        )}
      </td>
      <td className={`${cell} text-right pr-4 whitespace-nowrap`}>
        {density?.error ? signed(density.error.value) : (errorInWords(one) ?? dash)}
      </td>
      <td className={`${cell} whitespace-nowrap`}>
        <VerdictShape label={verdict.label} />
        {verdict.label}
      </td>
      <td className={cell}>{density?.actsLike ? actsLike(density.actsLike.ndFactor) : dash}</td>
      <td className={`${cell} text-right pr-4`}>{cast ? fixed(cast.deltaE00.value, 1) : dash}</td>
      <td className={`${cell} whitespace-nowrap`}>{toneOf(one) ?? dash}</td>
      {extras.sharpness && <td className={`${cell} text-right`}>{softest ? fixed(softest.retained.value) : dash}</td>}
      {extras.corners && (
        <td className={`${cell} text-right`}>{one.shading?.worst ? fixed(one.shading.worst.value) : dash}</td>
      )}
    </tr>
  );
}

/** From the lightest to the darkest mark, or both halves of a graduated filter; `null` for one strength. */
function spanInWords({ variable, graduation }: FilterReadings): string | null {
  if (variable) return `${fixed(variable.lightest.value)} to ${fixed(variable.darkest.value)}`;
  if (graduation) return `${fixed(graduation.clearStops.value)} | ${fixed(graduation.denseStops.value)}`;
  return null;
}

/** What both ends of a labelled range, or a dense half, are off by. */
function errorInWords({ variable, graduation, nominalStops }: FilterReadings): string | null {
  if (variable?.errors) return `${signed(variable.errors.low.value)}, ${signed(variable.errors.high.value)}`;
  if (graduation && nominalStops !== null) return signed(graduation.denseStops.value - nominalStops);
  return null;
}

/** The nearest label; "clear" for one that takes next to nothing. */
export function actsLike(factor: number): string {
  return factor === 1 ? 'clear' : `ND${factor}`;
}
