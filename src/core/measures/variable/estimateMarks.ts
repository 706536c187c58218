/** A variable ND mark by mark: strength, cast, sharpness and unevenness, and what its marks are worth. */
import { luminanceRow } from '../../formulas/color/spaces';
import { expand, reading } from '../../formulas/statistics/budget';
import { mean } from '../../formulas/statistics/averages';
import { POLARIZED_SCENES } from '../../session/polarizing';
import type { Fault, MarkReadings, Reading, VariableReadings } from '../../session/readings';
import type { Filter, Take } from '../../session/schema';
import { markWithheld, marksInWords, marksMissing } from '../../words/variable';
import { measureCast } from '../cast/cast';
import type { Seen } from '../seen';
import { shadingAt } from '../shading/estimateShading';
import type { FieldShading } from '../shading/shadingMap';
import { keptSharpness } from '../sharpness/keptSharpness';
import { combineStrengths, type CombinedStrength } from '../strength/combineStrengths';
import { patchStrength } from '../strength/patchStrength';
import { crossBegins, hysteresis, markCurve, type MarkCurve, type MeasuredMark } from './markCurve';

/** A mark less certain than this is withheld, as any strength is (formats.md), in stops. */
const WIDEST_U95 = 0.15;
/** Marks are read on the center square: of a field, a frame, or a gray card in the middle. */
const MARK_ROLES = ['field', 'frame', 'middle'];
/** Points of the curve between two marks, for drawing. */
const BETWEEN = 8;

/** Marks are read in light that is neither polarized nor a lamp's. */
const suited = (kind: string) => kind !== 'flare' && !POLARIZED_SCENES.has(kind);

type MarkSeen = Pick<Seen, 'places' | 'patches' | 'edges' | 'session' | 'space'>;

interface FoundMark {
  mark: number;
  takes: Set<string>;
  strength: CombinedStrength;
  stops: Reading;
  shading: FieldShading | null;
}

export interface MarksFinding {
  marks?: MarkReadings[];
  variable?: VariableReadings;
  /** Takes of its lightest mark, by which its corners are judged; none where every mark is withheld. */
  lightest: ReadonlySet<string>;
  faults: Fault[];
}

/** The marks of a variable filter; `null` where no take notes one. */
export function estimateMarks(filter: Filter, seen: MarkSeen): MarksFinding | null {
  const takes = seen.session.takes.filter((take) => take.filter === filter.id && take.role !== 'bracket');
  const marked = takes.filter((take) => take.setting?.mark !== undefined);
  const unmarked = takes.filter((take) => take.setting?.mark === undefined).map((take) => take.id);
  if (marked.length === 0) return null;
  const numbers = [...new Set(marked.map((take) => take.setting!.mark!))].sort((a, b) => a - b);
  const told = numbers.flatMap((mark) => {
    const own = new Set(marked.filter((take) => take.setting!.mark === mark).map((take) => take.id));
    return markAt(filter.id, mark, own, seen) ?? [];
  });
  const faults = [
    ...(unmarked.length > 0 ? [marksMissing(unmarked)] : []),
    ...told.flatMap((one) => ('withheld' in one ? [one.withheld] : [])),
  ];
  const found = told.flatMap((one) => ('found' in one ? [one.found] : []));
  if (found.length === 0) return { lightest: new Set(), faults };
  const measured = found.map(({ mark, stops, shading }): MeasuredMark => ({
    mark,
    stops: stops.value,
    u: stops.u95 / 2,
    ...(shading ? { unevenness: shading.unevenness.value, axisDegrees: shading.unevenness.axisDegrees } : {}),
  }));
  const curve = markCurve(measured);
  const [{ takes: lightest }] = [...found].sort((a, b) => a.stops.value - b.stops.value);
  return {
    marks: found.map((one) => markReadings(one, filter, seen)),
    ...(curve ? { variable: variableReadings(filter, { found, measured, curve, marked, seen }) } : {}),
    lightest,
    faults,
  };
}

