/** Figures from ordinary scenes: strength and cast, fall of light, sharpness, what a polarizer darkens, and the light over time. */
import { type ColorSpace, luminanceRow } from '../../formulas/color/spaces';
import { luminousStops } from './combineStrengths';
import { seriesOf, type Shot } from './patchStrength';
import type { PatchSample } from '../../reading/observations';
import type { OrdinaryPicture, OrdinaryScene } from '../../laying/ordinaryTypes';
import type { ResolvedResponse } from '../../light/response';
import { levelCovariance, solveChannel, type LensFall, type Pair, type SolvedChannel } from './solveScene';
import { REASONS, type RatioMap } from '../../laying/ratioMap';
import type { Triple } from '../../reading/patchStatistics';
import { frameInWords } from '../../reading/facts';
import { fault } from '../../words/faults';
import { polarizes } from '../../session/polarizing';
import type { Filter, Session } from '../../session/schema';
import type { FilterReadings, LightLine } from '../../session/readings';
import { accumulate, commonMode, diagonal } from '../../formulas/statistics/covariance';
import type { Contribution } from '../../formulas/statistics/budget';
import { areasOf } from '../polarizer/areas';
import { addFrameShading } from '../shading/frameShading';
import { addFrameSharpness } from '../sharpness/frameSharpness';
import { lightFaults, repeatFaults, whiteBalanceFaults, type Place } from './places';

/** A filter's pairs at an ordinary scene, solved. */
export interface SolvedFilter {
  /** Places of its pairs in the scene's list. */
  pairs: number[];
  channels: [SolvedChannel, SolvedChannel, SolvedChannel];
}

/**
 * What a registered ratio leaves uncertain beyond the scatter of its parts, stops: all channels alike, and each of its own (codecs, what
 * interpolation does), on stills, on clips, and on clips of 8 bits, whose steps are coarse where it is dark. Found on simulated walks and
 * photographs.
 */
const REGISTERED = {
  stills: { common: 0.001, own: 0.0007 },
  clips: { common: 0.0015, own: 0.001 },
  coarseClips: { common: 0.0015, own: 0.0018 },
};

export interface OrdinaryPlace {
  scene: OrdinaryScene;
  place: Place;
  filters: Map<string, SolvedFilter>;
}

/** Share of a ratio map's cells that must speak. Our own judgement. */
const LEAST_CELLS = 0.05;

const NO_LENS: LensFall = { terms: [0, 0, 0], information: [[1, 0, 0], [0, 1, 0], [0, 0, 1]] }; // prettier-ignore

/** Solves what the pairs of a scene tell. */
export function prepareOrdinary(
  scene: OrdinaryScene,
  session: Session,
  recovered: ResolvedResponse | null,
): OrdinaryPlace | null {
  const { pictures, pairs, patch } = scene;
  const aspect = scene.height / scene.width;
  const isBare = (i: number) => pictures[i].filter === null;
  const reference = pictures.findIndex((one) => one.filter === null && Number.isFinite(one.exposureLog2));
  if (reference < 0) return null;
  const barePairs = pairs.filter(({ first, second, map }) => isBare(first) && isBare(second) && tells(map));
  const linked = connected(reference, barePairs);
  const usedBare = barePairs.filter(({ first }) => linked.has(first));
  const known = new Map([[reference, 0]]);
  const bare = [0, 1, 2].map((c) =>
    solveChannel(usedBare.map((one) => ({ ...one, filtered: false })), c, pictures.length, known, aspect),
  ); // prettier-ignore
  const lens = usedBare.length > 0 ? bare.map((one) => one.lens) : [NO_LENS, NO_LENS, NO_LENS];
  const filters = new Map<string, SolvedFilter>();
  const ids = new Set(pictures.flatMap(({ filter }) => filter ?? []));
  const strengthless = new Set(
    session.kits.flatMap((kit) => kit.filters.flatMap((one) => (polarizes(one) ? [one.id] : []))),
  );
  for (const filter of ids) {
    const own = [...pairs.keys()].filter(
      (i) => pictures[pairs[i].first].filter === filter && linked.has(pairs[i].second) && tells(pairs[i].map),
    );
    if (own.length === 0) continue;
    const told = own.map((i): Pair => ({ ...pairs[i], filtered: true }));
    const channels = [0, 1, 2].map((c) => {
      const levels = new Map([...linked].map((i) => [i, bare[c].levels[i]]));
      return solveChannel(told, c, pictures.length, levels, aspect, lens[c]);
    }) as SolvedFilter['channels'];
    filters.set(filter, { pairs: own, channels });
  }
  const shots = pictures.flatMap((picture, i): Shot[] => {
    const solved = picture.filter === null ? null : filters.get(picture.filter);
    const told =
      picture.filter === null
        ? linked.has(i)
        : solved && !strengthless.has(picture.filter) && solved.pairs.some((pair) => pairs[pair].first === i);
    if (!told || !Number.isFinite(picture.exposureLog2)) return [];
    return [shotOf(picture, i, solved?.channels ?? bare, i === reference)];
  });
  const series = seriesOf(shots, session.rig.shutterMarks === 'nominal', recovered?.covariance);
  const faults: Place['faults'] = [];
  if (series) faults.push(...lightFaults(series, patch.scene), ...repeatFaults(series, shots));
  faults.push(
    ...whiteBalanceFaults(shots, patch.scene),
    ...pairingFaults(scene, linked),
    ...mutedFaults(scene, linked),
  );
  const frames = pictures.filter(({ seconds }) => seconds !== null);
  const coarse = frames.some(({ bits }) => bits === 8);
  const { common, own } = REGISTERED[coarse ? 'coarseClips' : frames.length > 0 ? 'clips' : 'stills'];
  const extra: Contribution = {
    source: 'registration',
    covariance: accumulate(commonMode(common), diagonal([own, own, own])),
    degreesOfFreedom: Infinity,
  };
  return { scene, place: { patch, series, seen: ids, faults, extra: [extra] }, filters };
}

