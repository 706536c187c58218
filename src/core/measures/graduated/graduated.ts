/** A graduated filter on the session's even fields: where its line lies, how dense, how wide, how tilted. */
import { measureCast } from '../cast/cast';
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { luminousStops } from '../strength/combineStrengths';
import { patchStrength } from '../strength/patchStrength';
import type { Triple } from '../../reading/patchStatistics';
import type { ObservedPatch } from '../../reading/observations';
import { fitGraduation, transitionInWords, type GraduationFit } from './fit';
import { fault } from '../../words/faults';
import type { FilterReadings, GraduationReadings } from '../../session/readings';
import type { Rect, Session } from '../../session/schema';
import { cellEdges } from '../shading/field';
import { strengthMap } from '../shading/shadingMap';
import { combine, expand, reading, type Contribution } from '../../formulas/statistics/budget';
import { solveLinear } from '../../formulas/statistics/leastSquares';
import type { Place } from '../strength/places';
import { fieldPair } from '../shading/shading';

const NO_LINE = new Set(['flare', 'screen']);
/** Columns of the map that is kept for drawing. */
const DRAWN = 20;

/** Adds the graduation from the first even field that shows the filter. */
export function addGraduation(
  result: FilterReadings,
  places: readonly Place[],
  gathered: readonly ObservedPatch[],
  session: Session,
  space: ColorSpace,
): void {
  const kindOf = new Map(session.scenes.map((scene) => [scene.id, scene.kind]));
  const fields = gathered.filter(({ patch }) => patch.role === 'field' && !NO_LINE.has(kindOf.get(patch.scene) ?? ''));
  for (const field of fields) {
    const place = places.find(({ patch }) => patch.id === field.patch.id);
    const pair = place?.series ? fieldPair(field, place, result.filter) : null;
    if (!place || !pair) continue;
    if ('withheld' in pair) {
      result.faults.push(pair.withheld);
      continue;
    }
    const { id: patch, scene, role } = field.patch;
    const center = patchStrength(place.series!, result.filter, { scene, patch, role });
    if (!center) continue;
    const luminance = luminanceRow(space);
    const map = strengthMap(pair.filtered, pair.bare, luminance);
    const channels = map.channels.map((channel, c) => channel.map((value) => value + center.channels[c]));
    const stops = channels[0].map(
      (_, i) =>
        luminousStops(
          channels.map((channel) => channel[i]),
          luminance,
        ).stops,
    );
    const { rect } = field.patch;
    const middle = luminousStops(center.channels, luminance);
    const fit = fitGraduation({
      ...edgesOf(map, pair.filtered[0].field, rect),
      stops,
      // Noise grows with the square root of the darkening where both are exposed alike.
      noise: map.noise * 2 ** (-middle.stops / 2),
    });
    if (!fit) {
      const words = `“${patch}” shows no graduation of ${result.filter}: its halves are alike.`;
      result.faults.push(fault('scenes-disagree', 'error', center.takes, words));
      continue;
    }
    const shared = [...center.own, ...center.shared];
    result.graduation = graduationReadings(scene, fit, expand(shared, middle.gradient), { map, stops });
    addDenseCast(result, fit, channels, shared, space);
    return;
  }
  const takes = session.takes.filter((take) => take.filter === result.filter).map((take) => take.id);
  const told = result.faults.some((one) => one.severity === 'error');
  if (takes.length > 0 && !told) {
    const words =
      'A graduated filter is measured over an even wall, and none was shot with it; its halves and its line are withheld.';
    result.faults.push(fault('field-missing', 'error', takes, words));
  }
}

/** Edges of a field's cells in heights of the frame from its center. */
function edgesOf(
  { columns, rows }: { columns: number; rows: number },
  field: { width: number; height: number },
  rect: Rect,
) {
  const frame = { width: field.width / rect.width, height: field.height / rect.height };
  const [left, top] = [Math.round(rect.x * frame.width), Math.round(rect.y * frame.height)];
  return {
    xEdges: Array.from(cellEdges(columns, field.width), (x) => (left + x - frame.width / 2) / frame.height),
    yEdges: Array.from(cellEdges(rows, field.height), (y) => (top + y - frame.height / 2) / frame.height),
  };
}

function graduationReadings(
  scene: string,
  fit: GraduationFit,
  level: { u: number; degreesOfFreedom: number },
  { map, stops }: { map: { columns: number; rows: number }; stops: Float64Array },
): GraduationReadings {
  const own = (value: number, u: number) =>
    reading(value, combine([{ source: 'shape of the line', u, degreesOfFreedom: Infinity }]));
  const withLevel = (value: number, u: number) =>
    reading(
      value,
      combine([
        { source: 'shape of the line', u, degreesOfFreedom: Infinity },
        { source: 'level', u: level.u, degreesOfFreedom: level.degreesOfFreedom },
      ]),
    );
  return {
    scene,
    clearStops: withLevel(fit.clear, fit.u.clear),
    denseStops: withLevel(fit.dense, fit.u.dense),
    difference: own(fit.dense - fit.clear, Math.hypot(fit.u.clear, fit.u.dense)),
    ...(Number.isFinite(fit.midline) ? { midline: own(fit.midline, fit.u.midline) } : {}),
    transitionWidth: own(fit.transitionWidth, fit.u.transitionWidth),
    angleDegrees: own(fit.angleDegrees, fit.u.angleDegrees),
    transition: transitionInWords(fit.transitionWidth),
    profile: profileOf(fit, stops),
    residualStops: fit.residualStops,
    map: drawnMap(map, stops),
  };
}

/** Median stops over slices parallel to the line. */
function profileOf({ distances }: GraduationFit, stops: Float64Array): [number, number][] {
  const slices = new Map<number, number[]>();
  distances.forEach((distance, i) => {
    const slice = Math.round(distance * 40);
    slices.set(slice, [...(slices.get(slice) ?? []), stops[i]]);
  });
  return [...slices.entries()]
    .filter(([, values]) => values.length >= 5)
    .sort(([a], [b]) => a - b)
    .map(([slice, values]) => {
      const sorted = values.sort((a, b) => a - b);
      return [slice / 40, Math.round(sorted[sorted.length >> 1] * 1e4) / 1e4];
    });
}

function drawnMap({ columns, rows }: { columns: number; rows: number }, stops: Float64Array) {
  const step = columns / DRAWN;
  const height = Math.round(rows / step);
  const values = Array.from({ length: DRAWN * height }, (_, i) => {
    const [x, y] = [(i % DRAWN) * step + (step >> 1), Math.floor(i / DRAWN) * step + (step >> 1)];
    return Math.round(stops[y * columns + x] * 1e4) / 1e4;
  });
  return { columns: DRAWN, rows: height, stops: values };
}

/** The cast of the dense half: each channel's dense stops by the line that luminance gave. */
function addDenseCast(
  result: FilterReadings,
  { shares }: GraduationFit,
  channels: readonly Float64Array[],
  contributions: readonly Contribution[],
  space: ColorSpace,
): void {
  const dense = channels.map((channel) => {
    let [n, s, ss, y, sy] = [0, 0, 0, 0, 0];
    channel.forEach((stops, i) => {
      const share = shares[i];
      n++;
      s += share;
      ss += share * share;
      y += stops;
      sy += share * stops;
    });
    const line = solveLinear(
      [
        [n, s],
        [s, ss],
      ],
      [y, sy],
    );
    return line ? line[0] + line[1] : NaN;
  });
  if (!dense.every(Number.isFinite)) return;
  result.cast = measureCast(dense as Triple, contributions, space);
}
