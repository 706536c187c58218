/**
 * Measures a session: pictures → statistics of patches → strengths → casts → verdicts.
 *
 * Plain data in and out; pictures come through the {@link PictureSource} port. Figures that the footage can't carry are
 * absent, and a fault says why.
 */
import { measureCast } from './cast';
import { luminanceRow, resolveColorSpace, type ColorSpace } from './color';
import {
  combineStrengths,
  patchStrength,
  preparePatch,
  repeatRange,
  type CombinedStrength,
  type PatchSample,
  type PatchSeries,
  type PatchStrength,
} from './density';
import { gather, type Gathered, type GatheredPatch, type GatherOptions } from './gather';
import { nearestStandardFactor, nominalStops } from './labels';
import { castInWords, judgeStrength, kitFaults, type RatedFilter } from './rating';
import { fault, type Fault, type Filter, type FilterReadings, type Readings, type Session } from './session';
import type { PictureSource } from './source';
import { expand, reading } from './uncertainty';

/** Largest share of pixels at the top code that leaves a mean usable (formats.md). */
const CLIPPED_SHARE = 0.001;
/** A strength less certain than this is withheld (formats.md), in stops. */
const WIDEST_U95 = 0.15;
/** A cast less certain than this says nothing: as wide as the step from unseen to visible. Our own judgement. */
const WIDEST_CAST_U95 = 2.3;
/** Share of pixels at code 0 from which darkness is worth a word. */
const DARK_SHARE = 0.01;
/** With more than this at code 0 nothing is left to estimate a mean from. */
const MOSTLY_BLACK = 0.5;
/** Repeats farther apart than this, and than six times their noise, are asked about. Our own judgement, in stops. */
const REPEATS_APART = 0.05;
/** Density and cast come from the first of these roles that a filter was seen on (formats.md). */
const ROLE_ORDER = ['neutral', 'frame', 'field'] as const;

/** Kinds whose single label makes them a step of a row. */
const PLAIN_KINDS = new Set(['nd', 'nd-polarizer']);

export interface MeasureOptions extends GatherOptions {
  /** ISO 8601 time that the readings carry. */
  createdAt: string;
  /** Program and version. */
  generator: string;
}

/** Measures every filter of a session (or one). Rejects with SessionError when its response can't be used. */
export async function measureSession(
  session: Session,
  source: PictureSource,
  options: MeasureOptions,
): Promise<Readings> {
  const gathered = await gather(session, source, options);
  const space = resolveColorSpace(session.rig.colorSpace);
  const places = gathered.patches.map((one) => preparePlace(one, session));
  const general = gathered.faults.filter((one) => one.filter === null).map((one) => one.fault);
  general.push(...places.flatMap((place) => place.faults.filter((one) => one.filter === null).map((one) => one.fault)));

  const filters: FilterReadings[] = session.kits.flatMap((kit) =>
    kit.filters
      .filter((filter) => options.filter === undefined || filter.id === options.filter)
      .map((filter) => measureFilter(filter, kit.id, places, gathered, session, space)),
  );
  for (const kit of session.kits) addKitFaults(filters, kit.filters, session);
  return {
    format: 'aurora-glade-readings',
    version: 1,
    session: session.title,
    createdAt: options.createdAt,
    generator: options.generator,
    response: { kind: session.rig.response.kind, description: gathered.response },
    filters,
    faults: distinct(general),
  };
}

interface Place {
  patch: GatheredPatch['patch'];
  series: PatchSeries | null;
  /** Filters with samples here, usable or not. */
  seen: Set<string>;
  faults: { filter: string | null; fault: Fault }[];
}

/** One patch: leaves out clipped and black pictures, names what is wrong with the light and the repeats. */
function preparePlace({ patch, samples }: GatheredPatch, session: Session): Place {
  const faults: Place['faults'] = [];
  const usable = samples.filter((sample) => {
    const problem = unusable(sample, patch.id);
    if (problem) faults.push({ filter: sample.filter, fault: problem });
    return !problem;
  });
  for (const sample of usable) {
    const dark = Math.max(...sample.statistics.zeroShare);
    if (dark > DARK_SHARE)
      faults.push({
        filter: sample.filter,
        fault: fault(
          'too-dark',
          'warning',
          [sample.take],
          `${sample.take}: ${percent(dark)} of “${patch.id}” is at code 0; what lies below is estimated and adds to the ±.`,
        ),
      });
  }
  const series = preparePatch(usable, session.rig.shutterMarks === 'nominal');
  if (series) faults.push(...lightFaults(series, patch.scene), ...repeatFaults(series, usable));
  faults.push(...whiteBalanceFaults(samples, session, patch.scene));
  return { patch, series, seen: new Set(samples.flatMap((sample) => sample.filter ?? [])), faults };
}

