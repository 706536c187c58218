/** The response of a session whose files only tell a standard curve: learned from all its pictures, and applied to what was read of them. */
import { median } from 'd3-array';
import { exposureRules, exposureOf, timesOf } from '../../reading/exposures';
import type { ReadShot } from '../../reading/readShots';
import { patchesOfScene } from '../../session/parse';
import type { Fault } from '../../session/readings';
import type { Filter, Session } from '../../session/schema';
import type { TableCache } from '../decoding';
import type { FileEncoding, ResolvedResponse } from '../response';
import { stepsOf } from './compression';
import {
  balanceWanders,
  checkContradicted,
  checkedInWords,
  checkOfOtherIso,
  checkRefused,
  checkUnwitnessed,
  curvesDiffer,
  curveUnchecked,
  curveUnsettled,
  learnedInWords,
  pictureProcessed,
  styleMoved,
  picturesShift,
  toneAdapts,
  toneIsLocal,
  toneUndecided,
} from '../../words/camera';
import { PLACES_ID } from './placesWindow';
import { correctedBy, type Correction } from './corrected';
import { OWN_SLOPES } from './doubt';
import { estimateResponse } from './estimate';
import { contradicts, knowledgeOf, toldBy, whyRefused } from './check';
import { isLocal } from './localFactors';
import { NO_EVIDENCE, TELLING_STOPS, type CheckedCurve, type Evidence, type ResponseEstimate } from './model';
import { evenSquares, gatherEvidence, type GridShot, type SpeakingScene } from './evidence';
import { settingsApart } from '../../session/cameraCheck';
import { isOnlyTold, STANDARD_CURVE_SIGMA } from './trust';

/** What was learned; `null` parts where every file is believed. */
export interface LearnedResponse {
  estimate: ResponseEstimate;
  correction: Correction;
  /** As measures use it: codes to light, set right, with its covariance. */
  response: ResolvedResponse;
  /** Whether it stands for files of this encoding. */
  holdsFor: (encoding: FileEncoding) => boolean;
  /** When the check was made that the estimate began with. */
  checkedAt?: string;
  faults: Fault[];
}

/** Filters that take the same everywhere: through others the light isn't one ratio. */
const EVEN_KINDS: readonly Filter['kind'][] = ['nd', 'clear', 'polarizer', 'nd-polarizer'];
/** Scenes whose filtered pictures differ from bare ones by one ratio. */
const EVEN_SCENES = ['chart', 'flat'];
/** A view that moved less than this share of the width still shows the same squares. */
const SAME_SQUARES = 1 / 300;

/** A picture whose curve is only told, outside of what the curve is learned from. */
export interface ToldElsewhere {
  take: string;
  encoding: FileEncoding;
}

/** Learns the response from all pictures that were read; `null` where their files are believed. */
export function learnResponse(read: readonly ReadShot[], session: Session, tables: TableCache): LearnedResponse | null {
  const told = read.filter(({ facts }) => isOnlyTold(facts, session.rig.response));
  if (told.length === 0) return null;
  const shots = gridShots(told, session, tables);
  const scenes = session.scenes.flatMap((scene) => speaking(scene, session) ?? []);
  const pictures = told.map(({ take, facts }) => ({ take: take.id, encoding: facts.encoding }));
  const learned = curveOf(gatherEvidence(shots, scenes), pictures, tables, checkFor(told, session));
  const { undecided } = learned.estimate;
  const takes = [...new Set(pictures.map(({ take }) => take))];
  const faults = [
    ...(undecided > 0 && comparesPlaces(session) ? [toneUndecided(takes, undecided)] : []),
    ...processedFaults(shots, scenes, session),
  ];
  return { ...learned, faults: [...learned.faults, ...faults] };
}

/** Whether figures rest on places of one picture that are brighter and darker than its middle. */
function comparesPlaces({ kits, scenes }: Session): boolean {
  return (
    scenes.some(({ kind }) => kind === 'flare') ||
    kits.some(({ filters }) => filters.some(({ kind }) => kind === 'graduated-nd'))
  );
}

/** Noise of neighboring pixels that goes together more than so is the camera's doing (raw pictures: under 0.02). */
const PROCESSED = 0.1;

/** What is said where detail was drawn by the camera and sharpness is measured of it. */
function processedFaults(
  shots: readonly GridShot[],
  scenes: readonly SpeakingScene[],
  { patches }: Pick<Session, 'patches'>,
): Fault[] {
  if (!patches.some(({ role }) => role === 'edge')) return [];
  const bare = shots.filter(({ through }) => through === null);
  const seen = bare.flatMap((shot) => {
    const scene = scenes.find(({ id }) => id === shot.scene);
    return scene ? evenSquares(shot, scene).map((square) => shot.grid.together[square]) : [];
  });
  const together = median(seen) ?? 0;
  return together > PROCESSED ? [pictureProcessed([...new Set(bare.map(({ take }) => take))], together)] : [];
}

