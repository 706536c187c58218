/**
 * Measures a session: pictures → what was seen of them → strengths and casts → sharpness, shading, flare, polarizers → verdicts.
 *
 * Plain data in and out; pictures come through the {@link PictureSource} port. Figures that the footage can't carry are
 * absent, and a fault says why. Each measure is a pure function of what was seen and of the figures that are handed to it.
 */
import { resolveColorSpace } from './formulas/color/spaces';
import { kitsOffAlike, withKitFaults } from './judging/rating/kitFaults';
import { castInWords, judgeQualities } from './judging/rating/verdict';
import { judgeFilter } from './judging/rating/verdictByKind';
import { estimateCast } from './measures/cast/cast';
import { estimateColors } from './measures/colors/estimateColors';
import { estimateFlare } from './measures/flare/estimateFlare';
import { estimateGraduation } from './measures/graduated/estimateGraduation';
import { estimateMotion, measureMotion } from './measures/motion/motion';
import { describeScene } from './measures/ordinary/describeScene';
import { lightOver } from './measures/ordinary/lightOver';
import { estimatePolarizer } from './measures/polarizer/estimatePolarizer';
import type { Seen } from './measures/seen';
import { estimateFrameShading } from './measures/shading/estimateFrameShading';
import { estimateShading } from './measures/shading/estimateShading';
import { prepareEdges } from './measures/sharpness/edgePlaces';
import { estimateFrameSharpness } from './measures/sharpness/estimateFrameSharpness';
import { keptSharpness, whySoft } from './measures/sharpness/keptSharpness';
import { estimateStrength } from './measures/strength/estimateStrength';
import { preparePatch, type PreparedPatch } from './measures/strength/preparedPatch';
import { solveOrdinaryScene } from './measures/strength/solvedScene';
import { estimateMarks } from './measures/variable/estimateMarks';
import { observeSession, type Observed, type ObserveOptions } from './observe';
import type { FoundFault } from './reading/observations';
import { withoutSameFiles } from './reading/sameFiles';
import type { PictureSource } from './reading/source';
import { nominalStops } from './session/notation';
import { polarizes } from './session/polarizing';
import type {
  Fault,
  FilterReadings,
  OrdinaryReadings,
  Readings,
  ShadingReadings,
  SharpnessReadings,
  Verdict,
} from './session/readings';
import type { Filter, Session } from './session/schema';
import { describeLearned } from './light/camera/describe';
import { adviseOn } from './words/advice';
import { softnessInWords } from './words/sharpness';

export interface MeasureOptions extends ObserveOptions {
  /** ISO 8601 time that the readings carry. */
  createdAt: string;
  /** Program and version. */
  generator: string;
}

/** Roles that have a level to compare with bare, in the order in which they speak for the light of their scene. */
const LEVEL_ROLES = ['neutral', 'frame', 'field', 'reference', 'middle', 'color', 'glare', 'sky'];

/** Measures every filter of a session (or one). Rejects with SessionError when its response can't be used. */
export async function measureSession(
  asked: Session,
  source: PictureSource,
  options: MeasureOptions,
): Promise<Readings> {
  const { session, faults: same } = await withoutSameFiles(asked, source);
  const observed = await observeSession(session, source, options);
  const motions = await measureMotion(session, source, options);
  const { seen, faults: found } = prepare(observed, session);
  const faults = [...same, ...found];
  const wanted = session.kits.flatMap((kit) =>
    kit.filters
      .filter((filter) => options.filter === undefined || filter.id === options.filter)
      .map((filter) => ({ filter, kit: kit.id })),
  );
  const measured = wanted.map(({ filter, kit }): FilterReadings => {
    const own = faults.filter((one) => one.filter === filter.id).map((one) => one.fault);
    const motion = estimateMotion(filter.id, motions);
    return { ...measureFilter(filter, kit, own, seen), ...(motion ? { motion } : {}) };
  });
  const filters = withKitFaults(measured, session);
  const { recovered } = observed;
  return {
    format: 'aurora-glade-readings',
    version: 1,
    session: session.title,
    createdAt: options.createdAt,
    generator: options.generator,
    response: {
      kind: session.rig.response.kind,
      description: observed.response,
      ...(recovered?.residualStops === undefined
        ? {}
        : { residualStops: recovered.residualStops, curve: curveOf(recovered) }),
      ...(observed.learned ? { learned: describeLearned(observed.learned, filters) } : {}),
    },
    filters,
    ...(observed.check ? { check: observed.check } : {}),
    ...(seen.scenes.length > 0 ? { light: lightOver(seen.scenes, filters, seen.space) } : {}),
    faults: distinct([
      ...faults.filter((one) => one.filter === null).map((one) => one.fault),
      ...kitsOffAlike(filters, session),
    ]),
  };
}

