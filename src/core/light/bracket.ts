/** The response from a session's bracket takes: bare pictures of one scene at several shutters. */
import { curvesOf, fitCurves, type CurveFit } from './recover';
import type { ResolvedResponse } from './response';
import type { PixelRect } from '../reading/window';
import { zeroCovariance } from '../formulas/statistics/covariance';
import { exposureMissing, unreadableFile } from '../words/reading';
import { bracketMisfit, bracketUnusable } from '../words/response';
import type { Fault } from '../session/readings';
import type { Session, Take } from '../session/schema';
import { readWindows, type PictureSource } from '../reading/source';
import { UnreadablePicture, type PictureFacts } from '../reading/facts';
import type { Memory } from '../reading/memory';
import { shotsOf, withTelemetry, type Shot } from '../reading/shots';
import { exposureRules, exposureOf, type ExposedShot } from '../reading/exposures';

/** Places looked at: a grid of small squares over the frame. */
const COLUMNS = 42;
const ROWS = 28;
/** Side of a place at most: whole cells where pictures are small, windows of them where memory would suffer. */
const SIDE_PX = 32;
/** A curve that its own bracket departs from by more than this is told, in stops. Our own judgement. */
const MISFIT_STOPS = 0.02;

export interface BracketResult {
  response: ResolvedResponse | null;
  faults: Fault[];
}

/** A bracket picture with its codes at each place, per channel; none where the fit is remembered. */
interface BracketShot extends ExposedShot {
  file: string;
  scene: number;
  codes: (Uint8Array | Uint16Array)[][];
}

/** Reads the bracket and recovers a curve a channel. A bracket that can't tell gives a fault and no response. */
export async function recoverFromBracket(
  session: Session,
  source: PictureSource,
  { memory, signal }: { memory?: Memory; signal?: AbortSignal } = {},
): Promise<BracketResult> {
  const takes = session.takes.filter((take) => take.role === 'bracket' && take.filter === null);
  const { shots: files, faults: shotFaults } = await shotsOf(takes, source);
  const faults: Fault[] = shotFaults.map((one) => one.fault);
  const remembered = memory && faults.length === 0 && (await recallFits(files, session, source, memory));
  if (remembered) {
    const response = responseOf(remembered.fits, remembered.count);
    return { response, faults: misfit(response, takes) };
  }

  const read: BracketShot[] = [];
  for (const shot of files) {
    const { take, file } = shot;
    try {
      const { facts: own, windows } = await readWindows(source.open(file, signal), ({ width, height }) =>
        gridOf(width, height),
      );
      const facts = withTelemetry(own, shot);
      const codes = windows.map(({ data, channels }) => [0, 1, 2].map((c) => channelOf(data, channels, c)));
      read.push({ take, file, facts, scene: sceneIndex(session, take.scene), codes });
    } catch (error) {
      if (!(error instanceof UnreadablePicture)) throw error;
      faults.push(unreadableFile(take.id, file, error.reason));
    }
  }
  const rules = exposureRules(read, session);
  const exposed = read.flatMap((shot) => {
    const exposure = exposureOf(shot, rules);
    if (typeof exposure === 'number') return [{ ...shot, exposure }];
    faults.push(exposureMissing(shot.take.id, exposure));
    return [];
  });
  const fits = fitCurves(
    [0, 1, 2].map((channel) =>
      exposed.flatMap(({ codes, exposure, scene }) =>
        codes.map((place, index) => ({
          place: scene * COLUMNS * ROWS + index,
          exposureLog2: exposure,
          codes: place[channel],
        })),
      ),
    ),
    exposed[0]?.facts.bitDepth ?? 8,
  );
  if (!fits) {
    faults.push(bracketUnusable(takes.map((take) => take.id)));
    return { response: null, faults };
  }
  // Only a bracket without a flaw is worth remembering: its faults are told anew otherwise.
  if (memory && faults.length === 0) await keepFits(read, session, source, memory, fits);
  const response = responseOf(fits, exposed.length);
  return { faults: [...faults, ...misfit(response, takes)], response };
}

