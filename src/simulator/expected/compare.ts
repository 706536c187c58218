/** Readings of a simulated session beside what it should show, figure by figure. */
import type { FilterReadings, Reading, Readings } from '@/core/session/readings';
import type { BenchPlan, TrueFilter } from '../truth';
import { expectedCast } from './color';
import { expectedGraduation } from './graduation';
import { expectedMarkStops, expectedUnevenness } from './marks';
import { expectedCut, expectedSweep } from './polarizer';
import { expectedCorner } from './shading';
import { expectedKept, expectedKeptAtQuarter } from './sharpness';
import { expectedStrength } from './strength';
import { expectedVeil } from './veil';

export const COMPARED = [
  'strength', 'channel', 'a*', 'b*', 'ΔE00', 'kept', 'kept at ¼', 'corner', 'veil',
  'brightest', 'darkest', 'extinction', 'axis', 'glare cut', 'sky', 'mark', 'unevenness', 'clear', 'dense', 'midline', 'width', 'tilt',
] as const; // prettier-ignore
export type Compared = (typeof COMPARED)[number];

/** One figure; `u95` and `error` are `null` where it is withheld. */
export interface Comparison {
  measure: Compared;
  filter: string;
  /** Found less expected. */
  error: number | null;
  u95: number | null;
}

/** Every figure of a session that has a truth. */
export function compareWithTruth(plan: BenchPlan, { filters }: Pick<Readings, 'filters'>): Comparison[] {
  return plan.filters.flatMap((truth) => {
    const found = filters.find((one) => one.filter === truth.id);
    return found ? [...ofPlain(plan, truth, found), ...ofTurned(plan, truth, found)] : [];
  });
}

type Row = (measure: Compared, found: Reading | undefined, expected: number, period?: number) => Comparison;

function rowsOf(filter: string): Row {
  return (measure, found, expected, period = 0) => {
    if (!found) return { measure, filter, error: null, u95: null };
    const apart = found.value - expected;
    return { measure, filter, error: period > 0 ? apart - period * Math.round(apart / period) : apart, u95: found.u95 };
  };
}

/** Strength, cast, sharpness, corners and veil of filters that have one of each. */
function ofPlain(
  plan: BenchPlan,
  truth: TrueFilter,
  { density, cast, sharpness, shading, flare }: FilterReadings,
): Comparison[] {
  if (truth.polarizer || truth.variable || truth.graduation) return [];
  const row = rowsOf(truth.id);
  const isWalk = plan.scenes.includes('outdoor');
  const color = expectedCast(truth.stops);
  const kept = expectedKept(plan, truth);
  const corner = expectedCorner(plan, truth.cornerStops ?? 0);
  const channels = (['r', 'g', 'b'] as const).map((c, i) => {
    // On a bench the filter's own fall reaches into the gray card.
    const reach = expectedStrength(plan, truth) - expectedStrength(plan, { ...truth, cornerStops: 0 });
    return row('channel', density?.channels[c], truth.stops[i] + (isWalk ? 0 : reach));
  });
  return [
    row('strength', density?.stops, expectedStrength(plan, isWalk ? { ...truth, cornerStops: 0 } : truth)),
    ...channels,
    row('a*', cast?.a, color.a),
    row('b*', cast?.b, color.b),
    row('ΔE00', cast?.deltaE00, color.deltaE00),
    ...(sharpness ?? []).map((one) =>
      one.atFrequency === undefined
        ? row('kept', one.retained, kept)
        : row('kept at ¼', one.retained, expectedKeptAtQuarter(plan, truth)),
    ),
    ...Object.values(shading?.corners ?? {}).map((one) => row('corner', one, corner)),
    ...(plan.scenes.includes('flare') ? [row('veil', flare?.veilPercent, expectedVeil(plan, truth))] : []),
  ];
}

/** Polarizers, variable and graduated filters. */
function ofTurned(plan: BenchPlan, truth: TrueFilter, { polarizer, marks, graduation }: FilterReadings): Comparison[] {
  const row = rowsOf(truth.id);
  const rows: Comparison[] = [];
  const { polarization, scenes } = plan;
  if (truth.polarizer && polarization && scenes.includes('screen')) {
    const sweep = expectedSweep(polarization, truth);
    rows.push(
      row('brightest', polarizer?.brightest, sweep.brightest),
      row('darkest', polarizer?.darkest, sweep.darkest),
      row('extinction', polarizer?.extinctionStops, sweep.extinction),
      row('axis', polarizer?.axisDegrees, sweep.axisDegrees, 180),
    );
    if (scenes.includes('water'))
      rows.push(row('glare cut', polarizer?.glareCut, expectedCut('water', polarization, truth)));
    if (scenes.includes('sky')) rows.push(row('sky', polarizer?.skyDarkening, expectedCut('sky', polarization, truth)));
  }
  if (truth.variable)
    for (const { mark, stops, unevenness } of marks ?? [])
      rows.push(
        row('mark', stops, expectedMarkStops(plan, truth, mark)),
        row('unevenness', unevenness, expectedUnevenness(plan, truth, mark)),
      );
  if (truth.graduation) {
    const line = expectedGraduation(truth);
    rows.push(
      row('clear', graduation?.clearStops, line.clear),
      row('dense', graduation?.denseStops, line.dense),
      row('midline', graduation?.midline, line.midline),
      row('width', graduation?.transitionWidth, line.width),
      row('tilt', graduation?.angleDegrees, line.angleDegrees, 360),
    );
  }
  return rows;
}
