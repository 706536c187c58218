'use client';

import type { FilterReadings } from '@/core/session/readings';
import { CardButtons } from '@/ui/CardButtons';
import { CastPlot } from '@/ui/charts/CastPlot';
import { decimalsFor, fixed, plusMinus, signed } from '@/ui/format';
import { BudgetBar } from './Budget';
import { castOf } from './castOf';
import { actsLike, actsLikeOf } from './VerdictTable';

/** The sheet of one filter: strength, where its ± comes from, its cast among the others'. */
export function FilterSheet({
  readings,
  name,
  label,
  all,
  nameOf,
  onSelect,
}: {
  readings: FilterReadings;
  name: string;
  label: string;
  all: FilterReadings[];
  nameOf: (id: string) => string;
  onSelect: (id: string) => void;
}) {
  const { density, cast, verdict } = readings;
  const points = all.flatMap((one) => {
    const shown = castOf(one);
    return shown
      ? [
          {
            id: one.filter,
            name: nameOf(one.filter),
            a: shown.a.value,
            b: shown.b.value,
            u95a: shown.a.u95,
            u95b: shown.b.u95,
          },
        ]
      : [];
  });
  const factor = actsLikeOf(readings);
  const decimals = density ? decimalsFor(density.stops.u95) : 2;
  return (
    <aside aria-label={`Sheet of ${name}`} className="bg-sheet rounded-sheet px-[18px] py-4" data-testid="sheet">
      <h2 className="flex justify-between gap-3 items-baseline">
        {name}
        <small className="font-normal text-label text-ink-2 text-right">
          {label === 'unmarked' ? 'unmarked' : `labelled ${label}`}
          {readings.nominalStops === null ? '' : `, ${fixed(readings.nominalStops)} stops`}
        </small>
      </h2>
      {density ? (
        <>
          <p
            className="text-hero font-medium [font-stretch:106%] tracking-[-0.02em] leading-[1.15] mt-2"
            data-testid="found"
          >
            {fixed(density.stops.value, decimals)}{' '}
            <small className="text-lead font-normal text-ink-2 tracking-normal">
              stops {plusMinus(density.stops.u95, decimals)}
            </small>
          </p>
          {isFromScene(density.byScene) && <p className="text-ink-3 text-small">from an ordinary scene</p>}
          <p className="text-ink-2 mt-1">{verdict.sentence}</p>
          <BudgetBar
            lines={density.budget}
            unit="of a stop"
            advice={density.advice}
            sensitivities={density.sensitivities}
            degreesOfFreedom={density.degreesOfFreedom}
          />
          <dl className="grid grid-cols-[1fr_auto] gap-y-0.5 mt-3">
            {(['r', 'g', 'b'] as const).map((channel) => (
              <Line key={channel} what={{ r: 'red', g: 'green', b: 'blue' }[channel]}>
                {fixed(density.channels[channel].value, decimals)}{' '}
                <span className="unit">stops {plusMinus(density.channels[channel].u95, decimals)}</span>
              </Line>
            ))}
            {factor !== undefined && <Line what="acts like">{actsLike(factor)}</Line>}
            {cast && (
              <Line what="cast">
                ΔE00 {fixed(cast.deltaE00.value)} <span className="unit">{plusMinus(cast.deltaE00.u95)}</span>
              </Line>
            )}
            {cast?.miredShift && (
              <Line what="warm/cool shift">
                {signed(cast.miredShift.value, 1)} <span className="unit">mired</span>
              </Line>
            )}
          </dl>
        </>
      ) : (
        <>
          <SpanFigure readings={readings} />
          <p className="mt-2 text-ink-2">{verdict.sentence}</p>
          {cast && (
            <dl className="grid grid-cols-[1fr_auto] gap-y-0.5 mt-3">
              <Line what={readings.graduation ? 'cast of the dense half' : 'cast'}>
                ΔE00 {fixed(cast.deltaE00.value)} <span className="unit">{plusMinus(cast.deltaE00.u95)}</span>
              </Line>
            </dl>
          )}
        </>
      )}
      {points.length > 0 && (
        <>
          <div className="mt-2 max-w-[252px] mx-auto">
            <CastPlot points={points} selected={readings.filter} onSelect={onSelect} />
          </div>
          <p className="text-small text-ink-3 mt-1">
            Cast in a*, b* at L* 50. Inside the solid ring an eye hardly sees it.
          </p>
        </>
      )}
      {density && (
        <div className="mt-3">
          <CardButtons
            words="As a card:"
            name={readings.filter}
            card={{
              title: name,
              subtitle: label === 'unmarked' ? 'unmarked' : `labelled ${label}`,
              figures: [
                {
                  value: fixed(density.stops.value, decimals),
                  unit: `stops ${plusMinus(density.stops.u95, decimals)}`,
                  what: `strength: ${verdict.label}`,
                },
                ...(cast
                  ? [
                      {
                        value: fixed(cast.deltaE00.value, 1),
                        unit: 'ΔE00',
                        what: `cast: ${verdict.cast ?? cast.direction}`,
                      },
                    ]
                  : []),
              ],
              rows: [
                ...(verdict.sharpness ? [{ name: 'Sharpness', value: '', word: verdict.sharpness }] : []),
                ...(verdict.corners ? [{ name: 'Corners', value: '', word: verdict.corners }] : []),
                ...(verdict.polarizer ? [{ name: 'Polarizer', value: '', word: verdict.polarizer }] : []),
              ],
              foot: verdict.sentence,
            }}
          />
        </div>
      )}
    </aside>
  );
}

/** The headline of a filter with more than one strength. */
function SpanFigure({ readings: { variable, graduation } }: { readings: FilterReadings }) {
  const ends = variable
    ? [variable.lightest, variable.darkest]
    : graduation
      ? [graduation.clearStops, graduation.denseStops]
      : null;
  if (!ends) return null;
  const [low, high] = ends;
  return (
    <p
      className="text-hero font-medium [font-stretch:104%] tracking-[-0.02em] leading-[1.15] mt-2 whitespace-nowrap"
      data-testid="found"
    >
      {fixed(low.value)}
      <span className="text-ink-3 font-normal">{variable ? ' – ' : ' | '}</span>
      {fixed(high.value)}{' '}
      <small className="text-lead font-normal text-ink-2 tracking-normal">
        stops {plusMinus(Math.max(low.u95, high.u95))}
      </small>
    </p>
  );
}

function Line({ what, children }: { what: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-ink-2">{what}</dt>
      <dd className="text-right">{children}</dd>
    </>
  );
}

/** Whether a strength comes from whole registered pictures: where there was no card to tell it by. */
function isFromScene(places: readonly { role?: unknown }[]): boolean {
  return places.some(({ role }) => role === 'frame') && !places.some(({ role }) => role === 'neutral');
}