/**
 * What was learned, with what ordinary scenes and turns tell of their files: where nothing else was shot the curve is as unknown as
 * before any picture, and files that tell another curve than the learned one leave it open between them.
 */
export function learnedWith(
  learned: LearnedResponse | null,
  elsewhere: readonly ToldElsewhere[],
  tables: TableCache,
): LearnedResponse | null {
  if (elsewhere.length === 0) return learned;
  if (!learned) return curveOf(null, elsewhere, tables, NO_CHECK);
  return elsewhere.every(({ encoding }) => learned.holdsFor(encoding)) ? learned : leftOpen(learned, elsewhere);
}

/** Standard curves of clips and pictures that a check can be of. */
const CHECKED_CURVES = ['srgb', 'bt709'] as const;

/**
 * What the rig's check alone tells, for sessions of ordinary scenes and turns: their files are read with it. `null` where there is none,
 * or it is of no standard curve.
 */
export function learnedFromCheck({ rig: { check } }: Session, tables: TableCache): LearnedResponse | null {
  const transfer = CHECKED_CURVES.find((one) => check?.file.transfer === JSON.stringify(one));
  if (!check || !transfer) return null;
  const encoding: FileEncoding = { transfer, source: null, toXyz: null, profile: null, settings: check.settings };
  const known = { checked: knowledgeOf(check), at: check.checkedAt, faults: [] };
  return curveOf(null, [{ take: '', encoding }], tables, known);
}

/**
 * What the check alone told, once ordinary scenes and turns were read: as it is where it stands for all their files; as if there were none
 * where it stands for none of them; everything left open between both where it stands for some.
 */
export function checkedElsewhere(
  learned: LearnedResponse,
  elsewhere: readonly ToldElsewhere[],
  tables: TableCache,
): LearnedResponse {
  const takes = [...new Set(elsewhere.map(({ take }) => take))];
  const other = elsewhere.filter(({ encoding }) => !learned.holdsFor(encoding));
  if (other.length === 0) return { ...learned, faults: [checkUnwitnessed(takes, learned.checkedAt!)] };
  if (other.length < elsewhere.length) return leftOpen(learned, elsewhere);
  return curveOf(null, elsewhere, tables, { faults: [checkRefused(takes, learned.checkedAt!, ['curve or setting'])] });
}

/** The check that a session's estimate begins with, where its rig has one that stands for these files. */
interface UsableCheck {
  checked?: CheckedCurve;
  /** When it was made. */
  at?: string;
  faults: Fault[];
}

const NO_CHECK: UsableCheck = { faults: [] };

function checkFor(told: readonly ReadShot[], { rig: { check } }: Session): UsableCheck {
  if (!check) return NO_CHECK;
  const takes = [...new Set(told.map(({ take }) => take.id))];
  const refused = whyRefused(check, toldBy(told[0].facts));
  if (refused.length > 0) return { faults: [checkRefused(takes, check.checkedAt, refused)] };
  const isos = told.flatMap(({ take, facts }) => take.exposure.iso ?? facts.exposure.iso ?? []);
  const others = [...new Set(isos.filter((iso) => !check.isoSpeeds.includes(iso)))];
  return {
    checked: knowledgeOf(check, others.length > 0),
    at: check.checkedAt,
    faults: others.length > 0 ? [checkOfOtherIso(takes, check.checkedAt, others)] : [],
  };
}

function curveOf(
  evidence: Evidence | null,
  told: readonly ToldElsewhere[],
  tables: TableCache,
  check: UsableCheck,
): LearnedResponse {
  const [{ encoding }] = told;
  const takes = [...new Set(told.map(({ take }) => take))];
  const declared = tables.responseOf({ encoding });
  const { estimate, believed, faults } = estimated(evidence, takes, check);
  const { correction, decode, byOneCurve } = correctedBy(estimate, declared);
  const knownStops = isChecked(estimate) ? estimate.knownStops : 0;
  const pictures = evidence?.pictures.length ?? 0;
  const learned: LearnedResponse = {
    estimate,
    correction,
    response: {
      ...declared,
      decode,
      covariance: correction.covariance,
      covarianceOfLight: correction.covarianceOfLight,
      byOneCurve,
      description: believed
        ? checkedInWords(declared.description, check.at!, pictures)
        : learnedInWords(declared.description, pictures, knownStops),
    },
    ...(believed ? { checkedAt: check.at } : {}),
    holdsFor: (other) =>
      curveToldBy(other) === curveToldBy(encoding) && settingsApart(other.settings, encoding.settings).length === 0,
    faults: [...faults, ...faultsOf(estimate, takes, declared.description)],
  };
  return told.every((one) => learned.holdsFor(one.encoding)) ? learned : leftOpen(learned, told);
}

