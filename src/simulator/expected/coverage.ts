/** How well ± keep their word over many figures: how often they hold the truth, and how wide they are against the errors. */
import { median, quantileSorted } from 'd3-array';
import { COMPARED, type Comparison, type Compared } from './compare';

export interface Coverage {
  measure: Compared;
  /** Figures that were given, and those withheld. */
  count: number;
  withheld: number;
  /** Share of errors inside u95. */
  held: number;
  medianError: number;
  largestError: number;
  medianU95: number;
  /** Median u95 over median error: 2.97 where errors are normal and u95 is two standard deviations. */
  width: number;
}

/** Coverage by measure, in the order of {@link COMPARED}; measures of which no figure was given are left out. */
export function coverageOf(rows: readonly Comparison[]): Coverage[] {
  return COMPARED.flatMap((measure): Coverage[] => {
    const all = rows.filter((row) => row.measure === measure);
    const given = all.flatMap(({ error, u95 }) =>
      error === null || u95 === null ? [] : [{ error: Math.abs(error), u95 }],
    );
    if (given.length === 0) return [];
    const errors = given.map(({ error }) => error).sort((a, b) => a - b);
    const medianError = quantileSorted(errors, 0.5)!;
    const medianU95 = median(given, ({ u95 }) => u95)!;
    return [
      {
        measure,
        count: given.length,
        withheld: all.length - given.length,
        held: given.filter(({ error, u95 }) => error <= u95).length / given.length,
        medianError,
        largestError: errors[errors.length - 1],
        medianU95,
        width: medianU95 / medianError,
      },
    ];
  });
}

/** The table as lines of text. */
export function coverageTable(rows: readonly Comparison[]): string[] {
  const head = 'measure         n  withheld     held  median |error|   largest  median u95  u95/|error|';
  return [
    head,
    ...coverageOf(rows).map(
      ({ measure, count, withheld, held, medianError, largestError, medianU95, width }) =>
        `${measure.padEnd(12)}${String(count).padStart(5)}${String(withheld).padStart(10)}${(100 * held).toFixed(1).padStart(7)} %${medianError.toFixed(5).padStart(16)}${largestError.toFixed(5).padStart(10)}${medianU95.toFixed(5).padStart(12)}${width.toFixed(2).padStart(13)}`,
    ),
  ];
}

/** Least share of truths inside u95, and bounds of median u95 over median error. */
export type CoverageBounds = Partial<Record<Compared, readonly [held: number, narrowest: number, widest: number]>>;

/** Measures whose ± lies outside their bounds. */
export function notWithin(rows: readonly Comparison[], bounds: CoverageBounds): Compared[] {
  return coverageOf(rows).flatMap(({ measure, held, width }) => {
    const own = bounds[measure];
    return own && (held < own[0] || width < own[1] || width > own[2]) ? [measure] : [];
  });
}

/** The same figures with every ± so many times as wide: what a gate has to notice. */
export const scaledBy = (rows: readonly Comparison[], factor: number): Comparison[] =>
  rows.map((row) => ({ ...row, u95: row.u95 === null ? null : factor * row.u95 }));
