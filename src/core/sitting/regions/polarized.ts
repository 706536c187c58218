/** Where to measure on water and sky: the sky itself, and an even place that neither shines nor reflects beside it. */
import { findEvenAreas, type EvenArea } from './evenAreas';
import type { Survey } from './survey';

/** A sky is bluer than the rest by this much, log2 of blue over green against the commonest tone. Our own judgement. */
const BLUE = 0.15;

/** Even areas of the upper half that are bluer than gray, most open first. */
export function findSky(survey: Survey, most: number): EvenArea[] {
  const blue = (cell: number) =>
    Math.floor(cell / survey.columns) < 0.6 * survey.rows && survey.blueness[cell] > BLUE ? 1 : 0;
  return findEvenAreas(survey, most, blue).filter((area) => blue(cellOf(area, survey)) === 1);
}

/**
 * An even, fairly bright place that isn't sky: matt walls, stones and gray cards polarize little.
 *
 * @returns `null` where there is none
 */
export function findReference(survey: Survey): EvenArea | null {
  const brightest = Math.max(...survey.light);
  const plain = (cell: number) =>
    survey.blueness[cell] > BLUE ? 0 : Math.sqrt(survey.light[cell] / brightest) / (1 + Math.abs(survey.redness[cell]));
  return findEvenAreas(survey, 1, plain)[0] ?? null;
}

function cellOf({ column, row, columns, rows }: EvenArea, survey: Survey): number {
  return (row + (rows >> 1)) * survey.columns + column + (columns >> 1);
}