/** One mark on the first role that tells it; `null` where none does. */
function markAt(
  filter: string,
  mark: number,
  takes: Set<string>,
  { places, patches, session, space }: MarkSeen,
): { found: FoundMark } | { withheld: Fault } | null {
  const kindOf = new Map(session.scenes.map((scene) => [scene.id, scene.kind]));
  for (const role of MARK_ROLES) {
    const strengths = places
      .filter(({ patch, series }) => patch.role === role && series && suited(kindOf.get(patch.scene) ?? ''))
      .flatMap((place) => {
        const { id: patch, scene } = place.patch;
        return patchStrength(place.series!, filter, { scene, patch, role }, takes) ?? [];
      });
    if (strengths.length === 0) continue;
    const strength = combineStrengths(strengths, luminanceRow(space));
    const uncertainty = expand(strength.contributions, strength.gradient);
    if (!(uncertainty.u95 <= WIDEST_U95)) {
      const mostly = uncertainty.lines[0]?.source ?? 'noise';
      const around = { value: strength.stops, u95: uncertainty.u95 };
      const hasDarker = session.takes.some((take) => take.role === 'bracket');
      return { withheld: markWithheld([...takes], mark, around, mostly, hasDarker) };
    }
    const field = patches.find(({ patch }) => patch.role === 'field' && patch.id === strengths[0].patch);
    const place = field && places.find(({ patch }) => patch.id === field.patch.id);
    const shading = field && place ? shadingAt(field, place, filter, space, takes) : null;
    return {
      found: {
        mark,
        takes,
        strength,
        stops: reading(strength.stops, uncertainty),
        shading: shading && 'found' in shading ? shading.found : null,
      },
    };
  }
  return null;
}

function markReadings(
  { mark, takes, strength, stops, shading }: FoundMark,
  filter: Filter,
  { edges, space }: MarkSeen,
): MarkReadings {
  const kept = edges
    .map((edge) => keptSharpness(edge, filter.id, takes))
    .flatMap((one) => (one && 'kept' in one ? [one.kept.retained] : []))
    .sort((a, b) => a.value - b.value);
  return {
    mark,
    stops,
    cast: measureCast(strength.channels, strength.contributions, space),
    ...(shading ? { unevenness: shading.unevenness, map: shading.map } : {}),
    ...(kept.length > 0 ? { retained: kept[0] } : {}),
  };
}

interface CurveParts {
  found: readonly FoundMark[];
  measured: readonly MeasuredMark[];
  curve: MarkCurve;
  marked: readonly Take[];
  seen: MarkSeen;
}

function variableReadings(filter: Filter, { found, measured, curve, marked, seen }: CurveParts): VariableReadings {
  const byStops = [...found].sort((a, b) => a.stops.value - b.stops.value);
  const [lightest, darkest] = [byStops[0].stops, byStops[byStops.length - 1].stops];
  const cross = crossBegins(measured, curve);
  const turned = hysteresisOf(marked, found, seen, filter.id);
  const range = filter.nominal.stopsRange;
  const error = (end: Reading, nominal: number): Reading => ({ value: end.value - nominal, u95: end.u95 });
  const errors = range && { low: error(lightest, Math.min(...range)), high: error(darkest, Math.max(...range)) };
  const marks = measured.map((one) => one.mark);
  const points = marks
    .slice(1)
    .flatMap((mark, i) => Array.from({ length: BETWEEN }, (_, k) => marks[i] + ((mark - marks[i]) * k) / BETWEEN));
  return {
    curve: [...points, marks[marks.length - 1]].map((mark): [number, number] => [
      Math.round(mark * 1e4) / 1e4,
      curve.stopsAt(mark),
    ]),
    lightest,
    darkest,
    ...(errors ? { errors } : {}),
    ...(turned ? { hysteresis: turned } : {}),
    ...(cross ? { crossBegins: { ...cross } } : {}),
    usable: [lightest.value, cross ? cross.stops : darkest.value],
    sentences: marksInWords({ lightest, darkest, cross, turned, residualStops: curve.residualStops }),
  };
}

/** From takes in shooting order: what a mark takes when approached from above less from below. */
function hysteresisOf(
  marked: readonly Take[],
  found: readonly FoundMark[],
  { places, space }: MarkSeen,
  filter: string,
): Reading | null {
  const luminance = luminanceRow(space);
  const place = places.find(({ patch, series }) => series && found[0].strength.places[0].strength.patch === patch.id);
  if (!place) return null;
  const takes = marked
    .flatMap((take) => {
      const { id: patch, scene, role } = place.patch;
      const one = patchStrength(place.series!, filter, { scene, patch, role }, new Set([take.id]));
      if (!one) return [];
      const strength = combineStrengths([one], luminance);
      const timeMs = mean(place.series!.shots.filter((shot) => shot.take === take.id).map((shot) => shot.timeMs));
      const u = expand(strength.contributions, strength.gradient).u;
      return [{ mark: take.setting!.mark!, stops: strength.stops, u, timeMs }];
    })
    .sort((a, b) => a.timeMs - b.timeMs);
  const turned = hysteresis(takes);
  return turned && { value: turned.stops, u95: 2 * turned.u };
}