function unusable(sample: PatchSample, patch: string): Fault | null {
  const { topShare, zeroShare, mean } = sample.statistics;
  const clipped = Math.max(...topShare);
  if (clipped > CLIPPED_SHARE)
    return fault(
      'clipped',
      'error',
      [sample.take],
      `${sample.take}: ${percent(clipped)} of “${patch}” is clipped, so its level is not known; the picture is left out.`,
    );
  const black = Math.max(...zeroShare);
  if (black > MOSTLY_BLACK || mean.some((light) => !(light > 0)))
    return fault(
      'too-dark',
      'error',
      [sample.take],
      `${sample.take}: ${percent(black)} of “${patch}” is black in one channel; the picture is left out.`,
    );
  return null;
}

function lightFaults(series: PatchSeries, scene: string): Place['faults'] {
  const { trend, difference, levels, jumpAfter } = series.bare;
  if (!trend) return [];
  const takes = levels.map((level) => level.take);
  if (trend === 'light-drifted')
    return [
      {
        filter: null,
        fault: fault(
          trend,
          'warning',
          takes,
          `The light drifted by ${difference.toFixed(2)} stop over the bare takes of “${scene}”; what interpolation can’t follow is in the ±.`,
        ),
      },
    ];
  const [from, to] = [levels[jumpAfter ?? 0].take, levels[(jumpAfter ?? 0) + 1].take];
  return [
    {
      filter: null,
      fault: fault(
        trend,
        'warning',
        [from, to],
        `The light jumped by ${difference.toFixed(2)} stop between ${from} and ${to} of “${scene}”; takes between them are suspect and their ± covers the jump.`,
      ),
    },
  ];
}

function repeatFaults(series: PatchSeries, usable: PatchSample[]): Place['faults'] {
  const filterOf = new Map(usable.map((sample) => [sample.take, sample.filter]));
  return series.groups.flatMap((group) => {
    const range = repeatRange(group);
    const noise = Math.sqrt(Math.max(...group.noise.map((one) => Math.max(one[0], one[4], one[8]))));
    if (group.levels.length < 2 || range < REPEATS_APART || range < 6 * noise) return [];
    return [
      {
        filter: filterOf.get(group.take) ?? null,
        fault: fault(
          'repeats-disagree',
          'warning',
          [group.take],
          `The repeats of ${group.take} lie ${range.toFixed(2)} stop apart, far more than their noise.`,
        ),
      },
    ];
  });
}

/** A white balance that differs between bare and filter is a cast of the camera's, not of the filter's. */
function whiteBalanceFaults(samples: PatchSample[], session: Session, scene: string): Place['faults'] {
  const settingOf = new Map(session.takes.map((take) => [take.id, take.whiteBalance]));
  const bare = new Set(
    samples.filter((sample) => sample.filter === null).flatMap((sample) => settingOf.get(sample.take) ?? []),
  );
  if (bare.size === 0) return [];
  return samples.flatMap((sample) => {
    const setting = settingOf.get(sample.take);
    if (setting === undefined || sample.filter === null || bare.has(setting)) return [];
    return [
      {
        filter: sample.filter,
        fault: fault(
          'white-balance-moved',
          'error',
          [sample.take],
          `${sample.take} was shot at white balance “${setting}”, the bare takes of “${scene}” at “${[...bare].join(', ')}”: its cast is withheld.`,
        ),
      },
    ];
  });
}

function measureFilter(
  filter: Filter,
  kit: string,
  places: Place[],
  gathered: Gathered,
  session: Session,
  space: ColorSpace,
): FilterReadings {
  const faults = [...gathered.faults, ...places.flatMap((place) => place.faults)]
    .filter((one) => one.filter === filter.id)
    .map((one) => one.fault);
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
  const combined = chooseRole(strengths, space);
  if (combined) addStrength(result, combined, strengths, nominal, space);
  else faults.push(...whyNotMeasured(filter, places, session));
  if (faults.some((one) => one.code === 'white-balance-moved')) delete result.cast;
  const takes = combined ? combined.places.reduce((most, place) => Math.max(most, place.strength.takes.length), 0) : 0;
  result.verdict = judgeStrength(result.density, nominal, takes);
  if (result.cast) result.verdict.cast = castInWords(result.cast);
  result.faults = distinct(faults);
  return result;
}

function chooseRole(strengths: PatchStrength[], space: ColorSpace): CombinedStrength | null {
  const role = ROLE_ORDER.find((candidate) => strengths.some((strength) => strength.role === candidate));
  return role
    ? combineStrengths(
        strengths.filter((strength) => strength.role === role),
        luminanceRow(space),
      )
    : null;
}