/** What all filters share: light, edges and ordinary scenes, made ready once. */
function prepare(observed: Observed, session: Session): { seen: Seen; faults: FoundFault[] } {
  const places = preparePatches(observed, session);
  const scenes = observed.ordinary.flatMap((one) => solveOrdinaryScene(one, session, observed.recovered) ?? []);
  const everywhere = [...places, ...scenes.map(({ place }) => place)];
  const { places: edges, faults: edgeFaults } = prepareEdges(observed.patches);
  return {
    seen: {
      session,
      space: resolveColorSpace(session.rig.colorSpace),
      patches: observed.patches,
      places: everywhere,
      edges,
      scenes,
      turns: observed.turns,
      response: observed.recovered,
    },
    faults: [...observed.faults, ...everywhere.flatMap((place) => place.faults), ...edgeFaults],
  };
}

/** Patches with levels; the first of each scene that has a bare level speaks for the scene's light. */
function preparePatches({ patches, recovered }: Observed, session: Session): PreparedPatch[] {
  const flareScenes = new Set(session.scenes.filter((scene) => scene.kind === 'flare').map((scene) => scene.id));
  const lit = new Set<string>();
  return patches
    .filter(
      ({ patch }) => LEVEL_ROLES.includes(patch.role) && !(patch.role === 'field' && flareScenes.has(patch.scene)),
    )
    .sort((a, b) => LEVEL_ROLES.indexOf(a.patch.role) - LEVEL_ROLES.indexOf(b.patch.role))
    .map((one) => {
      const place = preparePatch(one, session, recovered, !lit.has(one.patch.scene));
      if (place.series) lit.add(one.patch.scene);
      return place;
    });
}

/** The measures of one filter, in order. */
function measureFilter(filter: Filter, kit: string, told: readonly Fault[], seen: Seen): FilterReadings {
  const { id } = filter;
  // A variable filter has a strength a mark, a graduated one two: one figure for all would be none.
  const marks = filter.kind === 'variable-nd' ? estimateMarks(filter, seen) : null;
  const graduated = filter.kind === 'graduated-nd' ? estimateGraduation(id, seen, told) : null;
  const strength = marks || graduated ? null : estimateStrength(filter, seen);
  const cast = strength?.density && strength.combined ? estimateCast(strength.combined, seen.space) : null;
  const edges = sharpnessOf(filter, seen);
  const field = graduated ? null : estimateShading(id, seen, marks?.lightest);
  const scenes = marks || graduated ? null : ordinaryScenesOf(filter, seen);
  const flare = estimateFlare(id, seen);
  const polarizer = polarizes(filter) ? estimatePolarizer(id, seen, strength?.density) : null;
  const density = strength?.density;
  const figuresOfPolarizer = polarizer?.figures ?? undefined;
  const colors = estimateColors(id, seen, { density, polarizer: figuresOfPolarizer });

  // The camera's white balance moved: every cast would be partly its own.
  const castsHold = !told.some((one) => one.code === 'white-balance-moved');
  const ownCast = castsHold ? (cast?.cast ?? graduated?.cast) : undefined;
  const shading = joinShadings([...(field?.shading ? [field.shading] : []), ...(scenes?.shadings ?? [])]);
  const sharpness = [...edges.sharpness, ...(scenes?.sharpness ?? [])];
  const figures = {
    nominalStops: nominalStops(filter.nominal),
    ...(density ? { density } : {}),
    ...(ownCast ? { cast: ownCast } : {}),
    ...(sharpness.length > 0 ? { sharpness } : {}),
    ...(shading ? { shading } : {}),
    ...(flare ? { flare } : {}),
    ...(colors.length > 0 ? { colors } : {}),
    ...(marks?.marks ? { marks: castsHold ? marks.marks : marks.marks.map(({ cast: _cast, ...mark }) => mark) } : {}),
    ...(marks?.variable ? { variable: marks.variable } : {}),
    ...(figuresOfPolarizer ? { polarizer: figuresOfPolarizer } : {}),
    ...(graduated?.graduation ? { graduation: graduated.graduation } : {}),
    ...(scenes && scenes.ordinary.length > 0 ? { ordinary: scenes.ordinary } : {}),
  };
  const faults = [marks, graduated, strength, cast].flatMap((one) => one?.faults ?? []);
  return {
    filter: id,
    kit,
    ...figures,
    verdict: verdictOf(figures, filter, strength?.pictures ?? 0, edges.softness),
    faults: distinct([
      ...told,
      ...faults,
      ...(strength?.lightFaults ?? []),
      ...edges.faults,
      ...(field?.faults ?? []),
      ...(scenes?.faults ?? []),
      ...(polarizer?.faults ?? []),
    ]),
  };
}

