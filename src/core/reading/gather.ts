/**
 * From a session's takes to what its measures need: reads every picture once, reduces its patches and lets it go. What a
 * file can't carry becomes a fault; the rest goes on.
 */
import type { PatchSample } from '../measures/strength/patchStrength';
import type { ResolvedResponse } from '../light/response';
import type { PixelRect } from './window';
import { judgeView, type ViewState } from '../laying/carry';
import type { Preview } from '../laying/preview';
import { fault } from '../words/faults';
import { patchesOfScene, SessionError } from '../session/parse';
import type { Fault } from '../session/readings';
import type { Session } from '../session/schema';
import type { FieldStatistics } from '../measures/shading/field';
import { UnreadablePicture, type PictureFacts, type PictureSource } from './source';
import { recoverFromBracket } from '../light/bracket';
import { apertureCounts, contradiction, exposureOf, timesOf } from './exposures';
import { forEachConcurrently, PICTURES_AT_A_TIME } from './concurrently';
import { readRemembered, type Memory } from './memory';
import { gatherOrdinary, ordinaryTakes } from '../laying/ordinaryScenes';
import type { OrdinaryScene } from '../laying/ordinaryTypes';
import type { PlanReading } from './readReduced';
import { shotsOf, withTelemetry, type Shot } from './shots';
import { requestsOf, type EdgeMeasurement, type MeasuredPatch, type Reduced, type WindowRequest } from './reduce';
import { tableCache, type TableCache } from './decoding';
import { gatherTurns, type TurnMoment } from './turns';
import { alignmentOf, changingPlaces } from './views';

/** One picture's exposure and moment beside what a measure took from it. */
export interface Observation<T> {
  take: string;
  file: string;
  filter: string | null;
  timeMs: number;
  /** Whether it is a frame of a clip. */
  frame?: boolean;
  value: T;
}

export interface GatheredPatch {
  patch: MeasuredPatch;
  /** Levels, for roles that have them. */
  samples: PatchSample[];
  /** Levels of bracket takes, by which a chosen response can be checked. */
  bracket: PatchSample[];
  fields: Observation<FieldStatistics>[];
  edges: EdgeObservation[];
}

/** An edge in one picture, with where it lay there. */
export type EdgeObservation = Observation<EdgeMeasurement> & { pixels: PixelRect };

export interface Gathered {
  patches: GatheredPatch[];
  ordinary: OrdinaryScene[];
  turns: TurnMoment[];
  /** Faults with the filter they concern; `null` for bare takes. */
  faults: { filter: string | null; fault: Fault }[];
  response: string;
  /** What was recovered from the bracket, where the session asks for it. */
  recovered: ResolvedResponse | null;
}

export interface GatherOptions {
  filter?: string;
  /** Pictures read at the same time. */
  concurrency?: number;
  /** What was read before; without it everything is read. */
  memory?: Memory;
  onProgress?: (progress: { done: number; total: number; take: string }) => void;
  signal?: AbortSignal;
}

interface ShotResult extends Shot {
  facts: PictureFacts;
  view: ViewState;
  reduced: Map<string, Reduced>;
  /** Where patches lay in this picture. */
  places: Map<string, PixelRect>;
}

/** Reads all pictures that the measures need. */
export async function gather(session: Session, source: PictureSource, options: GatherOptions = {}): Promise<Gathered> {
  const faults: Gathered['faults'] = [];
  const patchesOf = new Map(session.scenes.map((scene) => [scene.id, measurable(session, scene.id)]));
  const wanted = session.takes
    .filter((take) => take.role !== 'bracket' || session.rig.response.kind !== 'bracket')
    // A camera that turns about shows another view in every frame: see turns.
    .filter((take) => !take.turn)
    // A bare take of a sweep is no bare take of a measure (formats.md).
    .filter((take) => take.role !== 'sweep' || take.filter !== null)
    .filter((take) => (patchesOf.get(take.scene)?.length ?? 0) > 0)
    .filter((take) => options.filter === undefined || take.filter === null || take.filter === options.filter);
  const { shots, faults: shotFaults } = await shotsOf(wanted, source);
  faults.push(...shotFaults);
  const bracket = session.rig.response.kind === 'bracket' ? await recoverFromBracket(session, source, options) : null;
  faults.push(...(bracket?.faults ?? []).map((one) => ({ filter: null, fault: one })));
  const tables = tableCache(session, await readCurves(session, source), bracket?.response ?? null);
  // Before a polarizer a screen goes dark with all that is on it: its view tells nothing.
  const blind = new Set(session.scenes.filter((scene) => scene.kind === 'screen').map((scene) => scene.id));
  const results = await readShots(shots, patchesOf, blind, source, options, faults, tables);
  faults.push(...encodingFaults(results, tables), ...exposureFaults(results, session));
  const patches = [...patchesOf.entries()].flatMap(([scene, list]) => {
    const shown = dropOtherViews(
      results.filter((result) => result.take.scene === scene),
      faults,
    );
    return list.map((patch) => observationsOf(patch, shown, session, faults));
  });
  const ordinary = await gatherOrdinary(session, source, tables, options);
  faults.push(...ordinary.faults);
  const turns = await gatherTurns(session, source, tables, options);
  faults.push(...turns.faults);
  return {
    patches,
    ordinary: ordinary.scenes,
    turns: turns.moments,
    faults: uniqueFaults(faults),
    response: tables.description(),
    recovered: bracket?.response ?? null,
  };
}

