/** What to shoot next: the picture that would bring the figure down whose ± says least about its rating. */
import type { BudgetLine, FilterReadings, Reading, Readings } from '../../session/readings';
import { helpFor } from '../../words/advice';
import { DEFAULT_BANDS, type Bands } from './bands';

export type NarrowedFigure = 'strength' | 'cast' | 'sharpness' | 'corners';

export type NextPicture =
  /** Figures that are withheld come first: what the notes say of them. */
  | { kind: 'withheld'; filters: string[]; remedy: string }
  | {
      kind: 'narrow';
      filter: string;
      figure: NarrowedFigure;
      u95: number;
      /** What most of the ± is, in words, and its share of the variance. */
      what: string;
      share: number;
      /** The ± without it. */
      without: number;
      /** What to shoot, in words. */
      how: string;
    };

/** A ± that is less of its first bound than this tells its rating well enough. Our own judgement. */
const WORTH = 0.25;

/** The next picture for a session's readings; `null` where every ± tells its rating. */
export function nextPicture({ filters }: Pick<Readings, 'filters'>, bands: Bands = DEFAULT_BANDS): NextPicture | null {
  const withheld = commonRemedy(filters);
  if (withheld) return withheld;
  const [widest] = filters
    .flatMap((one) => figuresOf(one, bands))
    .filter((one) => one.u95 / one.bound > WORTH)
    .sort((a, b) => b.u95 / b.bound - a.u95 / a.bound);
  if (!widest) return null;
  const { filter, figure, u95, line } = widest;
  const { what, how } = helpFor(line.source)!;
  return {
    kind: 'narrow',
    filter,
    figure,
    u95,
    what,
    share: line.share,
    without: u95 * Math.sqrt(1 - line.share),
    how,
  };
}

/** The remedy that gives most figures that are withheld, and whose they are. */
function commonRemedy(filters: readonly FilterReadings[]): NextPicture | null {
  const byRemedy = new Map<string, string[]>();
  for (const { filter, faults } of filters)
    for (const { severity, remedy } of faults)
      if (severity === 'error' && remedy) byRemedy.set(remedy, [...(byRemedy.get(remedy) ?? []), filter]);
  const [most] = [...byRemedy].sort((a, b) => b[1].length - a[1].length);
  return most ? { kind: 'withheld', remedy: most[0], filters: [...new Set(most[1])] } : null;
}

interface Figure {
  filter: string;
  figure: NarrowedFigure;
  u95: number;
  /** Up to where its first word goes. */
  bound: number;
  line: BudgetLine;
}

function figuresOf({ filter, density, cast, sharpness, shading }: FilterReadings, bands: Bands): Figure[] {
  const [leastSure] = [...(sharpness ?? [])].sort((a, b) => b.retained.u95 - a.retained.u95);
  const all: [NarrowedFigure, Reading | undefined, readonly BudgetLine[] | undefined, number][] = [
    ['strength', density?.stops, density?.budget, bands.strength[0].upTo],
    ['cast', cast?.deltaE00, cast?.budget, bands.cast[0].upTo],
    // Three hundredths of a loss are hardly ever told apart: up to the second word's end.
    ['sharpness', leastSure?.retained, leastSure?.budget, bands.sharpness[1].upTo],
    ['corners', shading?.worst, shading?.budget, bands.corners[0].upTo],
  ];
  return all.flatMap(([figure, reading, budget, bound]) => {
    const [line] = budget ?? [];
    return reading && line && helpFor(line.source)?.shootable
      ? [{ filter, figure, u95: reading.u95, bound, line }]
      : [];
  });
}
