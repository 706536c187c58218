/** A camera's check from a series of bare pictures: the curve and what else they tell of the camera. */
import { deviation, max, mean, median, min } from 'd3-array';
import { isShutterMark, parseShutter, snapShutterMark } from '../../formulas/optics/exposure';
import type { ReadShot } from '../../reading/readShots';
import type { Fault } from '../../session/readings';
import type { Session } from '../../session/schema';
import { checkNeedsEdges, toneAdapts } from '../../words/camera';
import type { TableCache } from '../decoding';
import { cameraCheckSchema, type CameraCheck } from '../../session/cameraCheck';
import { curveOfEstimate, toldBy } from './check';
import { correctedBy, type Correction } from './corrected';
import { estimateResponse } from './estimate';
import { evenSquares, gatherEvidence, type GridShot, type SpeakingScene } from './evidence';
import { curvePoints } from './describe';
import { gridShots, speaking } from './learn';
import { TELLING_STOPS, type ResponseEstimate } from './model';
import { lumaAt } from './placeGrid';
import { isOnlyTold, STANDARD_CURVE_SIGMA } from './trust';

/** One convention of marks fits better than the other beyond doubt where pictures differ from it so many times less. */
const FITS_BETTER = 2;
/** Times of both conventions closer than this, stops, are alike. */
const ALIKE = 0.003;
/** Marks' errors count as told by the fit down to its own floor. */
const FLOOR = 0.0021;
/** So far below white places lie on average, stops: by so much a slope moves them. */
const DEPTH = 2.5;
/** Single pixels at the top code from which on a square is clipped, and above which share of full scale that is white. */
const CLIPPED = { share: 0.5, least: 0.7 };

/** Whether a session is a series of bare pictures, for its camera's sake. */
export const isCheckSeries = ({ kits, takes }: Pick<Session, 'kits' | 'takes'>) =>
  kits.every(({ filters }) => filters.length === 0) && takes.every(({ filter }) => filter === null);

/**
 * What a series of bare pictures tells of its camera; no check where its files are believed, no exposures differ, no curve fits, or tone follows
 * the picture.
 *
 * @param checkedAt ISO 8601, where no picture tells its time
 */
export function checkOfSeries(
  read: readonly ReadShot[],
  session: Session,
  tables: TableCache,
  checkedAt: string,
): { check: CameraCheck | null; faults: Fault[] } {
  const told = read.filter(({ facts }) => isOnlyTold(facts, session.rig.response));
  const scenes = session.scenes.flatMap((scene) => speaking(scene, session) ?? []);
  const fitted = told.length > 0 ? fittedMarks(told, session, tables, scenes) : null;
  if (!fitted) return { check: null, faults: [] };
  const takes = [...new Set(told.map(({ take }) => take.id))];
  const tone = toneByEdges(fitted, scenes);
  if (!tone) return { check: null, faults: [checkNeedsEdges(takes)] };
  if (fitted.estimate.adapts || tone.adapts) {
    const found = tone.adapts ? tone : fitted.estimate;
    return { check: null, faults: [toneAdapts(takes, found.automatic.value)] };
  }
  const asked = { scenes, tables, checkedAt, automaticTone: tone.suspected };
  return { check: checkOf(fitted, told, session, asked), faults: [] };
}

/**
 * What pictures of an edge or chart show by themselves of tone that follows the picture; `null` without two exposures of one. A surface that
 * is even all over can't show it, each of its pictures has one brightness; beside its many the others would be outvoted.
 */
function toneByEdges({ shots }: Fitted, scenes: readonly SpeakingScene[]): ResponseEstimate | null {
  const edges = scenes.filter(({ wall }) => !wall);
  const evidence = gatherEvidence(
    shots.filter(({ scene }) => edges.some(({ id }) => id === scene)),
    edges,
  );
  const own = evidence && estimateResponse(evidence, STANDARD_CURVE_SIGMA);
  return own && own.knownStops >= TELLING_STOPS ? own : null;
}

function checkOf(
  { estimate, shots, marks }: Fitted,
  told: readonly ReadShot[],
  session: Session,
  {
    scenes,
    tables,
    checkedAt,
    automaticTone,
  }: { scenes: readonly SpeakingScene[]; tables: TableCache; checkedAt: string; automaticTone: number },
): CameraCheck | null {
  const curve = curveOfEstimate(estimate);
  if (!curve || !estimate.converged || estimate.knownStops < TELLING_STOPS) return null;
  const { facts } = told[0];
  const { settings, ...file } = toldBy(facts);
  const { correction, decode } = correctedBy(estimate, tables.responseOf(facts));
  const levels = levelsOf(shots, scenes, correction);
  const lights = levels.map(({ stops }) => stops);
  const range: [number, number] = [max(lights) ?? 0, min(lights) ?? 0];
  const dates = told.flatMap(({ take, facts: { capturedAt } }) => take.capturedAt ?? capturedAt ?? []).sort();
  return cameraCheckSchema.parse({
    format: 'aurora-glade-camera-check',
    version: 1,
    camera: session.rig.camera ?? '',
    checkedAt: dates.at(-1) ?? checkedAt,
    pictures: shots.length,
    settings,
    file,
    isoSpeeds: [...new Set(told.flatMap(({ take, facts: one }) => take.exposure.iso ?? one.exposure.iso ?? []))].sort(
      (a, b) => a - b,
    ),
    ...curve,
    automaticTone,
    tells: tellsOf(correction, range),
    range,
    curve: curvePoints(decode, correction).map(([code, , u95]) => ({
      code,
      light: decode.map((one) => Math.log2(one(code))) as [number, number, number],
      u95,
    })),
    noise: levels.filter(({ noise }) => noise > 0).map(({ stops, code, noise }) => ({ stops, code, spread: noise })),
    grain: median(levels, ({ together }) => together) ?? 0,
    marks,
    exposures: estimate.offsets,
    balance: estimate.balance,
    // Of the surface, which was shot there and back: elsewhere a drift can't be told from what exposures do.
    drift:
      estimate.drifts[
        Math.max(
          0,
          scenes.findIndex(({ wall }) => wall),
        )
      ],
    ...endsOf(shots),
  } satisfies CameraCheck);
}

