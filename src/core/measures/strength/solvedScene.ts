/** Strength and cast from ordinary scenes: what the pairs of pictures of a scene tell of its light and of each filter, solved. */
import type { Contribution } from '../../formulas/statistics/budget';
import { accumulate, commonMode, diagonal } from '../../formulas/statistics/covariance';
import type { OrdinaryPicture, OrdinaryScene } from '../../laying/ordinaryTypes';
import { REASONS, type RatioMap } from '../../laying/ratioMap';
import { byOneCurve, type ResolvedResponse } from '../../light/response';
import { frameInWords } from '../../reading/facts';
import type { FoundFault, PatchSample } from '../../reading/observations';
import type { Triple } from '../../reading/patchStatistics';
import { polarizes } from '../../session/polarizing';
import type { Session } from '../../session/schema';
import { notLaid, takeIsMute, type MuteReason } from '../../words/ordinary';
import { seriesOf, type Shot } from './patchStrength';
import { lightFaults, repeatFaults, whiteBalanceFaults, type PreparedPatch } from './preparedPatch';
import { levelCovariance, solveChannel, type LensFall, type Pair, type SolvedChannel } from './solveChannel';

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

export interface SolvedScene {
  scene: OrdinaryScene;
  place: PreparedPatch;
  filters: Map<string, SolvedFilter>;
}

/** Share of a ratio map's cells that must speak. Our own judgement. */
const LEAST_CELLS = 0.05;

const NO_LENS: LensFall = { terms: [0, 0, 0], information: [[1, 0, 0], [0, 1, 0], [0, 0, 1]] }; // prettier-ignore

/** Solves what the pairs of a scene tell; `null` without a bare picture whose exposure is known. */
export function solveOrdinaryScene(
  scene: OrdinaryScene,
  session: Session,
  recovered: ResolvedResponse | null,
): SolvedScene | null {
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
  const series = seriesOf(shots, session.rig.shutterMarks === 'nominal', byOneCurve(recovered));
  const faults: FoundFault[] = [];
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
    markDoubt: picture.markDoubt,
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
function pairingFaults({ pictures, pairs, unpaired }: OrdinaryScene, linked: ReadonlySet<number>): FoundFault[] {
  const takes = [...new Set(unpaired.map(({ take }) => take))];
  return takes.flatMap((take) => {
    const own = pictures.flatMap((one, i) => (one.take === take ? [i] : []));
    const laid = own.filter((i) =>
      pairs.some(({ first, second }) => (first === i && linked.has(second)) || (second === i && linked.has(first))),
    );
    const lost = unpaired.filter((one) => one.take === take);
    const { filter } = pictures[own[0]];
    const [first] = lost;
    const [file, tried] = [first.file, first.tried].map(frameInWords);
    const told = { lost: lost.length, of: own.length, why: first.words, file, tried };
    return [{ filter, fault: notLaid(take, told, laid.length === 0) }];
  });
}

/** Takes that were laid on bare ones, of which nothing speaks all the same: clipped or too dark, or no bare take ties them to the rest. */
function mutedFaults({ pictures, pairs, unpaired }: OrdinaryScene, linked: ReadonlySet<number>): FoundFault[] {
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
    const unconnected = laid.every(({ map }) => tells(map));
    const reason: MuteReason = unconnected ? 'unconnected' : main === 'clipped' || main === 'dark' ? main : 'moved';
    return [{ filter, fault: takeIsMute(take, reason) }];
  });
}