/**
 * What the check's curve leaves unexplained of the pictures, beside what their own leaves. Over stand-in cameras a check of the same style left
 * at most 1.3 times as much, and 70 more; one of another style with a darker bare picture 97 times as much.
 */
const MUCH_WORSE = { times: 1.5, least: 150 };

/** The estimate, from the camera's check where the session's own pictures don't contradict it. */
function estimated(evidence: Evidence | null, takes: readonly string[], { checked, at, faults }: UsableCheck) {
  const seen = evidence ?? NO_EVIDENCE;
  const own = () =>
    estimateResponse(seen, STANDARD_CURVE_SIGMA) ?? estimateResponse(NO_EVIDENCE, STANDARD_CURVE_SIGMA)!;
  if (!checked) return { estimate: own(), believed: false, faults };
  const alone = own();
  const estimate = estimateResponse(seen, STANDARD_CURVE_SIGMA, checked);
  // A curve that the pictures tell otherwise, and that leaves them unexplained: where no exposures tell, what they tell alone is loose.
  const unexplained = !estimate || estimate.misfit > MUCH_WORSE.times * alone.misfit + MUCH_WORSE.least;
  // Nor are they explained where each would need a slope of its own, while by themselves they agree.
  const bent = estimate !== null && estimate.slopes > OWN_SLOPES && alone.slopes <= OWN_SLOPES;
  if ((unexplained || bent) && contradicts(alone, checked))
    return { estimate: alone, believed: false, faults: [checkContradicted(takes, at!)] };
  // Its own pictures' differences of exposure: without any, a style that was changed since would go unseen.
  const unseen = alone.knownStops < TELLING_STOPS && seen.strengths > 0 ? [checkUnwitnessed(takes, at!)] : [];
  return estimate?.converged
    ? { estimate, believed: true, faults: [...faults, ...unseen] }
    : { estimate: alone, believed: false, faults: [checkContradicted(takes, at!)] };
}

/** One estimate can't stand for two curves: how far they lie apart no picture tells. */
const BETWEEN_CURVES_U = 1;

function leftOpen(learned: LearnedResponse, told: readonly ToldElsewhere[]): LearnedResponse {
  const open =
    (covariance: Correction['covariance']): Correction['covariance'] =>
    (sums, acrossPlaces) =>
      covariance(sums, acrossPlaces).map((value, i) => value + (i % 4 === 0 ? 2 : 1) * BETWEEN_CURVES_U ** 2);
  const { covariance, covarianceOfLight } = learned.correction;
  const doubt = { covariance: open(covariance), covarianceOfLight: open(covarianceOfLight) };
  const takes = [...new Set(told.filter(({ encoding }) => !learned.holdsFor(encoding)).map(({ take }) => take))];
  return {
    ...learned,
    response: { ...learned.response, ...doubt, byOneCurve: doubt },
    faults: [curvesDiffer(takes)],
  };
}

/** A name of the curve that a file tells; where it tells none sRGB is assumed. */
const curveToldBy = ({ transfer }: FileEncoding) => JSON.stringify(transfer ?? 'srgb');

const isChecked = ({ knownStops }: ResponseEstimate) => knownStops >= TELLING_STOPS;

/** What wanders from picture to picture is told where it is larger than these, stops. */
const FOUND = { balance: 0.01, shift: 0.05 };

/** What is to be said of a camera: that its curve isn't known, and what adapts. */
function faultsOf(estimate: ResponseEstimate, takes: readonly string[], told: string): Fault[] {
  const { automatic, localSeen, offsets, slopes, balance, converged } = estimate;
  const faults: Fault[] = [];
  if (!converged) faults.push(curveUnsettled(takes));
  else if (!isChecked(estimate)) faults.push(curveUnchecked(takes, told));
  if (estimate.adapts) faults.push(toneAdapts(takes, automatic.value));
  else if (isChecked(estimate) && offsets > FOUND.shift) faults.push(picturesShift(takes, offsets));
  if (slopes > OWN_SLOPES) faults.push(styleMoved(takes, slopes));
  if (balance > FOUND.balance) faults.push(balanceWanders(takes, balance));
  if (isLocal(estimate)) faults.push(toneIsLocal(takes, localSeen!.value));
  return faults;
}

export function speaking(scene: Session['scenes'][number], session: Session): SpeakingScene | null {
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

export function gridShots(read: readonly ReadShot[], session: Session, tables: TableCache): GridShot[] {
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
          decoding: tables.decodingOf(facts),
          bitDepth: facts.bitDepth,
          steps: stepsOf(facts),
        },
      ];
    });
  });
}
