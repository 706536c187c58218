/**
 * Measures a session: pictures → reduced patches → strengths and casts → sharpness, shading, flare → verdicts.
 *
 * Plain data in and out; pictures come through the {@link PictureSource} port. Figures that the footage can't carry are
 * absent, and a fault says why.
 */
import { resolveColorSpace, type ColorSpace } from './color';
import { patchStrength } from './density';
import { gather, type Gathered, type GatherOptions } from './gather';
import { nominalStops } from './labels';
import { adviseOn, castInWords, judgeQualities, judgeStrength } from './rating';
import type { Fault, Filter, FilterReadings, Readings, Session } from './session';
import type { PictureSource } from './source';
import { addKitFaults } from './steps/kit';
import { preparePlace, type Place } from './steps/places';
import { addFlare, addShading } from './steps/shading';
import { prepareEdges, type EdgePlace } from './steps/edges';
import { keptSharpness, whySoft } from './steps/sharpness';
import { addStrength, chooseRole, whyNotMeasured } from './steps/strength';

export interface MeasureOptions extends GatherOptions {
  /** ISO 8601 time that the readings carry. */
  createdAt: string;
  /** Program and version. */
  generator: string;
}

/** Roles that have a level to compare with bare. */
const LEVEL_ROLES = new Set(['neutral', 'field', 'frame']);

/** Measures every filter of a session (or one). Rejects with SessionError when its response can't be used. */
export async function measureSession(
  session: Session,
  source: PictureSource,
  options: MeasureOptions,
): Promise<Readings> {
  const gathered = await gather(session, source, options);
  const space = resolveColorSpace(session.rig.colorSpace);
  const flareScenes = new Set(session.scenes.filter((scene) => scene.kind === 'flare').map((scene) => scene.id));
  const places = gathered.patches
    .filter(({ patch }) => LEVEL_ROLES.has(patch.role) && !(patch.role === 'field' && flareScenes.has(patch.scene)))
    .map((one) => preparePlace(one, session, gathered.recovered));
  const { places: edges, faults: edgeFaults } = prepareEdges(gathered.patches);
  const found = [...gathered.faults, ...places.flatMap((place) => place.faults), ...edgeFaults];

  const filters: FilterReadings[] = session.kits.flatMap((kit) =>
    kit.filters
      .filter((filter) => options.filter === undefined || filter.id === options.filter)
      .map((filter) => {
        const own = found.filter((one) => one.filter === filter.id).map((one) => one.fault);
        return measureFilter(filter, kit.id, own, { places, edges, gathered, session, space });
      }),
  );
  for (const kit of session.kits) addKitFaults(filters, kit.filters, session);
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
    faults: distinct(found.filter((one) => one.filter === null).map((one) => one.fault)),
  };
}

interface Parts {
  places: Place[];
  edges: EdgePlace[];
  gathered: Gathered;
  session: Session;
  space: ColorSpace;
}

function measureFilter(
  filter: Filter,
  kit: string,
  faults: Fault[],
  { places, edges, gathered, session, space }: Parts,
): FilterReadings {
  const nominal = nominalStops(filter.nominal);
  const result: FilterReadings = {
    filter: filter.id,
    kit,
    nominalStops: nominal,
    verdict: { label: 'withheld', sentence: '' },
    faults,
  };
  const strengths = places.flatMap((place) => {
    const { id: patch, scene, role } = place.patch;
    const strength = place.series && patchStrength(place.series, filter.id, { scene, patch, role });
    return strength ? [strength] : [];
  });
  const combined = chooseRole(strengths, session, space);
  if (combined) addStrength(result, combined, strengths, nominal, space);
  else faults.push(...whyNotMeasured(filter, places, session));
  if (faults.some((one) => one.code === 'white-balance-moved')) delete result.cast;

  const kept = edges.map((edge) => keptSharpness(edge, filter.id)).filter((one) => one !== null);
  faults.push(...kept.flatMap((one) => ('withheld' in one ? [one.withheld] : [])));
  const sharpness = kept.flatMap((one) => ('kept' in one ? [one.kept] : []));
  if (sharpness.length > 0) result.sharpness = sharpness;
  const takesOfEdges = edges.flatMap(({ usable }) =>
    usable.filter((one) => one.filter === filter.id).map((one) => one.take),
  );
  const soft = whySoft(sharpness, filter.name ?? filter.id, takesOfEdges);
  faults.push(...soft.faults);
  addShading(result, places, gathered.patches, session, space);
  addFlare(result, gathered.patches, session, space);

  const takes = combined ? Math.max(0, ...combined.places.map((place) => place.strength.takes.length)) : 0;
  result.verdict = { ...judgeStrength(result.density, nominal, takes), ...judgeQualities(result) };
  if (result.cast) result.verdict.cast = castInWords(result.cast);
  const softest = [...sharpness].sort((a, b) => a.retained.value - b.retained.value)[0];
  if (softest?.budget) result.verdict.sharpnessAdvice = adviseOn(softest.budget);
  if (soft.sentence !== null) result.verdict.softness = soft.sentence;
  result.faults = distinct(faults);
  return result;
}

/** Points (code, log2 light) of a recovered response per channel, over the codes that its bracket reached, for a plot. */
function curveOf({ decode, range = [0, 1] }: NonNullable<Gathered['recovered']>) {
  const codes = Array.from({ length: 49 }, (_, i) => range[0] + ((range[1] - range[0]) * i) / 48);
  return decode.map((one) => codes.map((code) => [code, Math.log2(one(code))]));
}

function distinct(faults: Fault[]): Fault[] {
  return faults.filter(
    (one, i) => faults.findIndex((other) => other.code === one.code && other.message === one.message) === i,
  );
}
