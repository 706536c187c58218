/** The response of a session whose files only tell a standard curve: learned from all its pictures, and applied to what was read of them. */
import { propagate, zeroCovariance, type Covariance } from '../../formulas/statistics/covariance';
import { exposureRules, exposureOf, timesOf } from '../../reading/exposures';
import type { PictureFacts } from '../../reading/facts';
import type { PatchStatistics, Triple } from '../../reading/patchStatistics';
import type { ReadShot } from '../../reading/readShots';
import { patchesOfScene } from '../../session/parse';
import type { Fault } from '../../session/readings';
import type { Filter, Session } from '../../session/schema';
import { SQUARES, type FieldStatistics } from '../../measures/shading/field';
import type { TableCache } from '../decoding';
import type { ResolvedResponse } from '../response';
import { compressionOfCodes, type MeanSteps } from './compression';
import {
  curveUnchecked,
  curveUnsettled,
  learnedInWords,
  picturesShift,
  toneAdapts,
  toneIsLocal,
} from '../../words/camera';
import { PLACES_ID } from './placesWindow';
import { correctionOf, type Correction } from './corrected';
import { estimateResponse } from './estimate';
import { NO_EVIDENCE, TELLING_STOPS, type ResponseEstimate } from './model';
import { gatherEvidence, medianLight, slopeOfTable, type GridShot, type SpeakingScene } from './evidence';
import { isOnlyTold, STANDARD_CURVE_SIGMA } from './trust';

/** What was learned; `null` parts where every file is believed. */
export interface LearnedResponse {
  estimate: ResponseEstimate;
  correction: Correction;
  /** As measures use it: codes to light, set right, with its covariance. */
  response: ResolvedResponse;
  faults: Fault[];
}

/** Filters that take the same everywhere: through others the light isn't one ratio. */
const EVEN_KINDS: readonly Filter['kind'][] = ['nd', 'clear', 'polarizer', 'nd-polarizer'];
/** Scenes whose filtered pictures differ from bare ones by one ratio. */
const EVEN_SCENES = ['chart', 'flat'];
/** A view that moved less than this share of the width still shows the same squares. */
const SAME_SQUARES = 1 / 300;

/** Learns the response from all pictures that were read; `null` where their files are believed. */
export function learnResponse(read: readonly ReadShot[], session: Session, tables: TableCache): LearnedResponse | null {
  const told = read.filter(({ facts }) => isOnlyTold(facts, session.rig.response));
  if (told.length === 0) return null;
  const shots = gridShots(told, session, tables);
  const evidence = gatherEvidence(
    shots,
    session.scenes.flatMap((scene) => speaking(scene, session) ?? []),
  );
  const prior = { sigma: STANDARD_CURVE_SIGMA };
  const estimate = estimateResponse(evidence ?? NO_EVIDENCE, prior) ?? estimateResponse(NO_EVIDENCE, prior)!;
  const [{ facts }] = told;
  const declared = tables.responseOf(facts.encoding);
  const correction = correctionOf(estimate, (code, channel) =>
    Math.log2(Math.max(declared.decode[channel](code), 1e-7)),
  );
  const decode = [0, 1, 2].map(
    (channel) => (code: number) => correction.correct(declared.decode[channel](code), channel),
  ) as unknown as ResolvedResponse['decode'];
  return {
    estimate,
    correction,
    response: {
      ...declared,
      decode,
      covariance: correction.covariance,
      description: learnedInWords(
        declared.description,
        evidence?.pictures.length ?? 0,
        isChecked(estimate) ? estimate.knownStops : 0,
      ),
    },
    faults: faultsOf(estimate, [...new Set(told.map((shot) => shot.take.id))], declared.description),
  };
}

const isChecked = ({ knownStops }: ResponseEstimate) => knownStops >= TELLING_STOPS;

/** Adapting tone counts as found where it is this many times its uncertainty, and larger than these. */
const FOUND = { shift: 0.05, localTimes: 5, local: 0.01 };

