/** The response from a session's bracket takes: bare pictures of one scene at several shutters. */
import { recoverCurves } from '../light/recover';
import type { ResolvedResponse } from '../light';
import type { PixelRect } from '../patches';
import { zeroCovariance } from '../uncertainty/covariance';
import { fault, type Fault, type Session } from '../session';
import { UnreadablePicture, type PictureSource } from '../source';
import { apertureCounts, exposureOf, type ExposedShot } from './exposures';

/** Places looked at: a grid of small squares over the frame. */
const COLUMNS = 42;
const ROWS = 28;
/** Side of a place at most: whole cells where pictures are small, windows of them where memory would suffer. */
const SIDE_PX = 32;

export interface BracketResult {
  response: ResolvedResponse | null;
  faults: Fault[];
}

/** Reads the bracket and recovers a curve a channel. A bracket that can't tell gives a fault and no response. */
export async function recoverFromBracket(
  session: Session,
  source: PictureSource,
  signal?: AbortSignal,
): Promise<BracketResult> {
  const takes = session.takes.filter((take) => take.role === 'bracket' && take.filter === null);
  const faults: Fault[] = [];
  const read: (ExposedShot & { scene: number; codes: (Uint8Array | Uint16Array)[][] })[] = [];
  for (const take of takes)
    for (const file of take.files) {
      try {
        const { facts, windows } = await source.read(file, ({ width, height }) => gridOf(width, height), signal);
        const scene = session.scenes.findIndex((one) => one.id === take.scene);
        const codes = windows.map(({ data, channels }) =>
          [0, 1, 2].map((c) => data.filter((_, i) => i % channels === (channels === 3 ? c : 0))),
        );
        read.push({ take, facts, scene, codes: codes as (Uint8Array | Uint16Array)[][] });
      } catch (error) {
        if (!(error instanceof UnreadablePicture)) throw error;
        faults.push(fault('file-unreadable', 'error', [take.id], `${file} can’t be read: ${error.reason}`));
      }
    }
  const usesAperture = apertureCounts(read, session);
  const exposed = read.flatMap((shot) => {
    const exposure = exposureOf(shot, session, usesAperture);
    if (typeof exposure === 'number') return [{ ...shot, exposure }];
    faults.push(fault('exposure-missing', 'error', [shot.take.id], `${shot.take.id}: ${exposure}.`));
    return [];
  });
  const bitDepth = exposed[0]?.facts.bitDepth ?? 8;
  const curves = recoverCurves(
    [0, 1, 2].map((channel) =>
      exposed.flatMap(({ codes, exposure, scene }) =>
        codes.map((place, index) => ({
          place: scene * COLUMNS * ROWS + index,
          exposureLog2: exposure,
          codes: place[channel],
        })),
      ),
    ),
    bitDepth,
  );
  if (!curves) {
    const why =
      takes.length === 0 ? 'The session has no bracket takes' : 'The bracket takes are too few or too much clipped';
    faults.push(
      fault(
        'response-unknown',
        'warning',
        takes.map((take) => take.id),
        `${why} to recover the response from; what the files say is used instead.`,
      ),
    );
    return { response: null, faults };
  }
  const residualStops = Math.max(...curves.map((curve) => curve.residualStops));
  return {
    faults,
    response: {
      decode: curves.map((curve) => (code: number) => 2 ** curve.logLight(code)) as ResolvedResponse['decode'],
      known: true,
      description: `recovered from ${exposed.length} bracket pictures`,
      residualStops,
      covariance(sums) {
        const result = zeroCovariance();
        for (let a = 0; a < 3; a++)
          for (let b = 0; b < 3; b++)
            // Channels with curves of their own err apart.
            if (curves[a] === curves[b]) result[3 * a + b] = curves[a].covariance(sums[a], sums[b]);
        return result;
      },
      range: [Math.min(...curves.map((curve) => curve.range[0])), Math.max(...curves.map((curve) => curve.range[1]))],
    },
  };
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