/** The patches of a scene; flare scenes are also looked at whole, for ghosts, gray cards of variable filters in their middle. */
function measurable(session: Session, sceneId: string): MeasuredPatch[] {
  // The whole registered picture is looked at apart; what an uneven filter does is read at the frame's center.
  const ordinary = new Set(ordinaryTakes(session, sceneId));
  const others = session.takes.some(
    (take) => take.scene === sceneId && take.filter !== null && !take.turn && !ordinary.has(take),
  );
  const patches = patchesOfScene(session, sceneId).filter(({ role }) => role !== 'frame' || others);
  const scene = session.scenes.find((one) => one.id === sceneId);
  const variable = new Set(
    session.kits.flatMap((kit) => kit.filters.flatMap((one) => (one.kind === 'variable-nd' ? [one.id] : []))),
  );
  const turns = session.takes.some((take) => take.scene === sceneId && variable.has(take.filter ?? ''));
  const middles = patches.flatMap((patch): MeasuredPatch[] =>
    turns && patch.role === 'neutral' ? [{ ...patch, id: `${patch.id}-middle`, role: 'middle' }] : [],
  );
  if (scene?.kind !== 'flare' || patches.length === 0) return [...patches, ...middles];
  return [
    ...patches,
    { id: `${sceneId}-whole`, scene: sceneId, role: 'field', rect: { x: 0, y: 0, width: 1, height: 1 } },
  ];
}

async function readCurves(session: Session, source: PictureSource): Promise<Map<string, string>> {
  const { response } = session.rig;
  const texts = new Map<string, string>();
  if (response.kind === 'curve' && response.file !== undefined) {
    try {
      texts.set(response.file, await source.readText(response.file));
    } catch (error) {
      throw new SessionError([`rig.response.file: ${(error as Error).message}`]);
    }
  }
  return texts;
}

async function readShots(
  shots: Shot[],
  patchesOf: ReadonlyMap<string, MeasuredPatch[]>,
  blind: ReadonlySet<string>,
  source: PictureSource,
  options: GatherOptions,
  faults: Gathered['faults'],
  tables: TableCache,
): Promise<ShotResult[]> {
  const results: (ShotResult | null)[] = new Array(shots.length).fill(null);
  const views = new Map<string, Preview>();
  const bareFiles = new Map<string, string>();
  const changing = changingPlaces(patchesOf);
  let done = 0;
  const readShot = async (at: number): Promise<void> => {
    options.signal?.throwIfAborted();
    const { take, file } = shots[at];
    const patches = patchesOf.get(take.scene)!;
    let view: ViewState = { kind: 'same' };
    let requests: WindowRequest[] = [];
    const plan: PlanReading = (facts, preview) => {
      const bare = blind.has(take.scene) ? undefined : views.get(take.scene);
      if (preview && !bare && take.filter === null) {
        views.set(take.scene, preview);
        bareFiles.set(take.scene, file);
      }
      if (preview && bare && preview.width === bare.width && preview.height === bare.height)
        view = judgeView(
          alignmentOf(source, [bareFiles.get(take.scene)!, file], [bare, preview], changing.get(take.scene)),
          facts,
        );
      requests = requestsOf(patches, facts, view);
      return { requests, decoding: tables.decodingOf(facts.encoding, facts.bitDepth) };
    };
    try {
      const read = await readRemembered(source, options.memory, file, plan, options.signal);
      const facts = withTelemetry(read.facts, shots[at]);
      const reduced = new Map<string, Reduced>();
      const places = new Map(requests.map((request) => [request.patch.id, request.pixels]));
      read.reduced.forEach((one, i) => {
        const { patch } = requests[i];
        reduced.set(patch.id, { ...reduced.get(patch.id), ...one });
      });
      results[at] = { ...shots[at], facts, view, reduced, places };
    } catch (error) {
      if (!(error instanceof UnreadablePicture)) throw error;
      faults.push({
        filter: take.filter,
        fault: fault('file-unreadable', 'error', [take.id], `${file} can’t be read: ${error.reason}`),
      });
    }
    done++;
    options.onProgress?.({ done, total: shots.length, take: take.id });
  };
  // The first readable bare picture of each scene is the view that all others are laid on.
  const pending = new Set(shots.keys());
  const concurrency = options.concurrency ?? PICTURES_AT_A_TIME;
  await forEachConcurrently([...patchesOf.keys()], concurrency, async (scene) => {
    for (const at of shots.keys()) {
      if (shots[at].take.scene !== scene || shots[at].take.filter !== null) continue;
      pending.delete(at);
      await readShot(at);
      if (results[at]) break;
    }
  });
  await forEachConcurrently([...pending], concurrency, readShot);
  return results.filter((result) => result !== null);
}