/** A bracket that no single curve fits: an exposure in it is wrong, or the light changed. */
function misfit({ residualStops = 0 }: ResolvedResponse, takes: readonly Take[]): Fault[] {
  if (residualStops < MISFIT_STOPS) return [];
  const ids = takes.map((take) => take.id);
  return [bracketMisfit(ids, residualStops)];
}

function responseOf(fits: CurveFit[], count: number): ResolvedResponse {
  const curves = curvesOf(fits);
  return {
    decode: curves.map((curve) => (code: number) => 2 ** curve.logLight(code)) as ResolvedResponse['decode'],
    known: true,
    description: `recovered from ${count} bracket pictures`,
    residualStops: Math.max(...curves.map((curve) => curve.residualStops)),
    covariance(sums) {
      const result = zeroCovariance();
      for (let a = 0; a < 3; a++)
        for (let b = 0; b < 3; b++)
          // Channels with curves of their own err apart.
          if (curves[a] === curves[b]) result[3 * a + b] = curves[a].covariance(sums[a], sums[b]);
      return result;
    },
    range: [Math.min(...curves.map((curve) => curve.range[0])), Math.max(...curves.map((curve) => curve.range[1]))],
  };
}

const sceneIndex = (session: Session, id: string) => session.scenes.findIndex((scene) => scene.id === id);

/** The name of a bracket's fit: all that it depends on. */
function fitName(
  shots: readonly (ExposedShot & { file: string; scene: number })[],
  session: Session,
  source: PictureSource,
): string | null {
  const rules = exposureRules(shots, session);
  const parts = shots.map((shot) => [source.identify?.(shot.file) ?? null, exposureOf(shot, rules), shot.scene]);
  return parts.every(([id, exposure]) => id !== null && typeof exposure === 'number')
    ? `bracket/${JSON.stringify(parts)}`
    : null;
}

async function recallFits(
  files: readonly Shot[],
  session: Session,
  source: PictureSource,
  memory: Memory,
): Promise<{ fits: CurveFit[]; count: number } | null> {
  const shots = [];
  for (const shot of files) {
    const { take, file } = shot;
    const id = source.identify?.(file) ?? null;
    const facts = id === null ? undefined : ((await memory.recall(`facts/${id}`)) as PictureFacts | undefined);
    if (!facts) return null;
    shots.push({ take, file, facts: withTelemetry(facts, shot), scene: sceneIndex(session, take.scene) });
  }
  const name = shots.length > 0 ? fitName(shots, session, source) : null;
  const fits = name === null ? undefined : ((await memory.recall(name)) as CurveFit[] | undefined);
  return fits ? { fits, count: shots.length } : null;
}

async function keepFits(
  read: readonly BracketShot[],
  session: Session,
  source: PictureSource,
  memory: Memory,
  fits: CurveFit[],
): Promise<void> {
  const name = fitName(read, session, source);
  if (name === null) return;
  for (const { file, facts } of read) await memory.keep(`facts/${source.identify!(file)}`, facts);
  await memory.keep(name, fits);
}

function channelOf(data: Uint8Array | Uint16Array, channels: 1 | 3, channel: number): Uint8Array | Uint16Array {
  if (channels === 1) return data;
  const out = data instanceof Uint16Array ? new Uint16Array(data.length / 3) : new Uint8Array(data.length / 3);
  for (let i = 0, at = channel; i < out.length; i++, at += 3) out[i] = data[at];
  return out;
}

function gridOf(width: number, height: number): PixelRect[] {
  const side = Math.max(1, Math.min(SIDE_PX, Math.floor(width / COLUMNS), Math.floor(height / ROWS)));
  const rects: PixelRect[] = [];
  for (let row = 0; row < ROWS; row++)
    for (let column = 0; column < COLUMNS; column++)
      rects.push({
        x: Math.floor(((column + 0.5) * width) / COLUMNS - side / 2),
        y: Math.floor(((row + 0.5) * height) / ROWS - side / 2),
        width: side,
        height: side,
      });
  return rects;
}
