/** A graduated filter on the session's even fields: where its line lies, how dense, how wide, how tilted. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { combine, expand, reading, type Contribution } from '../../formulas/statistics/budget';
import { responseUOfLight } from '../../light/response';
import { solveLinear } from '../../formulas/statistics/leastSquares';
import type { ObservedPatch } from '../../reading/observations';
import type { Triple } from '../../reading/patchStatistics';
import type { CastReadings, Fault, GraduationReadings } from '../../session/readings';
import type { Rect } from '../../session/schema';
import { evenWallMissing, noGraduation } from '../../words/graduated';
import { measureCast } from '../cast/cast';
import type { Seen } from '../seen';
import { fieldPair } from '../shading/estimateShading';
import { cellEdges } from '../shading/field';
import { strengthMap, type WeightedField } from '../shading/shadingMap';
import { luminousStops } from '../strength/combineStrengths';
import { patchStrength } from '../strength/patchStrength';
import type { PreparedPatch } from '../strength/preparedPatch';
import { fitGraduation, transitionInWords, WIDTH_OF_SCALE, type GraduationFit } from './fit';

/** Scenes whose light isn't even, or is a polarized screen's. */
const NO_LINE = new Set(['flare', 'screen']);
/** Columns of the map that is kept for drawing. */
const DRAWN = 20;

export interface GraduationFinding {
  graduation?: GraduationReadings;
  /** Of the dense half. */
  cast?: CastReadings;
  faults: Fault[];
}

/**
 * The graduation from the first even field that shows the filter.
 *
 * @param told faults of the filter that are known already: another reason isn't added to them
 */
export function estimateGraduation(
  filter: string,
  seen: Pick<Seen, 'places' | 'patches' | 'session' | 'space' | 'response'>,
  told: readonly Fault[],
): GraduationFinding {
  const { places, patches, session } = seen;
  const kindOf = new Map(session.scenes.map((scene) => [scene.id, scene.kind]));
  const fields = patches.filter(({ patch }) => patch.role === 'field' && !NO_LINE.has(kindOf.get(patch.scene) ?? ''));
  const faults: Fault[] = [];
  for (const field of fields) {
    const place = places.find(({ patch }) => patch.id === field.patch.id);
    const found = place ? graduationOn(field, place, filter, seen) : null;
    if (!found) continue;
    if (!('withheld' in found)) return { ...found, faults };
    faults.push(found.withheld);
  }
  const takes = session.takes.filter((take) => take.filter === filter).map((take) => take.id);
  const hasReason = [...told, ...faults].some((one) => one.severity === 'error');
  return { faults: takes.length > 0 && !hasReason ? [...faults, evenWallMissing(takes)] : faults };
}

/** The graduation on one field; `null` where the filter wasn't seen there. */
function graduationOn(
  field: ObservedPatch,
  place: PreparedPatch,
  filter: string,
  { space, response }: Pick<Seen, 'space' | 'response'>,
): Omit<GraduationFinding, 'faults'> | { withheld: Fault } | null {
  const pair = place.series ? fieldPair(field, place, filter) : null;
  if (!pair || 'withheld' in pair) return pair;
  const { id: patch, scene, role, rect } = field.patch;
  const center = patchStrength(place.series!, filter, { scene, patch, role });
  if (!center) return null;
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
  const middle = luminousStops(center.channels, luminance);
  const doubt = doubtOf(pair.filtered, pair.bare);
  const fit = fitGraduation({
    ...(doubt ? { doubt } : {}),
    ...edgesOf(map, pair.filtered[0].field, rect),
    stops,
    // Noise grows with the square root of the darkening where both are exposed alike.
    noise: map.noise * 2 ** (-middle.stops / 2),
  });
  if (!fit) return { withheld: noGraduation(center.takes, patch, filter) };
  const shared = [...center.own, ...center.shared];
  const cast = denseCast(fit, channels, shared, space);
  return {
    graduation: graduationReadings(
      scene,
      fit,
      expand(shared, middle.gradient),
      curveOf(fit, pair.filtered[0].field.squares.center[1], middle.stops, response),
      { map, stops },
    ),
    ...(cast ? { cast } : {}),
  };
}