/** What is to be said of a camera: that its curve isn't known, and what adapts. */
function faultsOf(estimate: ResponseEstimate, takes: readonly string[], told: string): Fault[] {
  const { automatic, localSeen, offsets, converged } = estimate;
  const faults: Fault[] = [];
  if (!converged) faults.push(curveUnsettled(takes));
  else if (!isChecked(estimate)) faults.push(curveUnchecked(takes, told));
  if (estimate.adapts) faults.push(toneAdapts(takes, automatic.value));
  else if (isChecked(estimate) && offsets > FOUND.shift) faults.push(picturesShift(takes, offsets));
  if (localSeen && Math.abs(localSeen.value) > Math.max(FOUND.local, FOUND.localTimes * localSeen.u))
    faults.push(toneIsLocal(takes, localSeen.value));
  return faults;
}

function speaking(scene: Session['scenes'][number], session: Session): SpeakingScene | null {
  const patches = patchesOfScene(session, scene.id);
  if (scene.kind === 'screen' || scene.kind === 'flare') return null;
  const gray = patches.find(({ role }) => role === 'neutral');
  const wall = patches.some(({ role }) => role === 'field');
  return {
    id: scene.id,
    wall: wall && !gray,
    gray: gray?.rect ?? null,
    filtered: EVEN_SCENES.includes(scene.kind),
  };
}

function gridShots(read: readonly ReadShot[], session: Session, tables: TableCache): GridShot[] {
  const kinds = new Map(session.kits.flatMap((kit) => kit.filters.map(({ id, kind }) => [id, kind] as const)));
  return session.scenes.flatMap((scene) => {
    const own = read.filter((shot) => shot.take.scene === scene.id && shot.reduced.get(PLACES_ID)?.places);
    const rules = exposureRules(own, session);
    const times = timesOf(own);
    return own.flatMap((shot, i): GridShot[] => {
      const { take, facts, view, reduced } = shot;
      const exposureLog2 = exposureOf(shot, rules);
      if (typeof exposureLog2 === 'string') return [];
      const shift = view.kind === 'moved' ? Math.hypot(view.pose.dx, view.pose.dy) : 0;
      if (view.kind === 'other' || view.kind === 'lost' || shift > SAME_SQUARES * facts.width) return [];
      if (take.filter !== null && !EVEN_KINDS.includes(kinds.get(take.filter)!)) return [];
      return [
        {
          take: take.id,
          scene: take.scene,
          through: take.filter === null ? null : `${take.filter} ${JSON.stringify(take.setting ?? null)}`,
          exposureLog2,
          timeMs: times[i],
          grid: reduced.get(PLACES_ID)!.places!,
          decoding: tables.decodingOf(facts.encoding, facts.bitDepth),
          bitDepth: facts.bitDepth,
          steps: stepsOf(facts),
        },
      ];
    });
  });
}

/** What a codec's key frames keep of means, in codes of 8 bits. Its quantizers aren't read: a usual step at camera rates. */
const CLIP_STEPS: MeanSteps = { luma: 1, blue: 1.5, red: 1.5 };

function stepsOf({ compression, clip }: PictureFacts): MeanSteps | null {
  if (compression) return compression;
  if (!clip) return null;
  const finer = 2 ** (clip.bits - 8);
  return { luma: CLIP_STEPS.luma / finer, blue: CLIP_STEPS.blue / finer, red: CLIP_STEPS.red / finer };
}

/**
 * Sets what was read of pictures right by what was learned, and adds what compression leaves uncertain in it. Pictures whose files are
 * believed and kept exactly stay as they are.
 */
export function settledShots(
  read: readonly ReadShot[],
  session: Session,
  tables: TableCache,
  learned: LearnedResponse | null,
): ReadShot[] {
  const medianOf = ({ reduced }: ReadShot) => {
    const places = reduced.get(PLACES_ID)?.places;
    return places && medianLight(places);
  };
  const medians = new Map(
    read.flatMap((shot) => {
      const median = medianOf(shot);
      return median === undefined ? [] : [[shot.take.id, median] as const];
    }),
  );
  return read.map((shot) => {
    const steps = stepsOf(shot.facts);
    const correction = learned && isOnlyTold(shot.facts, session.rig.response) ? learned.correction : null;
    if (!steps && !correction) return shot;
    const { encoding, bitDepth } = shot.facts;
    const pull =
      correction?.pullOf(shot.take.id, medianOf(shot) ?? medians.get(shot.take.id) ?? learned!.estimate.middle) ?? 0;
    const correct: Correct | null = correction && ((light, channel) => correction.correct(light, channel, pull));
    const { tables: ofCodes } = tables.decodingOf(encoding, bitDepth);
    const slope = (code: number, c: number) => slopeOfTable(ofCodes[c], code, bitDepth);
    const reduced = new Map(
      [...shot.reduced].map(([id, { level, field, edge, places: _done, ...rest }]) => [
        id,
        {
          ...rest,
          ...(level ? { level: settledLevel(level, steps, slope, correct) } : {}),
          ...(edge ? { edge: correction ? { ...edge, processed: true } : edge } : {}),
          ...(field ? { field: settledField(field, steps, slope, correct) } : {}),
        },
      ]),
    );
    return { ...shot, reduced };
  });
}

