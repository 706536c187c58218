/**
 * Measures a session: pictures → reduced patches → strengths and casts → sharpness, shading, flare → verdicts.
 *
 * Plain data in and out; pictures come through the {@link PictureSource} port. Figures that the footage can't carry are
 * absent, and a fault says why.
 */
import { luminanceRow, resolveColorSpace, type ColorSpace } from './formulas/color/spaces';
import { patchStrength } from './measures/strength/patchStrength';
import type { CombinedStrength } from './measures/strength/combineStrengths';
import { observeSession, type Observed, type ObserveOptions } from './observe';
import { nominalStops } from './session/notation';
import { adviseOn } from './judging/rating/advice';
import { castInWords, judgeQualities } from './judging/rating/verdict';
import { judgeFilter } from './judging/rating/verdictByKind';
import { polarizes } from './session/polarizing';
import type { Fault, FilterReadings, Readings } from './session/readings';
import type { Filter, Session } from './session/schema';
import type { PictureSource } from './reading/source';
import { addColors } from './measures/colors/colors';
import { addGraduation } from './measures/graduated/graduated';
import { addKitFaults } from './judging/rating/kitSteps';
import { addOrdinary, lightOver, prepareOrdinary, type OrdinaryPlace } from './measures/strength/ordinaryStrength';
import { addMotion, measureMotion } from './measures/motion/motion';
import { preparePlace, type Place } from './measures/strength/places';
import { addPolarizer } from './measures/polarizer/polarizer';
import { addFlare, addShading } from './measures/shading/shading';
import { prepareEdges, type EdgePlace } from './measures/sharpness/edgePlaces';
import { keptSharpness, whySoft } from './measures/sharpness/sharpness';
import { addSkyTurn } from './measures/polarizer/skyTurn';
import { addStrength, chooseRole, isUnpolarized, whyNotMeasured } from './measures/strength/strength';
import { unpolarizedStrength } from './measures/strength/unpolarized';
import { addMarks } from './measures/variable/variable';

export interface MeasureOptions extends ObserveOptions {
  /** ISO 8601 time that the readings carry. */
  createdAt: string;
  /** Program and version. */
  generator: string;
}

/** Roles that have a level to compare with bare, in the order in which they speak for the light of their scene. */
const LEVEL_ROLES = ['neutral', 'frame', 'field', 'reference', 'middle', 'color', 'glare', 'sky'];
/** Roles that speak for a filter's strength. */
const STRENGTH_ROLES = new Set<string>(['neutral', 'frame', 'field']);

/** Measures every filter of a session (or one). Rejects with SessionError when its response can't be used. */
export async function measureSession(
  session: Session,
  source: PictureSource,
  options: MeasureOptions,
): Promise<Readings> {
  const gathered = await observeSession(session, source, options);
  const motions = await measureMotion(session, source, options);
  const space = resolveColorSpace(session.rig.colorSpace);
  const flareScenes = new Set(session.scenes.filter((scene) => scene.kind === 'flare').map((scene) => scene.id));
  const lit = new Set<string>();
  const places = gathered.patches
    .filter(
      ({ patch }) => LEVEL_ROLES.includes(patch.role) && !(patch.role === 'field' && flareScenes.has(patch.scene)),
    )
    .sort((a, b) => LEVEL_ROLES.indexOf(a.patch.role) - LEVEL_ROLES.indexOf(b.patch.role))
    .map((one) => {
      const place = preparePlace(one, session, gathered.recovered, !lit.has(one.patch.scene));
      if (place.series) lit.add(one.patch.scene);
      return place;
    });
  const scenes = gathered.ordinary.flatMap((one) => prepareOrdinary(one, session, gathered.recovered) ?? []);
  places.push(...scenes.map(({ place }) => place));
  const { places: edges, faults: edgeFaults } = prepareEdges(gathered.patches);
  const found = [...gathered.faults, ...places.flatMap((place) => place.faults), ...edgeFaults];

  const filters: FilterReadings[] = session.kits.flatMap((kit) =>
    kit.filters
      .filter((filter) => options.filter === undefined || filter.id === options.filter)
      .map((filter) => {
        const own = found.filter((one) => one.filter === filter.id).map((one) => one.fault);
        return measureFilter(filter, kit.id, own, { places, edges, scenes, gathered, session, space });
      }),
  );
  for (const kit of session.kits) addKitFaults(filters, kit.filters, session);
  for (const one of filters) addMotion(one, motions);
  const { recovered } = gathered;
  return {
    format: 'aurora-glade-readings',
    version: 1,
    session: session.title,
    createdAt: options.createdAt,
    generator: options.generator,
    response: {
      kind: session.rig.response.kind,
      description: gathered.response,
      ...(recovered?.residualStops === undefined
        ? {}
        : { residualStops: recovered.residualStops, curve: curveOf(recovered) }),
    },
    filters,
    ...(scenes.length > 0 ? { light: lightOver(scenes, filters, space) } : {}),
    faults: distinct(found.filter((one) => one.filter === null).map((one) => one.fault)),
  };
}

