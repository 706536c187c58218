/** A variable ND mark by mark: strength, cast, sharpness and unevenness, and what its marks are worth. */
import { measureCast } from '../cast/cast';
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { combineStrengths, type CombinedStrength } from '../strength/combineStrengths';
import { patchStrength } from '../strength/patchStrength';
import type { ObservedPatch } from '../../reading/observations';
import { fault } from '../../words/faults';
import { POLARIZED_SCENES } from '../../session/polarizing';
import type { Filter, Session, Take } from '../../session/schema';
import type { FilterReadings, MarkReadings, Reading } from '../../session/readings';
import type { ShadingReadings } from '../shading/shadingMap';
import { expand, reading } from '../../formulas/statistics/budget';
import { crossBegins, hysteresis, markCurve, type MarkCurve, type MeasuredMark } from './markCurve';
import type { EdgePlace } from '../sharpness/edgePlaces';
import { meanOf } from '../../reading/byTake';
import type { Place } from '../strength/places';
import { shadingAt } from '../shading/shading';
import { keptSharpness } from '../sharpness/sharpness';

/** A mark less certain than this is withheld, as any strength is (formats.md), in stops. */
const WIDEST_U95 = 0.15;
/** Marks are read on the center square: of a field, a frame, or a gray card in the middle. */
const MARK_ROLES = ['field', 'frame', 'middle'];
/** Points of the curve between two marks, for drawing. */
const BETWEEN = 8;

/** Marks are read in light that is neither polarized nor a lamp's. */
const suited = (kind: string) => kind !== 'flare' && !POLARIZED_SCENES.has(kind);

interface Parts {
  places: readonly Place[];
  gathered: readonly ObservedPatch[];
  edges: readonly EdgePlace[];
  session: Session;
  space: ColorSpace;
}

interface FoundMark {
  mark: number;
  takes: Set<string>;
  strength: CombinedStrength;
  stops: Reading;
  shading: ShadingReadings | null;
}

/**
 * Adds the marks of a variable filter.
 *
 * @returns the takes of its lightest mark, by which its corners are judged (none where every mark is withheld); `null` where no take
 *   notes a mark
 */
export function addMarks(result: FilterReadings, filter: Filter, parts: Parts): ReadonlySet<string> | null {
  const takes = parts.session.takes.filter((take) => take.filter === filter.id && take.role !== 'bracket');
  const marked = takes.filter((take) => take.setting?.mark !== undefined);
  const unmarked = takes.filter((take) => take.setting?.mark === undefined);
  if (marked.length === 0) return null;
  if (unmarked.length > 0)
    result.faults.push(
      fault(
        'mark-missing',
        'warning',
        unmarked.map((take) => take.id),
        `${unmarked.map((take) => take.id).join(', ')}: no mark is noted, so these takes stand for none.`,
      ),
    );
  const numbers = [...new Set(marked.map((take) => take.setting!.mark!))].sort((a, b) => a - b);
  const found = numbers.flatMap((mark) => {
    const own = new Set(marked.filter((take) => take.setting!.mark === mark).map((take) => take.id));
    const one = markAt(result, mark, own, parts);
    return one ? [one] : [];
  });
  if (found.length === 0) return new Set();
  result.marks = found.map((one) => markReadings(one, filter, parts));
  const measured = found.map(({ mark, stops, shading }): MeasuredMark => ({
    mark,
    stops: stops.value,
    u: stops.u95 / 2,
    ...(shading ? { unevenness: shading.unevenness.value, axisDegrees: shading.unevenness.axisDegrees } : {}),
  }));
  const curve = markCurve(measured);
  if (curve) addCurve(result, filter, { found, measured, curve, marked, parts });
  const lightest = [...found].sort((a, b) => a.stops.value - b.stops.value)[0];
  return lightest.takes;
}

function markAt(result: FilterReadings, mark: number, takes: Set<string>, parts: Parts): FoundMark | null {
  const { places, gathered, session, space } = parts;
  const kindOf = new Map(session.scenes.map((scene) => [scene.id, scene.kind]));
  for (const role of MARK_ROLES) {
    const strengths = places
      .filter(({ patch, series }) => patch.role === role && series && suited(kindOf.get(patch.scene) ?? ''))
      .flatMap((place) => {
        const { id: patch, scene } = place.patch;
        return patchStrength(place.series!, result.filter, { scene, patch, role }, takes) ?? [];
      });
    if (strengths.length === 0) continue;
    const strength = combineStrengths(strengths, luminanceRow(space));
    const uncertainty = expand(strength.contributions, strength.gradient);
    if (!(uncertainty.u95 <= WIDEST_U95)) {
      const words = `Mark ${mark} would be uncertain by ${uncertainty.u95.toFixed(2)} stop; it is withheld.`;
      result.faults.push(fault('too-dark', 'error', [...takes], words));
      return null;
    }
    const field = gathered.find(({ patch }) => patch.role === 'field' && patch.id === strengths[0].patch);
    const place = field && places.find(({ patch }) => patch.id === field.patch.id);
    const shading = field && place ? shadingAt(field, place, result.filter, space, takes) : null;
    return {
      mark,
      takes,
      strength,
      stops: reading(strength.stops, uncertainty),
      shading: shading && 'found' in shading ? shading.found : null,
    };
  }
  return null;
}