function encodingFaults(read: ShotResult[], tables: TableCache): Gathered['faults'] {
  const faults: Gathered['faults'] = [];
  const general = (one: Fault) => faults.push({ filter: null, fault: one });
  const takesOf = (results: ShotResult[]) => results.map((result) => result.take.id);
  const unknown = read.filter((result) => !tables.responseOf(result.facts.encoding).known);
  if (unknown.length > 0)
    general(
      fault(
        'response-unknown',
        'warning',
        takesOf(unknown),
        'Neither the session nor the files say how code values map to light; sRGB was assumed. Where that is wrong, strengths are wrong too.',
      ),
    );
  const converted = read.filter((result) => tables.conversion(result.facts.encoding) !== null);
  if (converted.length > 0)
    general(
      fault(
        'color-space-differs',
        'info',
        takesOf(converted),
        `The files’ own primaries (${converted[0].facts.encoding.profile ?? 'embedded profile'}) were converted to the session’s color space.`,
      ),
    );
  return faults;
}

/** Exposures that the session and the file tell differently: one of the two is wrong. */
function exposureFaults(results: ShotResult[], session: Session): Gathered['faults'] {
  return results.flatMap((result) => {
    // Of a clip the whole is named once, not every frame.
    const words = contradiction({ ...result, file: result.original }, session);
    return words === null
      ? []
      : [{ filter: result.take.filter, fault: fault('exposure-moved', 'warning', [result.take.id], words) }];
  });
}

/** Pictures of another size or another view than the scene's bare ones: their fractions of the frame don't match. */
function dropOtherViews(results: ShotResult[], faults: Gathered['faults']): ShotResult[] {
  const bare = results.find((result) => result.take.filter === null);
  if (!bare) return results;
  const { width, height } = bare.facts;
  return results.filter(({ take, file, facts, view }) => {
    const complain = (code: 'size-differs' | 'view-moved' | 'registration-failed', words: string) =>
      faults.push({ filter: take.filter, fault: fault(code, 'error', [take.id], `${words}; it is left out.`) });
    if (facts.width !== width || facts.height !== height)
      complain(
        'size-differs',
        `${file} is ${facts.width} × ${facts.height} pixels, the bare picture ${width} × ${height}`,
      );
    else if (view.kind === 'other') complain('view-moved', `${file}: ${view.words}`);
    else if (view.kind === 'lost') complain('registration-failed', `${file}: ${view.words}`);
    else return true;
    return false;
  });
}

function observationsOf(
  patch: MeasuredPatch,
  results: ShotResult[],
  session: Session,
  faults: Gathered['faults'],
): GatheredPatch {
  const times = timesOf(results);
  const usesAperture = apertureCounts(results, session);
  const gathered: GatheredPatch = { patch, samples: [], bracket: [], fields: [], edges: [] };
  const ordinary = new Set(patch.role === 'frame' ? ordinaryTakes(session, patch.scene) : []);
  results.forEach((result, i) => {
    if (result.take.filter !== null && ordinary.has(result.take)) return;
    const { take, file } = result;
    const reduced = result.reduced.get(patch.id);
    if (!reduced) return;
    const seen = {
      take: take.id,
      file,
      filter: take.filter,
      timeMs: times[i],
      ...(result.seconds === null ? {} : { frame: true }),
    };
    if (reduced.field && take.role !== 'bracket') gathered.fields.push({ ...seen, value: reduced.field });
    if (reduced.edge && take.role !== 'bracket')
      gathered.edges.push({ ...seen, value: reduced.edge, pixels: result.places.get(patch.id)! });
    if (!reduced.level) return;
    const exposure = exposureOf(result, session, usesAperture);
    if (typeof exposure === 'number')
      (take.role === 'bracket' ? gathered.bracket : gathered.samples).push({
        ...seen,
        exposureLog2: exposure,
        setting: settingOf(take),
        ...(take.role === 'sweep' || take.setting?.mark !== undefined ? { inSeries: true } : {}),
        whiteBalance: { said: take.whiteBalance ?? null, own: result.facts.whiteBalance },
        statistics: reduced.level,
      });
    else
      faults.push({
        filter: take.filter,
        fault: fault('exposure-missing', 'error', [take.id], `${take.id}: ${exposure}.`),
      });
  });
  return gathered;
}

/** What the filter was set to, as a word that is equal for equal settings. */
function settingOf({ setting }: Shot['take']): string {
  return setting ? `ring ${setting.ringDegrees ?? '?'} mark ${setting.mark ?? '?'}` : '';
}

function uniqueFaults(faults: Gathered['faults']): Gathered['faults'] {
  const seen = new Set<string>();
  return faults.filter(({ filter, fault: one }) => {
    const key = `${filter}|${one.code}|${one.message}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}