/** Whether enough of a ratio map is well exposed, still and in both pictures: of fewer cells a level would be a guess. */
function tells({ reason }: RatioMap): boolean {
  return reason.reduce((count, one) => count + (one === 0 ? 1 : 0), 0) >= LEAST_CELLS * reason.length;
}

/** Pictures that pairs lead to from one. */
function connected(from: number, pairs: readonly { first: number; second: number }[]): Set<number> {
  const found = new Set([from]);
  for (let grown = true; grown;) {
    grown = false;
    for (const { first, second } of pairs)
      if (found.has(first) !== found.has(second)) {
        found.add(first).add(second);
        grown = true;
      }
  }
  return found;
}

/** A picture as a sample of the scene's light: its level at the center, and how well that is known. */
function shotOf(picture: OrdinaryPicture, at: number, channels: readonly SolvedChannel[], isReference: boolean): Shot {
  const level = channels.map((one) => one.levels[at] - picture.exposureLog2) as Triple;
  const sample: PatchSample = {
    take: picture.take,
    file: picture.file,
    filter: picture.filter,
    timeMs: picture.timeMs,
    exposureLog2: picture.exposureLog2,
    ...(picture.seconds === null ? {} : { frame: true }),
    whiteBalance: picture.whiteBalance,
    statistics: {
      pixelCount: 1,
      mean: channels.map((one) => 2 ** one.levels[at]) as Triple,
      zeroCorrection: [0, 0, 0],
      topShare: [0, 0, 0],
      zeroShare: [0, 0, 0],
      pixelSpread: [0, 0, 0],
      meanCode: picture.meanCode,
      rounding: [0, 0, 0],
      cells: { columns: 1, rows: 1, values: [0, 1, 2].map(() => new Float64Array(1)) as never },
    },
  };
  return { ...sample, level, noise: isReference ? diagonal([0, 0, 0]) : levelCovariance(channels, at) };
}

/** Takes of which nothing, or not everything, could be laid on a bare picture. */
function pairingFaults({ pictures, pairs, unpaired }: OrdinaryScene, linked: ReadonlySet<number>): Place['faults'] {
  const takes = [...new Set(unpaired.map(({ take }) => take))];
  return takes.flatMap((take) => {
    const own = pictures.flatMap((one, i) => (one.take === take ? [i] : []));
    const laid = own.filter((i) =>
      pairs.some(({ first, second }) => (first === i && linked.has(second)) || (second === i && linked.has(first))),
    );
    const lost = unpaired.filter((one) => one.take === take);
    const { filter } = pictures[own[0]];
    const [{ words }] = lost;
    const [file, tried] = [lost[0].file, lost[0].tried].map(frameInWords);
    const whole = laid.length === 0;
    const text = whole
      ? `${take}: none of its pictures could be laid on a bare one; ${words} (${file} on ${tried}). It is left out.`
      : `${take}: ${lost.length} of its ${own.length} pictures could not be laid on a bare one; ${words} (${file} on ${tried}). The others speak.`;
    return [{ filter, fault: fault('registration-failed', whole ? 'error' : 'warning', [take], text) }];
  });
}