interface Parts {
  places: Place[];
  edges: EdgePlace[];
  scenes: OrdinaryPlace[];
  gathered: Observed;
  session: Session;
  space: ColorSpace;
}

function measureFilter(
  filter: Filter,
  kit: string,
  faults: Fault[],
  { places, edges, scenes, gathered, session, space }: Parts,
): FilterReadings {
  const nominal = nominalStops(filter.nominal);
  const result: FilterReadings = {
    filter: filter.id,
    kit,
    nominalStops: nominal,
    verdict: { label: 'withheld', sentence: '' },
    faults,
  };
  const parts = { places, gathered: gathered.patches, edges, session, space };
  // A variable filter has a strength a mark, a graduated one two: one figure for all would be none.
  const lightest = filter.kind === 'variable-nd' ? addMarks(result, filter, parts) : null;
  const graduated = filter.kind === 'graduated-nd';
  if (graduated) addGraduation(result, places, gathered.patches, session, space);
  const combined = lightest || graduated ? null : addStrengthOf(result, filter, parts);
  if (faults.some((one) => one.code === 'white-balance-moved')) withholdCasts(result);

  const kept = edges.map((edge) => keptSharpness(edge, filter.id)).filter((one) => one !== null);
  faults.push(...kept.flatMap((one) => ('withheld' in one ? [one.withheld] : [])));
  const sharpness = kept.flatMap((one) => ('kept' in one ? [one.kept] : []));
  if (sharpness.length > 0) result.sharpness = sharpness;
  const takesOfEdges = edges.flatMap(({ usable }) =>
    usable.filter((one) => one.filter === filter.id).map((one) => one.take),
  );
  const soft = whySoft(sharpness, filter.name ?? filter.id, takesOfEdges);
  faults.push(...soft.faults);
  if (!graduated) addShading(result, places, gathered.patches, session, space, lightest ?? undefined);
  if (!graduated && !lightest) addOrdinary(result, filter, scenes, space);
  addFlare(result, gathered.patches, session, space);
  if (polarizes(filter)) {
    addPolarizer(result, filter, parts);
    addSkyTurn(result, gathered.turns, session, space);
  }
  addColors(result, places, session, space);

  const takes = combined ? Math.max(0, ...combined.places.map((place) => place.strength.takes.length)) : 0;
  result.verdict = { ...judgeFilter(result, filter, takes), ...judgeQualities(result), takes };
  if (result.cast) result.verdict.cast = castInWords(result.cast);
  const softest = [...(result.sharpness ?? [])].sort((a, b) => a.retained.value - b.retained.value)[0];
  if (softest?.budget) result.verdict.sharpnessAdvice = adviseOn(softest.budget);
  if (soft.sentence !== null) result.verdict.softness = soft.sentence;
  result.faults = distinct(faults);
  return result;
}

/** The camera's white balance moved: every cast would be partly its own. */
function withholdCasts(result: FilterReadings): void {
  delete result.cast;
  for (const mark of result.marks ?? []) delete mark.cast;
}

interface StrengthParts {
  places: readonly Place[];
  session: Session;
  space: ColorSpace;
}

/** Adds strength and cast from the filter's places, or why there are none. */
function addStrengthOf(
  result: FilterReadings,
  filter: Filter,
  { places, session, space }: StrengthParts,
): CombinedStrength | null {
  const polarizing = polarizes(filter);
  const found = places
    .filter(({ patch }) => STRENGTH_ROLES.has(patch.role) && (!polarizing || isUnpolarized(patch, session)))
    .flatMap((place) => {
      const { id: patch, scene, role } = place.patch;
      if (polarizing) return unpolarizedStrength(place, filter.id, session, luminanceRow(space)) ?? [];
      const strength = place.series && patchStrength(place.series, filter.id, { scene, patch, role });
      return strength
        ? [{ strength: { ...strength, own: [...strength.own, ...(place.extra ?? [])] }, fault: null }]
        : [];
    });
  const strengths = found.map((one) => one.strength);
  const combined = chooseRole(strengths, session, space);
  if (combined) {
    addStrength(result, combined, strengths, result.nominalStops, space);
    const used = new Set(combined.places.map((place) => place.strength));
    result.faults.push(...found.flatMap((one) => (one.fault && used.has(one.strength) ? [one.fault] : [])));
  } else result.faults.push(...whyNotMeasured(filter, places as Place[], session));
  return combined;
}

/** Points (code, log2 light) of a recovered response per channel, over the codes that its bracket reached, for a plot. */
function curveOf({ decode, range = [0, 1] }: NonNullable<Observed['recovered']>) {
  const codes = Array.from({ length: 49 }, (_, i) => range[0] + ((range[1] - range[0]) * i) / 48);
  return decode.map((one) => codes.map((code) => [code, Math.log2(one(code))]));
}

function distinct(faults: Fault[]): Fault[] {
  return faults.filter(
    (one, i) => faults.findIndex((other) => other.code === one.code && other.message === one.message) === i,
  );
}
