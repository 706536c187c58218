/**
 * A control chart of single results: is a bench still what it was? Individuals and moving range with the Western Electric rules
 * (NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2 and 6.3.2.2).
 */
import { mean } from '../../formulas/statistics/averages';

/** Mean range of two normal results over their standard deviation. */
const D2 = 1.128;
/** Fewer results give no limits worth the name. */
export const LEAST_RESULTS = 6;

/** Western Electric's four rules, told on one side of the center line. */
export type Rule = 'beyond 3σ' | '2 of 3 beyond 2σ' | '4 of 5 beyond 1σ' | '8 on one side';

export interface Signal {
  rule: Rule;
  side: 'above' | 'below';
  /** Results that make it, first and last. */
  from: number;
  to: number;
}

export interface ControlChart {
  center: number;
  /** From the mean moving range, so that a slow drift doesn't widen its own limits. */
  sigma: number;
  lower: number;
  upper: number;
  /** Each result's distance to the one before it. */
  ranges: number[];
  /** By rule, the strongest first; what lies within a stretch of a stronger one on its side is left out. */
  signals: Signal[];
}

const RULES: readonly { rule: Rule; of: number; need: number; sigmas: number }[] = [
  { rule: 'beyond 3σ', of: 1, need: 1, sigmas: 3 },
  { rule: '2 of 3 beyond 2σ', of: 3, need: 2, sigmas: 2 },
  { rule: '4 of 5 beyond 1σ', of: 5, need: 4, sigmas: 1 },
  { rule: '8 on one side', of: 8, need: 8, sigmas: 0 },
];

/**
 * @param values results in the order of time
 * @returns `null` for fewer than {@link LEAST_RESULTS}, or where all are equal
 */
export function controlChart(values: readonly number[]): ControlChart | null {
  if (values.length < LEAST_RESULTS) return null;
  const ranges = values.slice(1).map((one, i) => Math.abs(one - values[i]));
  const center = mean(values);
  const sigma = mean(ranges) / D2;
  if (!(sigma > 0)) return null;
  const off = values.map((one) => (one - center) / sigma);
  const below = off.map((z) => -z);
  const all = RULES.flatMap((one) => [...told(off, one, 'above'), ...told(below, one, 'below')]);
  // What a stronger rule tells of the same sittings needs no second word.
  const signals = all.filter(
    (one, i) => !all.slice(0, i).some(({ side, from, to }) => side === one.side && from <= one.from && one.to <= to),
  );
  return { center, sigma, lower: center - 3 * sigma, upper: center + 3 * sigma, ranges, signals };
}

/** Stretches in which a rule holds, windows that overlap or follow each other as one. */
function told(
  off: readonly number[],
  { rule, of, need, sigmas }: (typeof RULES)[number],
  side: Signal['side'],
): Signal[] {
  const found: Signal[] = [];
  for (let end = 0; end < off.length; end++) {
    // The last of a window makes it: else what was told already would be told again by a result inside.
    if (!(off[end] > sigmas)) continue;
    const start = Math.max(0, end - of + 1);
    const beyond = off.slice(start, end + 1).flatMap((z, i) => (z > sigmas ? [start + i] : []));
    if (beyond.length < need) continue;
    const last = found.at(-1);
    if (last && beyond[0] <= last.to + 1) last.to = end;
    else found.push({ rule, side, from: beyond[0], to: end });
  }
  return found;
}