/** Takes that were laid on bare ones, of which nothing speaks all the same: clipped or too dark, or no bare take ties them to the rest. */
function mutedFaults({ pictures, pairs, unpaired }: OrdinaryScene, linked: ReadonlySet<number>): Place['faults'] {
  const takes = [...new Set(pictures.map(({ take }) => take))];
  return takes.flatMap((take) => {
    const own = pictures.flatMap((one, i) => (one.take === take ? [i] : []));
    const laid = pairs.filter(({ first, second }) => own.includes(first) && pictures[second].take !== take);
    const speaks = own.some((i) => linked.has(i)) || laid.some(({ second, map }) => linked.has(second) && tells(map));
    if (speaks || laid.length === 0 || unpaired.some((one) => one.take === take)) return [];
    const { filter } = pictures[own[0]];
    const counts = REASONS.map((_, digit) =>
      laid.reduce((sum, { map }) => sum + map.reason.reduce((n, one) => n + (one === digit ? 1 : 0), 0), 0),
    );
    const main = REASONS[counts.indexOf(Math.max(...counts.slice(1)), 1)];
    const [code, words] = laid.every(({ map }) => tells(map))
      ? (['registration-failed', 'the bare take that it was laid on lies on no other'] as const)
      : main === 'clipped'
        ? (['clipped', 'nearly all of it, or of bare, is clipped'] as const)
        : main === 'dark'
          ? (['too-dark', 'nearly all of it, or of bare, is black'] as const)
          : (['registration-failed', 'nothing in it stands still'] as const);
    return [{ filter, fault: fault(code, 'error', [take], `${take}: ${words}; it is left out.`) }];
  });
}

/** Adds what ordinary scenes tell of a filter beside its strength. */
export function addOrdinary(
  result: FilterReadings,
  filter: Filter,
  places: readonly OrdinaryPlace[],
  space: ColorSpace,
): void {
  for (const one of places) {
    const { scene } = one;
    const solved = one.filters.get(filter.id);
    const unpaired = scene.unpaired.filter(({ take }) =>
      scene.pictures.some((p) => p.take === take && p.filter === filter.id),
    );
    if (!solved && unpaired.length === 0) continue;
    const grid = scene.pairs[0]?.map ?? { columns: 0, rows: 0 };
    const own: NonNullable<FilterReadings['ordinary']>[number] = {
      scene: scene.patch.scene,
      patch: scene.patch.id,
      width: scene.width,
      height: scene.height,
      columns: grid.columns,
      rows: grid.rows,
      pairs: (solved?.pairs ?? []).map((at, i) => pairOf(scene, at, solved!, i)),
      unpaired,
    };
    result.ordinary = [...(result.ordinary ?? []), own];
    if (!solved) continue;
    if (polarizes(filter)) own.areas = areasOf(scene, solved, space);
    else addFrameShading(result, scene, solved, space);
    addFrameSharpness(result, scene, filter);
  }
}

const DIGITS = REASONS.map((_, i) => String(i));
const OTHER_LIGHT = REASONS.indexOf('light');

function pairOf({ pictures, pairs }: OrdinaryScene, at: number, { channels }: SolvedFilter, own: number) {
  const { first, second, homography, agreement, errorPx, map } = pairs[at];
  const [take, bare] = [pictures[first], pictures[second]];
  const outliers = channels[1].outliers[own];
  return {
    take: take.take,
    file: take.file,
    seconds: take.seconds,
    bareTake: bare.take,
    bareFile: bare.file,
    bareSeconds: bare.seconds,
    homography: homography.map((value) => Math.round(value * 1e7) / 1e7),
    agreement: Math.round(agreement * 1e3) / 1e3,
    errorPx: Math.round(errorPx * 1e3) / 1e3,
    cells: Array.from(map.reason, (reason, cell) => DIGITS[reason === 0 && outliers[cell] ? OTHER_LIGHT : reason]).join(
      '',
    ),
  };
}

/** The light of each scene over its pictures; a filter's strength is added back to its own. */
export function lightOver(
  places: readonly OrdinaryPlace[],
  filters: readonly FilterReadings[],
  space: ColorSpace,
): LightLine[] {
  const weights = luminanceRow(space);
  return places.flatMap(({ place }): LightLine[] => {
    if (!place.series) return [];
    const [first] = place.series.shots.filter((shot) => shot.filter === null);
    const base = luminousStops(first.level.map((one) => -one) as Triple, weights).stops;
    const points = place.series.shots.flatMap((shot) => {
      const { stops, gradient } = luminousStops(shot.level.map((one) => -one) as Triple, weights);
      const density = shot.filter === null ? null : filters.find((one) => one.filter === shot.filter)?.density;
      if (shot.filter !== null && !density) return [];
      const variance = gradient.reduce(
        (sum, a, i) => sum + gradient.reduce((part, b, j) => part + a * b * shot.noise[3 * i + j], 0),
        0,
      );
      return {
        take: shot.take,
        filter: shot.filter,
        at: new Date(shot.timeMs).toISOString(),
        stops: Math.round(1e4 * ((density?.stops.value ?? 0) + base - stops)) / 1e4,
        u95: Math.round(1e4 * 2 * Math.sqrt(Math.max(0, variance))) / 1e4,
      };
    });
    return [{ scene: place.patch.scene, points: points.sort((a, b) => a.at.localeCompare(b.at)) }];
  });
}