function addStrength(
  result: FilterReadings,
  combined: CombinedStrength,
  all: PatchStrength[],
  nominal: number | null,
  space: ColorSpace,
): void {
  const { contributions, channels, stops, gradient } = combined;
  const luminous = expand(contributions, gradient);
  const takes = combined.places.flatMap((place) => place.strength.takes);
  if (!(luminous.u95 <= WIDEST_U95)) {
    result.faults.push(
      fault(
        'too-dark',
        'error',
        takes,
        `The strength would be uncertain by ${luminous.u95.toFixed(2)} stop, more than ${WIDEST_U95}; it is withheld. Most of that is ${luminous.lines[0]?.source ?? 'noise'}.`,
      ),
    );
    return;
  }
  const unit = [0, 1, 2].map((c) => [0, 1, 2].map((i) => (i === c ? 1 : 0)));
  const perChannel = channels.map((value, c) => reading(value, expand(contributions, unit[c])));
  result.density = {
    stops: reading(stops, luminous),
    channels: { r: perChannel[0], g: perChannel[1], b: perChannel[2] },
    ...(nominal === null ? {} : { error: reading(stops - nominal, luminous) }),
    actsLike: { ndFactor: nearestStandardFactor(stops) },
    byScene: byScene(all, space),
    budget: luminous.lines,
  };
  if (combined.birgeRatio > 2 && combined.range > 0.02)
    result.faults.push(
      fault(
        'scenes-disagree',
        'warning',
        takes,
        `Its places disagree by ${combined.range.toFixed(2)} stop, ${combined.birgeRatio.toFixed(1)} times what their ± allows; the ± of the mean is widened.`,
      ),
    );
  const cast = measureCast(channels, contributions, space);
  if (cast.deltaE00.u95 <= WIDEST_CAST_U95) result.cast = cast;
  else
    result.faults.push(
      fault(
        'too-dark',
        'error',
        takes,
        `The cast would be uncertain by ΔE00 ${cast.deltaE00.u95.toFixed(1)}; it is withheld.`,
      ),
    );
}

/** All places that could tell, whatever their role. */
function byScene(all: PatchStrength[], space: ColorSpace) {
  return all.map((strength) => {
    const [place] = combineStrengths([strength], luminanceRow(space)).places;
    return {
      scene: strength.scene,
      role: strength.role,
      patch: strength.patch,
      stops: { value: place.stops, u95: place.u95 },
    };
  });
}

/** Why a filter has no figure, when no fault of its own says so already. */
function whyNotMeasured(filter: Filter, places: Place[], session: Session): Fault[] {
  const takes = session.takes.filter((take) => take.filter === filter.id && take.role === 'measure');
  const ids = takes.map((take) => take.id);
  const seen = places.filter((place) => place.seen.has(filter.id));
  const withoutBare = seen.filter((place) => place.series === null);
  const clippedBare = withoutBare.flatMap((place) =>
    place.faults.filter((one) => one.filter === null && one.fault.code !== 'white-balance-moved'),
  );
  if (clippedBare.length > 0)
    return clippedBare.map(({ fault: cause }) =>
      fault(
        cause.code as 'clipped',
        'error',
        [...ids, ...cause.takes],
        `No usable bare picture to compare with. ${cause.message}`,
      ),
    );
  const scenes = [...new Set(takes.map((take) => take.scene))];
  const missing = scenes.filter(
    (scene) => !session.takes.some((take) => take.scene === scene && take.filter === null && take.role === 'measure'),
  );
  if (missing.length > 0 || withoutBare.length > 0)
    return [
      fault(
        'bare-missing',
        'error',
        ids,
        `There is no usable bare take of ${scenes.map((scene) => `“${scene}”`).join(', ')} to compare with.`,
      ),
    ];
  return [];
}

/** Merged steps and suspected order, told on the sheets of both filters. */
function addKitFaults(readings: FilterReadings[], filters: Filter[], session: Session): void {
  const rated: RatedFilter[] = filters.flatMap((filter) => {
    const found = readings.find((one) => one.filter === filter.id);
    if (!found?.density || found.nominalStops === null || !PLAIN_KINDS.has(filter.kind)) return [];
    const { value, u95 } = found.density.stops;
    const takes = session.takes
      .filter((take) => take.filter === filter.id && take.role === 'measure')
      .map((take) => take.id);
    return [
      { filter: filter.id, name: filter.name ?? filter.id, nominal: found.nominalStops, stops: value, u95, takes },
    ];
  });
  for (const { filters: pair, fault: found } of kitFaults(rated))
    for (const id of pair) readings.find((one) => one.filter === id)?.faults.push(found);
}

function distinct(faults: Fault[]): Fault[] {
  return faults.filter(
    (one, i) => faults.findIndex((other) => other.code === one.code && other.message === one.message) === i,
  );
}

function percent(share: number): string {
  return `${(100 * share).toFixed(share < 0.01 ? 2 : 1)} %`;
}