/** What a filter keeps at each edge, and what made it soft. */
function sharpnessOf(filter: Filter, { edges }: Pick<Seen, 'edges'>) {
  const kept = edges.flatMap((edge) => keptSharpness(edge, filter.id) ?? []);
  const sharpness = kept.flatMap((one) => ('kept' in one ? [one.kept] : []));
  const takes = edges.flatMap(({ usable }) => usable.filter((one) => one.filter === filter.id).map((one) => one.take));
  const soft = softnessInWords(whySoft(sharpness), filter.name ?? filter.id, takes);
  return {
    sharpness,
    softness: soft.sentence,
    faults: [...kept.flatMap((one) => ('withheld' in one ? [one.withheld] : [])), ...soft.faults],
  };
}

interface OnOrdinaryScenes {
  ordinary: OrdinaryReadings[];
  shadings: ShadingReadings[];
  sharpness: SharpnessReadings[];
  faults: Fault[];
}

/** What ordinary scenes tell of a filter beside its strength. */
function ordinaryScenesOf(
  filter: Filter,
  { scenes, space, response }: Pick<Seen, 'scenes' | 'space' | 'response'>,
): OnOrdinaryScenes {
  const found: OnOrdinaryScenes = { ordinary: [], shadings: [], sharpness: [], faults: [] };
  for (const one of scenes) {
    const description = describeScene(one, filter, space);
    if (description) found.ordinary.push(description);
    const solved = one.filters.get(filter.id);
    if (!solved) continue;
    const fall = polarizes(filter) ? null : estimateFrameShading(one.scene, solved, space, response);
    const kept = estimateFrameSharpness(one.scene, filter);
    if (fall) found.shadings.push(fall.shading);
    if (kept.sharpness) found.sharpness.push(kept.sharpness);
    found.faults.push(...(fall?.faults ?? []), ...kept.faults);
  }
  return found;
}

/** The first shading is the filter's; what other scenes told stands beside it. */
function joinShadings([first, ...rest]: readonly ShadingReadings[]): ShadingReadings | undefined {
  if (!first || rest.length === 0) return first;
  return { ...first, others: [...((first.others as ShadingReadings[] | undefined) ?? []), ...rest] };
}

function verdictOf(
  figures: Pick<FilterReadings, 'nominalStops' | 'density' | 'cast' | 'sharpness' | 'shading' | 'variable'>,
  filter: Filter,
  pictures: number,
  softness: string | null,
): Verdict {
  const [softest] = [...(figures.sharpness ?? [])].sort((a, b) => a.retained.value - b.retained.value);
  return {
    ...judgeFilter(figures, filter, pictures),
    ...judgeQualities(figures, filter.kind),
    takes: pictures,
    ...(figures.cast ? { cast: castInWords(figures.cast, filter.kind) } : {}),
    ...(softest?.budget ? { sharpnessAdvice: adviseOn(softest.budget) } : {}),
    ...(softness === null ? {} : { softness }),
  };
}

/** Points (code, log2 light) of a recovered response per channel, over the codes that its bracket reached, for a plot. */
function curveOf({ decode, range = [0, 1] }: NonNullable<Observed['recovered']>) {
  const codes = Array.from({ length: 49 }, (_, i) => range[0] + ((range[1] - range[0]) * i) / 48);
  return decode.map((one) => codes.map((code) => [code, Math.log2(one(code))]));
}

function distinct(faults: readonly Fault[]): Fault[] {
  return faults.filter(
    (one, i) => faults.findIndex((other) => other.code === one.code && other.message === one.message) === i,
  );
}