type Correct = (light: number, channel: number) => number;
type SlopeOfCode = (code: number, channel: number) => number;

/** Compression's covariance in stops² of the declared curve. */
function compressionOf(steps: MeanSteps, spread: Triple, code: Triple, slope: SlopeOfCode): Covariance {
  const covariance = compressionOfCodes(steps, spread);
  const slopes = [0, 1, 2].map((c) => slope(code[c], c));
  return covariance.map((value, i) => value * slopes[Math.floor(i / 3)] * slopes[i % 3]);
}

/** How much a relative change of light by the declared curve is really, by channel. */
function stretchOf(correct: Correct, mean: Triple): Triple {
  const step = 1.01;
  return mean.map((light, c) =>
    light > 0 ? Math.log(correct(light * step, c) / correct(light / step, c)) / (2 * Math.log(step)) : 1,
  ) as Triple;
}

function settledLevel(
  level: PatchStatistics,
  steps: MeanSteps | null,
  slope: SlopeOfCode,
  correct: Correct | null,
): PatchStatistics {
  const told = steps
    ? { ...level, compression: compressionOf(steps, level.componentSpread ?? [0, 0, 0], level.meanCode, slope) }
    : level;
  if (!correct) return told;
  const stretch = stretchOf(correct, level.mean);
  const scaled = (values: Triple) => values.map((value, c) => value * stretch[c]) as Triple;
  return {
    ...told,
    mean: level.mean.map((light, c) => correct(light, c)) as Triple,
    zeroCorrection: scaled(level.zeroCorrection),
    pixelSpread: scaled(level.pixelSpread),
    rounding: scaled(level.rounding),
    ...(told.compression
      ? { compression: told.compression.map((value, i) => value * stretch[Math.floor(i / 3)] * stretch[i % 3]) }
      : {}),
    cells: {
      ...level.cells,
      values: level.cells.values.map((cells, c) =>
        cells.map((light) => correct(light, c)),
      ) as unknown as PatchStatistics['cells']['values'],
    },
  };
}

function settledField(
  field: FieldStatistics,
  steps: MeanSteps | null,
  slope: SlopeOfCode,
  correct: Correct | null,
): FieldStatistics {
  const settled = { ...field };
  if (steps) {
    const compression = SQUARES.map((square) => [
      square,
      compressionOf(steps, field.spread[square], field.codes[square], slope),
    ]);
    settled.compression = Object.fromEntries(compression) as FieldStatistics['compression'];
  }
  if (!correct) return settled;
  settled.cells = field.cells.map((cells, c) =>
    cells.map((light) => correct(light, c)),
  ) as unknown as FieldStatistics['cells'];
  const squares = SQUARES.map((square) => [square, field.squares[square].map((light, c) => correct(light, c))]);
  const rounding = SQUARES.map((square) => {
    const stretch = stretchOf(correct, field.squares[square]);
    return [square, field.rounding[square].map((value, c) => value * stretch[c])];
  });
  settled.squares = Object.fromEntries(squares) as FieldStatistics['squares'];
  settled.rounding = Object.fromEntries(rounding) as FieldStatistics['rounding'];
  return settled;
}

/** Mean compression of several pictures, by luminance or channel: it repeats with the level, so repeats don't average it out. */
export function meanCompression(statistics: readonly Pick<PatchStatistics, 'compression'>[]): Covariance {
  const sum = zeroCovariance();
  for (const { compression } of statistics)
    if (compression) for (let i = 0; i < 9; i++) sum[i] += compression[i] / statistics.length;
  return sum;
}

/** Standard uncertainty that compression leaves in a luminous figure of one square, stops. */
export function luminousCompression(compression: Covariance | undefined, luminance: readonly number[]): number {
  return compression ? Math.sqrt(propagate(compression, luminance)) : 0;
}
