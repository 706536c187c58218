/**
 * From a session's takes to statistics of its patches: reads every picture once, takes what the measures need from it
 * and lets it go. What a file can't carry becomes a fault; the rest goes on.
 */
import { exposureLog2, parseShutter, snapShutterMark } from './exposure';
import { apply, invert, multiply, resolveColorSpace, type Matrix3, type Vector3 } from './color';
import { resolveResponse, responseTables, ResponseError, type FileEncoding, type ResolvedResponse } from './light';
import { centerSquare, pixelsOfRect, reducePatch, type PatchStatistics, type PixelRect, type Triple } from './patches';
import type { PatchSample } from './density';
import { fault, patchesOfScene, SessionError, type Fault, type Patch, type Session, type Take } from './session';
import { alignPreviews, carryRect, judgeView, type Preview, type ViewState } from './registration';
import { UnreadablePicture, type PictureFacts, type PictureSource } from './source';

/** Roles whose patches tell density and cast. */
const LEVEL_ROLES = new Set(['neutral', 'field', 'frame']);

export interface GatheredPatch {
  patch: Patch;
  samples: PatchSample[];
}

export interface Gathered {
  patches: GatheredPatch[];
  /** Faults with the filter they concern; `null` for bare takes. */
  faults: { filter: string | null; fault: Fault }[];
  response: string;
}

export interface GatherOptions {
  filter?: string;
  /** Pictures read at the same time. */
  concurrency?: number;
  onProgress?: (progress: { done: number; total: number; take: string }) => void;
  signal?: AbortSignal;
}

interface Shot {
  take: Take;
  file: string;
  index: number;
}

interface ShotResult extends Shot {
  view: ViewState;
  facts: PictureFacts;
  statistics: Map<string, PatchStatistics>;
}

/** Reads all pictures that density and cast need. */
export async function gather(session: Session, source: PictureSource, options: GatherOptions = {}): Promise<Gathered> {
  const faults: Gathered['faults'] = [];
  const levelPatches = new Map(
    session.scenes.map((scene) => [
      scene.id,
      patchesOfScene(session, scene.id).filter((patch) => LEVEL_ROLES.has(patch.role)),
    ]),
  );
  const shots: Shot[] = session.takes
    .filter((take) => take.role === 'measure' && (levelPatches.get(take.scene)?.length ?? 0) > 0)
    .filter((take) => options.filter === undefined || take.filter === null || take.filter === options.filter)
    .flatMap((take) => take.files.map((file, index) => ({ take, file, index })));
  const curves = await readCurves(session, source);
  const tables = tableCache(session, curves);
  const results: (ShotResult | null)[] = new Array(shots.length).fill(null);
  let done = 0;

  const views = new Map<string, Preview>();
  const readShot = async (shot: Shot, at: number): Promise<void> => {
    options.signal?.throwIfAborted();
    const patches = levelPatches.get(shot.take.scene)!;
    let view: ViewState = { kind: 'same' };
    try {
      const choose = (found: PictureFacts, preview: Preview | null): PixelRect[] => {
        const bare = views.get(shot.take.scene);
        if (preview && !bare && shot.take.filter === null) views.set(shot.take.scene, preview);
        if (preview && bare && sameSize(preview, bare)) view = judgeView(alignPreviews(bare, preview), found);
        return patches.map((patch) => windowOf(patch, found, view));
      };
      const { facts, windows } = await source.read(shot.file, choose, options.signal);
      const statistics = new Map<string, PatchStatistics>();
      windows.forEach((window, i) => {
        const reduced = reducePatch(window, tables.of(facts.encoding, facts.bitDepth));
        statistics.set(patches[i].id, convertPrimaries(reduced, tables.conversion(facts.encoding)));
      });
      results[at] = { ...shot, facts, statistics, view };
    } catch (error) {
      if (!(error instanceof UnreadablePicture)) throw error;
      faults.push({
        filter: shot.take.filter,
        fault: fault('file-unreadable', 'error', [shot.take.id], `${shot.file} can’t be read: ${error.reason}`),
      });
    }
    done++;
    options.onProgress?.({ done, total: shots.length, take: shot.take.id });
  };
  // The first readable bare picture of each scene is the view that all others are laid on.
  const order = shots.map((_, i) => i);
  const pending = new Set(order);
  for (const scene of levelPatches.keys())
    for (const i of order) {
      if (views.has(scene)) break;
      if (shots[i].take.scene !== scene || shots[i].take.filter !== null) continue;
      pending.delete(i);
      await readShot(shots[i], i);
      // A source without views would have every bare picture read first, one by one.
      if (results[i] && !views.has(scene)) break;
    }
  await forEachConcurrently([...pending], options.concurrency ?? 2, (i) => readShot(shots[i], i));

  const read = results.filter((result) => result !== null);
  faults.push(...encodingFaults(read, tables));
  const patches = [...levelPatches.values()].flat().map((patch) => {
    const sized = dropOtherViews(
      read.filter((result) => result.take.scene === patch.scene),
      faults,
    );
    return { patch, samples: samplesOf(patch, sized, session, faults) };
  });
  return { patches, faults: uniqueFaults(faults), response: tables.description() };
}