function markReadings(
  { mark, takes, strength, stops, shading }: FoundMark,
  filter: Filter,
  parts: Parts,
): MarkReadings {
  const kept = parts.edges
    .map((edge) => keptSharpness(edge, filter.id, takes))
    .flatMap((one) => (one && 'kept' in one ? [one.kept.retained] : []))
    .sort((a, b) => a.value - b.value);
  return {
    mark,
    stops,
    cast: measureCast(strength.channels, strength.contributions, parts.space),
    ...(shading ? { unevenness: shading.unevenness, map: shading.map } : {}),
    ...(kept.length > 0 ? { retained: kept[0] } : {}),
  };
}

interface CurveParts {
  found: readonly FoundMark[];
  measured: readonly MeasuredMark[];
  curve: MarkCurve;
  marked: readonly Take[];
  parts: Parts;
}

function addCurve(result: FilterReadings, filter: Filter, { found, measured, curve, marked, parts }: CurveParts): void {
  const byStops = [...found].sort((a, b) => a.stops.value - b.stops.value);
  const [lightest, darkest] = [byStops[0].stops, byStops[byStops.length - 1].stops];
  const cross = crossBegins(measured, curve);
  const turned = hysteresisOf(marked, found, parts, filter);
  const range = filter.nominal.stopsRange;
  const error = (end: Reading, nominal: number): Reading => ({ value: end.value - nominal, u95: end.u95 });
  const errors = range && { low: error(lightest, Math.min(...range)), high: error(darkest, Math.max(...range)) };
  const marks = measured.map((one) => one.mark);
  const points = marks
    .slice(1)
    .flatMap((mark, i) => Array.from({ length: BETWEEN }, (_, k) => marks[i] + ((mark - marks[i]) * k) / BETWEEN));
  result.variable = {
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
    sentences: inWords({ lightest, darkest, cross, turned, residual: curve.residualStops }),
  };
}

/** From takes in shooting order: what a mark takes when approached from above less from below. */
function hysteresisOf(
  marked: readonly Take[],
  found: readonly FoundMark[],
  parts: Parts,
  filter: Filter,
): Reading | null {
  const luminance = luminanceRow(parts.space);
  const place = parts.places.find(
    ({ patch, series }) => series && found[0].strength.places[0].strength.patch === patch.id,
  );
  if (!place) return null;
  const takes = marked
    .flatMap((take) => {
      const { id: patch, scene, role } = place.patch;
      const one = patchStrength(place.series!, filter.id, { scene, patch, role }, new Set([take.id]));
      if (!one) return [];
      const strength = combineStrengths([one], luminance);
      const timeMs = meanOf(place.series!.shots.filter((shot) => shot.take === take.id).map((shot) => shot.timeMs));
      const u = expand(strength.contributions, strength.gradient).u;
      return [{ mark: take.setting!.mark!, stops: strength.stops, u, timeMs }];
    })
    .sort((a, b) => a.timeMs - b.timeMs);
  const turned = hysteresis(takes);
  return turned && { value: turned.stops, u95: 2 * turned.u };
}

function inWords({
  lightest,
  darkest,
  cross,
  turned,
  residual,
}: {
  lightest: Reading;
  darkest: Reading;
  cross: ReturnType<typeof crossBegins>;
  turned: Reading | null;
  residual: number;
}): string[] {
  const crossing = cross
    ? `The crossed pattern begins at mark ${cross.mark.toFixed(1)} (${cross.stops.toFixed(1)} stops): beyond it the frame is uneven by more than a tenth of a stop.`
    : 'No crossed pattern shows at any mark measured.';
  const back = !turned
    ? 'Marks were approached from one side only; approach them from both, and the play of the ring is told.'
    : Math.abs(turned.value) > turned.u95
      ? `Approached from above a mark takes ${Math.abs(turned.value).toFixed(2)} stop ${turned.value > 0 ? 'more' : 'less'} than from below: always turn the same way.`
      : 'It makes no difference from which side a mark is approached.';
  return [
    `It goes from ${lightest.value.toFixed(2)} to ${darkest.value.toFixed(2)} stops.`,
    crossing,
    back,
    ...(residual > 0.05
      ? [`Its marks don’t run one way: they depart by ${residual.toFixed(2)} stop from any rising row.`]
      : []),
  ];
}