interface Fitted {
  estimate: ResponseEstimate;
  shots: GridShot[];
  marks: CameraCheck['marks'];
}

/** The estimate under the convention of shutter marks that fits the pictures; under the session's own where both do. */
function fittedMarks(
  told: readonly ReadShot[],
  session: Session,
  tables: TableCache,
  scenes: readonly SpeakingScene[],
): Fitted | null {
  const under = (shutterMarks: Session['rig']['shutterMarks']): Omit<Fitted, 'marks'> | null => {
    const shots = gridShots(told, { ...session, rig: { ...session.rig, shutterMarks } }, tables);
    const evidence = gatherEvidence(shots, scenes);
    const estimate = evidence && estimateResponse(evidence, STANDARD_CURVE_SIGMA);
    return estimate ? { estimate, shots } : null;
  };
  const own = session.rig.shutterMarks;
  if (own) {
    const fit = under(own);
    return fit && { ...fit, marks: own };
  }
  const times = told.flatMap(
    ({ take, facts }) => parseShutter(take.exposure.shutter ?? facts.exposure.shutterSeconds ?? '') ?? [],
  );
  const errors = times.map((time) => Math.log2(time / snapShutterMark(time)));
  if (Math.max(...errors) - Math.min(...errors) < ALIKE || !times.every(isShutterMark)) {
    const fit = under(undefined);
    return fit && { ...fit, marks: 'alike' };
  }
  const [exact, nominal] = [under('exact'), under('nominal')];
  // Wrong marks make pictures depart by offsets or by slopes of their own.
  const departs = (fit: Omit<Fitted, 'marks'> | null) =>
    fit ? Math.hypot(Math.max(FLOOR, fit.estimate.offsets), DEPTH * fit.estimate.slopes) : Infinity;
  if (departs(exact) * FITS_BETTER < departs(nominal)) return { ...exact!, marks: 'exact' };
  if (departs(nominal) * FITS_BETTER < departs(exact)) return { ...nominal!, marks: 'nominal' };
  const fit = under(undefined);
  return fit && { ...fit, marks: 'either' };
}

interface Level {
  stops: number;
  /** Codes of 8 bits. */
  code: number;
  noise: number;
  together: number;
}

/** Light, code and noise of each picture's even squares, in the scene that is even all over where there is one. */
function levelsOf(shots: readonly GridShot[], scenes: readonly SpeakingScene[], correction: Correction): Level[] {
  const even = scenes.find(({ wall }) => wall) ?? scenes[0];
  return shots
    .filter(({ scene }) => scene === even.id)
    .flatMap((shot): Level[] => {
      const squares = evenSquares(shot, even);
      if (squares.length === 0) return [];
      const of = (value: (square: number) => number) => mean(squares, value)!;
      return [
        {
          stops: of((square) => Math.log2(correction.correct(shot.grid.light[3 * square + 1], 1))),
          code: 255 * of((square) => lumaAt(shot.grid.code, square)),
          noise: of((square) => shot.grid.spread[3 * square]),
          together: of((square) => shot.grid.together[square]),
        },
      ];
    })
    .sort((a, b) => b.stops - a.stops);
}

/** How well a difference down from the lightest level is told, a stop at a time. */
function tellsOf(correction: Correction, [lightest, darkest]: readonly [number, number]): CameraCheck['tells'] {
  const stops = Array.from({ length: Math.max(0, Math.floor(lightest - darkest)) }, (_, i) => i + 1);
  return stops.map((down) => {
    const sum = [
      [lightest, 1],
      [lightest - down, -1],
    ] as const;
    return { stops: down, u95: 2 * Math.sqrt(Math.max(0, correction.covarianceOfLight([sum, sum, sum])[4])) };
  });
}

/** The code at which highlights end, where pictures reached it, and the darkest one seen. */
function endsOf(shots: readonly GridShot[]): Pick<CameraCheck, 'clipping' | 'black'> {
  const codes = shots.flatMap(({ grid }) =>
    Array.from(grid.top, (top, square) => ({ top, code: lumaAt(grid.code, square) })),
  );
  const white = codes.filter(({ code, top }) => top > CLIPPED.share && code > CLIPPED.least).map(({ code }) => code);
  const darkest = min(codes, ({ code }) => code);
  const even = white.length > 8 && (deviation(white) ?? 1) < 0.01;
  return {
    ...(even ? { clipping: median(white)! } : {}),
    ...(darkest === undefined ? {} : { black: darkest }),
  };
}