function windowOf(patch: Patch, facts: PictureFacts, view: ViewState): PixelRect {
  const rect = view.kind === 'moved' ? carryRect(patch.rect, view.pose, facts) : patch.rect;
  const pixels = pixelsOfRect(rect, facts.width, facts.height) ?? {
    x: Math.min(facts.width - 1, Math.floor(rect.x * facts.width)),
    y: Math.min(facts.height - 1, Math.floor(rect.y * facts.height)),
    width: 1,
    height: 1,
  };
  return patch.role === 'neutral' ? pixels : centerSquare(pixels, facts.width);
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

/** Tables from code to light are made once per encoding and bit depth. */
function tableCache(session: Session, curves: Map<string, string>) {
  const resolved = new Map<string, ResolvedResponse>();
  const made = new Map<string, [Float64Array, Float64Array, Float64Array]>();
  const target = typeof session.rig.colorSpace === 'string' ? resolveColorSpace(session.rig.colorSpace) : null;
  const responseOf = (encoding: FileEncoding): ResolvedResponse => {
    const key = session.rig.response.kind === 'file' ? JSON.stringify(encoding.transfer) : 'session';
    let response = resolved.get(key);
    if (!response) {
      try {
        response = resolveResponse(session.rig.response, encoding, (path) => curves.get(path) ?? '');
      } catch (error) {
        if (error instanceof ResponseError || error instanceof RangeError)
          throw new SessionError([`rig.response: ${error.message}`]);
        throw error;
      }
      resolved.set(key, response);
    }
    return response;
  };
  return {
    responseOf,
    of(encoding: FileEncoding, bitDepth: number) {
      const response = responseOf(encoding);
      const key = `${[...resolved.values()].indexOf(response)}/${bitDepth}`;
      if (!made.has(key)) made.set(key, responseTables(response, bitDepth));
      return made.get(key)!;
    },
    /** Matrix from the file's own primaries to the session's; `null` where they agree or aren't known. */
    conversion(encoding: FileEncoding): Matrix3 | null {
      if (!target || !encoding.toXyz) return null;
      const matrix = multiply(invert(target.toXyz), encoding.toXyz as unknown as Matrix3);
      const identity = [1, 0, 0, 0, 1, 0, 0, 0, 1];
      return matrix.every((value, i) => Math.abs(value - identity[i]) < 0.01) ? null : matrix;
    },
    description: () =>
      [...new Set([...resolved.values()].map((response) => response.description))].join(', ') ||
      session.rig.response.kind,
  };
}

/** Linear light in the session's primaries: matrices act on means as they do on pixels. */
function convertPrimaries(statistics: PatchStatistics, matrix: Matrix3 | null): PatchStatistics {
  if (!matrix) return statistics;
  const mean = apply(matrix, statistics.mean) as unknown as Triple;
  const values = statistics.cells.values.map(
    (cells) => new Float64Array(cells.length),
  ) as PatchStatistics['cells']['values'];
  for (let cell = 0; cell < values[0].length; cell++) {
    const converted = apply(matrix, statistics.cells.values.map((cells) => cells[cell]) as unknown as Vector3);
    converted.forEach((light, c) => (values[c][cell] = light));
  }
  return { ...statistics, mean, cells: { ...statistics.cells, values } };
}

function encodingFaults(read: ShotResult[], tables: ReturnType<typeof tableCache>): Gathered['faults'] {
  const faults: Gathered['faults'] = [];
  const unknown = read.filter((result) => !tables.responseOf(result.facts.encoding).known);
  if (unknown.length > 0)
    faults.push({
      filter: null,
      fault: fault(
        'response-unknown',
        'warning',
        unknown.map((result) => result.take.id),
        'Neither the session nor the files say how code values map to light; sRGB was assumed. Where that is wrong, strengths are wrong too.',
      ),
    });
  const converted = read.filter((result) => tables.conversion(result.facts.encoding) !== null);
  if (converted.length > 0)
    faults.push({
      filter: null,
      fault: fault(
        'color-space-differs',
        'info',
        converted.map((result) => result.take.id),
        `The files’ own primaries (${converted[0].facts.encoding.profile ?? 'embedded profile'}) were converted to the session’s color space.`,
      ),
    });
  return faults;
}

/** Pictures of another size or another view than the scene's bare ones: their fractions of the frame don't match. */
function dropOtherViews(results: ShotResult[], faults: Gathered['faults']): ShotResult[] {
  const bare = results.find((result) => result.take.filter === null);
  if (!bare) return results;
  const { width, height } = bare.facts;
  return results.filter(({ take, file, facts, view }) => {
    if (facts.width !== width || facts.height !== height)
      faults.push({
        filter: take.filter,
        fault: fault(
          'size-differs',
          'error',
          [take.id],
          `${file} is ${facts.width} × ${facts.height} pixels, the bare picture ${width} × ${height}; it is left out.`,
        ),
      });
    else if (view.kind === 'other')
      faults.push({
        filter: take.filter,
        fault: fault('view-moved', 'error', [take.id], `${file}: ${view.words}; it is left out.`),
      });
    else return true;
    return false;
  });
}

function sameSize(a: Preview, b: Preview): boolean {
  return a.width === b.width && a.height === b.height;
}

function samplesOf(patch: Patch, results: ShotResult[], session: Session, faults: Gathered['faults']): PatchSample[] {
  const times = timesOf(results);
  const usesAperture =
    session.rig.aperture === 'variable' || results.every((result) => fNumberOf(result) !== undefined);
  return results.flatMap((result, i) => {
    const statistics = result.statistics.get(patch.id);
    if (!statistics) return [];
    const exposure = exposureOf(result, session, usesAperture);
    if (typeof exposure === 'string') {
      faults.push({
        filter: result.take.filter,
        fault: fault('exposure-missing', 'error', [result.take.id], `${result.take.id}: ${exposure}.`),
      });
      return [];
    }
    return [
      {
        take: result.take.id,
        file: result.file,
        filter: result.take.filter,
        timeMs: times[i],
        exposureLog2: exposure,
        statistics,
      },
    ];
  });
}

function fNumberOf(result: ShotResult): number | undefined {
  return result.take.exposure.fNumber ?? result.facts.exposure.fNumber;
}

/** log2 of t·ISO/N², or what is missing. The session speaks before the file. */
function exposureOf({ take, facts }: ShotResult, session: Session, usesAperture: boolean): number | string {
  const shutter =
    take.exposure.shutter === undefined ? facts.exposure.shutterSeconds : parseShutter(take.exposure.shutter);
  const iso = take.exposure.iso ?? facts.exposure.iso;
  const fNumber = take.exposure.fNumber ?? facts.exposure.fNumber;
  const missing = [
    !shutter && 'shutter',
    iso === undefined && 'ISO',
    usesAperture && fNumber === undefined && 'aperture',
  ].filter(Boolean);
  if (!shutter || iso === undefined || missing.length > 0)
    return `${missing.join(' and ')} ${missing.length > 1 ? 'are' : 'is'} neither in the session nor in the file`;
  const shutterSeconds = session.rig.shutterMarks === 'nominal' ? snapShutterMark(shutter) : shutter;
  return exposureLog2({ shutterSeconds, iso, fNumber: usesAperture ? fNumber : undefined });
}

/**
 * Moments of pictures in milliseconds: the take's time, refined by the files' own times where a take has several; the
 * files' times where the session has none. Where a moment is known nowhere, the order of the takes stands in.
 */
function timesOf(results: ShotResult[]): number[] {
  const own = (result: ShotResult) => (result.facts.capturedAt === null ? NaN : Date.parse(result.facts.capturedAt));
  const firstOf = new Map<string, number>();
  for (const result of results) if (!firstOf.has(result.take.id)) firstOf.set(result.take.id, own(result));
  const times = results.map((result) => {
    if (result.take.capturedAt === undefined) return own(result);
    const since = own(result) - firstOf.get(result.take.id)!;
    return Date.parse(result.take.capturedAt) + (Number.isFinite(since) ? since : 0);
  });
  if (times.every(Number.isFinite)) return times;
  const order = [...new Set(results.map((result) => result.take.id))];
  return results.map((result) => order.indexOf(result.take.id) * 60000);
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

async function forEachConcurrently<T>(
  items: readonly T[],
  limit: number,
  work: (item: T) => Promise<void>,
): Promise<void> {
  let next = 0;
  const run = async () => {
    while (next < items.length) {
      await work(items[next++]);
    }
  };
  await Promise.all(Array.from({ length: Math.min(limit, items.length) }, run));
}
