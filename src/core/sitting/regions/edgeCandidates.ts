/** Finds straight slanted edges on a survey: steps followed from row to row, a line through them, room on both sides. */
import { mean } from '../../formulas/statistics/averages';
import { fitLinear } from '../../formulas/statistics/leastSquares';
import { transposedSurvey, type Survey } from './survey';

/** A window with one edge, in pixels of the picture, before it is measured. */
export interface EdgeCandidate {
  direction: 'upright' | 'level';
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A little below what an edge must have, since cells blur it. */
const LEAST_CONTRAST = 0.17;
const LEAST_ROWS = 6;
/** Farthest that a step may wander from row to row, in cells: 15° are 0.27. */
const WANDER = 0.6;
/** Rows at both ends of a run that are left out: the corner of the thing is there. */
const ENDS = 1;
const STEEPEST = Math.tan((15.5 * Math.PI) / 180);
const FLATTEST = Math.tan((1.5 * Math.PI) / 180);
/** Cells beside an edge may depart from its side's level by this share of the step. */
const EVEN_SHARE = 0.08;
const LEAST_ROOM_PX = 10;
const LEAST_LENGTH_PX = 40;

interface Step {
  /** Place in cells: the boundary between dark and bright. */
  at: number;
  sign: number;
}

interface Run {
  firstRow: number;
  places: number[];
  sign: number;
}

/** All windows that seem to hold one slanted edge, upright and level. */
export function findEdges(survey: Survey): EdgeCandidate[] {
  const upright = findUpright(survey).map((found) => ({ direction: 'upright' as const, ...found }));
  const level = findUpright(transposedSurvey(survey)).map(({ x, y, width, height }) => ({
    direction: 'level' as const,
    x: y,
    y: x,
    width: height,
    height: width,
  }));
  return [...upright, ...level];
}

function findUpright(survey: Survey): Omit<EdgeCandidate, 'direction'>[] {
  return followSteps(survey).flatMap((run) => windowOf(run, survey) ?? []);
}

/** Steps of one row: local maxima of contrast over three cells. */
function stepsOfRow({ light, columns }: Survey, row: number): Step[] {
  const contrast = new Float64Array(columns);
  const from = row * columns;
  for (let x = 1; x + 2 < columns; x++) {
    const [before, after] = [light[from + x - 1], light[from + x + 2]];
    contrast[x] = (after - before) / (after + before + 1e-9);
  }
  const steps: Step[] = [];
  for (let x = 1; x + 2 < columns; x++) {
    const size = Math.abs(contrast[x]);
    if (size < LEAST_CONTRAST || size < Math.abs(contrast[x - 1]) || size <= Math.abs(contrast[x + 1])) continue;
    const [a, b] = [light[from + x - 1], light[from + x + 2]];
    // How much of the two cells between already belongs to the far side tells where the step is.
    const share = (light[from + x] - a) / (b - a) + (light[from + x + 1] - a) / (b - a);
    steps.push({ at: x + 2 - Math.min(2, Math.max(0, share)), sign: Math.sign(contrast[x]) });
  }
  return steps;
}

function followSteps(survey: Survey): Run[] {
  const done: Run[] = [];
  let open: Run[] = [];
  for (let row = 0; row < survey.rows; row++) {
    const steps = stepsOfRow(survey, row);
    const next: Run[] = [];
    for (const run of open) {
      const last = run.places[run.places.length - 1];
      const at = steps.findIndex((step) => step.sign === run.sign && Math.abs(step.at - last) <= WANDER);
      if (at < 0) done.push(run);
      else next.push({ ...run, places: [...run.places, steps.splice(at, 1)[0].at] });
    }
    open = [...next, ...steps.map((step) => ({ firstRow: row, places: [step.at], sign: step.sign }))];
  }
  return [...done, ...open].filter((run) => run.places.length >= LEAST_ROWS + 2 * ENDS);
}

/** A line through the run and the window around it; `null` where it isn't straight, slanted and with room beside it. */
function windowOf(run: Run, survey: Survey): Omit<EdgeCandidate, 'direction'> | null {
  const { cellPx, columns, rows, light, width } = survey;
  const places = run.places.slice(ENDS, run.places.length - ENDS);
  const first = run.firstRow + ENDS;
  const ys = places.map((_, i) => first + i + 0.5);
  const fit = fitLinear([ys.map(() => 1), ys], places);
  if (!fit) return null;
  const [offset, slope] = fit;
  const off = Math.sqrt(places.reduce((sum, at, i) => sum + (at - offset - slope * ys[i]) ** 2, 0) / places.length);
  if (off > 0.25 || Math.abs(slope) > STEEPEST || Math.abs(slope) < FLATTEST) return null;
  const length = places.length * cellPx;
  if (length < LEAST_LENGTH_PX) return null;

  const cellsBeside = (distance: number) =>
    ys.map((y) => {
      const x = Math.floor(offset + slope * y + distance);
      const row = Math.floor(y);
      return x < 0 || x >= columns || row >= rows ? NaN : light[row * columns + x];
    });
  const levels = [-1, 1].map((side) => mean(cellsBeside(1.6 * side)));
  const allowed = EVEN_SHARE * Math.abs(levels[1] - levels[0]);
  const most = Math.max(40, 0.02 * width) / cellPx;
  const rooms = [-1, 1].map((side, i) => {
    let room = 1;
    for (let distance = 2; distance <= most + 1; distance++) {
      const cells = cellsBeside(side * distance);
      if (cells.some((cell) => !(Math.abs(cell - levels[i]) <= allowed))) break;
      room = distance;
    }
    return room;
  });
  // The cell that still passed may begin half a cell early; half a cell of safety is kept.
  const room = Math.min(most, ...rooms.map((one) => one - 0.5)) * cellPx;
  if (room < LEAST_ROOM_PX) return null;
  const middle = (first + places.length / 2) * cellPx;
  const center = (offset + slope * (first + places.length / 2)) * cellPx;
  const span = 2 * room + Math.abs(slope) * length;
  const x = Math.max(0, Math.round(center - span / 2));
  const right = Math.min(width, Math.round(center + span / 2));
  return { x, y: Math.round(middle - length / 2), width: right - x, height: length };
}