/** What local tone that isn't known leaves in each cell's stops, where a camera that may have it took the pictures. */
function doubtOf(filtered: readonly WeightedField[], bare: readonly WeightedField[]): Float64Array | null {
  if (![...filtered, ...bare].every(({ field }) => field.localDoubt)) return null;
  const at = (fields: readonly WeightedField[], i: number) =>
    fields.reduce((sum, { field, weight }) => sum + weight * field.localDoubt![i], 0);
  return filtered[0].field.localDoubt!.map((_, i) => at(bare, i) - at(filtered, i));
}

/**
 * What a learned response leaves: of the halves against the frame's center and of one against the other, stops; of the line's place and
 * width, heights of the frame.
 */
interface CurveDoubt {
  clear: number;
  dense: number;
  difference: number;
  midline: number;
  transitionWidth: number;
}

/**
 * A curve that bends where the transition lies moves the place of half the density, and those of a tenth and nine tenths: by its error
 * there against the halves', over how steeply density rises there.
 *
 * @param center light of the filtered picture at its center, where it takes `stops`
 */
function curveOf(fit: GraduationFit, center: number, stops: number, response: Seen['response']): CurveDoubt {
  const step = fit.dense - fit.clear;
  const lightAt = (share: number) => center * 2 ** (stops - fit.clear - share * step);
  const [clear, dense] = [lightAt(0), lightAt(1)];
  const doubt = (terms: readonly (readonly [light: number, factor: number])[]) =>
    responseUOfLight(response, terms, true);
  const between = (a: number, b: number) => doubt([[a, 1], [b, -1]]); // prettier-ignore
  const scale = fit.transitionWidth / WIDTH_OF_SCALE;
  const perHeight = (share: number) => (Math.abs(step) * share * (1 - share)) / scale;
  const upright = (fit.angleDegrees * Math.PI) / 180;
  const middle = doubt([[lightAt(0.5), 1], [clear, -0.5], [dense, -0.5]]); // prettier-ignore
  const ends = doubt([[lightAt(0.9), 1], [lightAt(0.1), -1], [clear, 0.8], [dense, -0.8]]); // prettier-ignore
  return {
    clear: between(clear, center),
    dense: between(dense, center),
    difference: between(clear, dense),
    midline: middle / perHeight(0.5) / Math.abs(Math.cos(upright)),
    transitionWidth: ends / perHeight(0.1),
  };
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
  curve: CurveDoubt,
  { map, stops }: { map: { columns: number; rows: number }; stops: Float64Array },
): GraduationReadings {
  const { moved } = fit;
  const figure = (value: number, u: number, responses: readonly number[], levels: Parameters<typeof combine>[0] = []) =>
    reading(
      value,
      combine([
        { source: 'shape of the line', u, degreesOfFreedom: Infinity },
        ...levels,
        { source: 'response', u: Math.hypot(...responses), degreesOfFreedom: Infinity },
      ]),
    );
  const levels = [{ source: 'level', ...level }];
  return {
    scene,
    clearStops: figure(fit.clear, fit.u.clear, [curve.clear, moved.clear], levels),
    denseStops: figure(fit.dense, fit.u.dense, [curve.dense, moved.dense], levels),
    difference: figure(fit.dense - fit.clear, Math.hypot(fit.u.clear, fit.u.dense), [
      curve.difference,
      moved.clear + moved.dense,
    ]),
    ...(Number.isFinite(fit.midline)
      ? { midline: figure(fit.midline, fit.u.midline, [curve.midline, moved.midline]) }
      : {}),
    transitionWidth: figure(fit.transitionWidth, fit.u.transitionWidth, [curve.transitionWidth, moved.transitionWidth]),
    angleDegrees: figure(fit.angleDegrees, fit.u.angleDegrees, [moved.angleDegrees]),
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
function denseCast(
  { shares }: GraduationFit,
  channels: readonly Float64Array[],
  contributions: readonly Contribution[],
  space: ColorSpace,
): CastReadings | null {
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
  return dense.every(Number.isFinite) ? measureCast(dense as Triple, contributions, space) : null;
}
