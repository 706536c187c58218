/**
 * From a session's takes to all that its measures need to see: every picture is read once, reduced and let go. What a file can't carry
 * becomes a fault; the rest goes on.
 */
import { observeOrdinaryScenes } from './laying/ordinaryScenes';
import type { OrdinaryScene } from './laying/ordinaryTypes';
import { recoverFromBracket } from './light/bracket';
import {
  checkedElsewhere,
  learnedFromCheck,
  learnedWith,
  learnResponse,
  type LearnedResponse,
} from './light/camera/learn';
import { checkOfSeries, isCheckSeries } from './light/camera/series';
import { settledShots } from './light/camera/settle';
import { drawnAlike } from './light/camera/drawnAlike';
import { isOnlyTold } from './light/camera/trust';
import { tableCache, type CodedFacts } from './light/decoding';
import { UnreadablePicture, type PictureFacts } from './reading/facts';
import type { Memory } from './reading/memory';
import type { ResolvedResponse } from './light/response';
import { observeTurns, type TurnMoment } from './measures/polarizer/turns';
import type { FoundFault, ObservedPatch } from './reading/observations';
import { fileFaults, observePatches } from './reading/observePatches';
import { planReading } from './reading/readingPlan';
import { readShots, type ReadOptions } from './reading/readShots';
import { shotsOf } from './reading/shots';
import type { PictureSource } from './reading/source';
import { viewRegistry } from './reading/views';
import { SessionError } from './session/parse';
import type { CameraCheck } from './session/cameraCheck';
import type { Session } from './session/schema';

export interface ObserveOptions extends ReadOptions {
  /** The only filter that is wanted; all when left out. */
  filter?: string;
  /** ISO 8601 time of measuring. */
  createdAt?: string;
}

export interface Observed {
  patches: ObservedPatch[];
  ordinary: OrdinaryScene[];
  turns: TurnMoment[];
  faults: FoundFault[];
  /** How codes became light, in words. */
  response: string;
  /** What was recovered from the bracket, or learned of a camera that only tells a standard curve. */
  recovered: ResolvedResponse | null;
  learned: LearnedResponse | null;
  /** Of a series of bare pictures alone. */
  check: CameraCheck | null;
}

/** Reads all pictures that the measures need. Rejects with SessionError when the session's response can't be used. */
export async function observeSession(
  asked: Session,
  source: PictureSource,
  options: ObserveOptions = {},
): Promise<Observed> {
  const session = await withLearnedBracket(asked, source, options.memory);
  const plan = planReading(session, options.filter);
  const { shots, faults: shotFaults } = await shotsOf(plan.takes, source);
  const bracket = session.rig.response.kind === 'bracket' ? await recoverFromBracket(session, source, options) : null;
  const recovered = bracket?.response ?? null;
  const curves = await readCurves(session, source);
  const tables = tableCache(session, curves, recovered);
  const views = viewRegistry(session, source, plan.patchesOf);
  const { read: all, faults: unread } = await readShots(shots, plan, { session, source, tables, views }, options);
  const { kept: read, faults: odd } = drawnAlike(all, session.rig.response);
  const fromRead = recovered ? null : learnResponse(read, session, tables);
  const settled = settledShots(read, session, tables, fromRead);
  const { patches, faults: unseen } = observePatches(settled, plan, session);
  // What is read from here on is decoded by the curve that was learned, or that the camera's check told.
  const fromCheck = recovered || fromRead ? null : learnedFromCheck(session, tables);
  const known = fromRead ?? fromCheck;
  const isLearned = (facts: CodedFacts) => isOnlyTold(facts, session.rig.response) && known!.holdsFor(facts.encoding);
  const better = known ? tableCache(session, curves, known.response, isLearned) : tables;
  const ordinary = await observeOrdinaryScenes(session, source, better, options);
  const turns = await observeTurns(session, source, better, options);
  const elsewhere = [...ordinary.scenes.flatMap(({ pictures }) => pictures), ...turns.moments].flatMap(
    ({ take, told }) => (told ? [{ take, encoding: told }] : []),
  );
  const learned = recovered
    ? null
    : fromCheck && elsewhere.length > 0
      ? checkedElsewhere(fromCheck, elsewhere, tables)
      : learnedWith(fromRead, elsewhere, tables);
  const series = isCheckSeries(session) ? checkOfSeries(read, session, tables, options.createdAt ?? '') : null;
  const faults: FoundFault[] = [
    ...shotFaults,
    ...[...(bracket?.faults ?? []), ...(learned?.faults ?? []), ...(series?.faults ?? [])].map((fault) => ({
      filter: null,
      fault,
    })),
    ...unread,
    ...odd,
    ...fileFaults(read, tables, session),
    ...unseen,
    ...ordinary.faults,
    ...turns.faults,
  ];
  return {
    patches,
    ordinary: ordinary.scenes,
    turns: turns.moments,
    faults: distinctFaults(faults),
    response: learned?.response.description ?? tables.description(),
    recovered: recovered ?? learned?.response ?? null,
    learned,
    check: series?.check ?? null,
  };
}

/** Text of curve files by path. */
async function readCurves(session: Session, source: PictureSource): Promise<Map<string, string>> {
  const { response } = session.rig;
  if (response.kind !== 'curve' || response.file === undefined) return new Map();
  try {
    return new Map([[response.file, await source.readText(response.file)]]);
  } catch (error) {
    throw new SessionError([`rig.response.file: ${(error as Error).message}`]);
  }
}

function distinctFaults(faults: readonly FoundFault[]): FoundFault[] {
  const keys = faults.map(({ filter, fault }) => `${filter}|${fault.code}|${fault.message}`);
  return faults.filter((_, i) => keys.indexOf(keys[i]) === i);
}

/**
 * A bracket of lossy files is evidence of the camera's curve like any other bare pictures: what cameras do to such files, a curve
 * fitted to codes alone wouldn't know.
 */
async function withLearnedBracket(session: Session, source: PictureSource, memory?: Memory): Promise<Session> {
  if (session.rig.response.kind !== 'bracket') return session;
  const take = session.takes.find(({ role, filter }) => role === 'bracket' && filter === null);
  if (!take) return session;
  const [shot] = (await shotsOf([take], source)).shots;
  if (!shot) return session;
  try {
    const { compression, clip, encoding } = await factsOf(shot.file, source, memory);
    const lossy = compression !== undefined || clip !== undefined;
    if (!lossy || !isOnlyTold({ compression, clip, encoding }, { kind: 'file' })) return session;
  } catch (error) {
    // It is told where the bracket itself is read.
    if (error instanceof UnreadablePicture) return session;
    throw error;
  }
  return { ...session, rig: { ...session.rig, response: { kind: 'file' } } };
}

/** What a bracket's picture says of itself, by what was kept of it where that is so. */
async function factsOf(file: string, source: PictureSource, memory?: Memory): Promise<PictureFacts> {
  const id = source.identify?.(file) ?? null;
  const known = id === null ? undefined : await memory?.recall(`facts/${id}`);
  if (known) return known as PictureFacts;
  const picture = await source.open(file);
  picture.close();
  return picture.facts;
}
