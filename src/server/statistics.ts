/** Live statistics for Regions. The picture looked at last stays decoded, so that dragging answers at once. */
import { cutWindow, pixelsOfRect, type Picture, type PixelRect } from '@/core/reading/window';
import { reducePatch } from '@/core/reading/patchStatistics';
import { resolveResponse, responseAtHand, responseTables } from '@/core/light/response';
import type { Rect } from '@/core/session/schema';
import type { PictureFacts } from '@/core/reading/facts';
import { openMedia } from '@/media/files';
import { readWindows } from '@/core/reading/source';
import { loadSession, mediaPath } from '@/store';
import { RequestError } from './http';

export interface WindowStatistics {
  pixels: number;
  /** Mean code as a share of full scale, per channel. */
  meanCode: number[];
  /** Spread of single pixels relative to the mean light, per channel. */
  noise: number[];
  /** Shares at the top code and at code 0. */
  clipped: number;
  black: number;
}

/** Larger pictures are read window by window instead of being kept. */
const KEEP_BYTES = 200_000_000;

let kept: { sha256: string; facts: PictureFacts; picture: Picture } | null = null;

/** Statistics of a rectangle (fractions of the frame). Throws RequestError, UnreadablePicture, NoSuchSession. */
export async function windowStatistics(sessionId: string, file: string, rect: Rect): Promise<WindowStatistics> {
  const { session, files } = await loadSession(sessionId);
  const sha256 = files.get(file);
  if (!sha256) throw new RequestError(404, `${file} is not among the session’s files.`);
  const { facts, window } = await windowOf(sha256, file, rect);
  const { response } = session.rig;
  const statistics = reducePatch(
    window,
    responseTables(
      resolveResponse(responseAtHand(response, facts.encoding), facts.encoding, () => ''),
      facts.bitDepth,
    ),
  );
  return {
    pixels: statistics.pixelCount,
    meanCode: statistics.meanCode,
    noise: statistics.pixelSpread,
    clipped: Math.max(...statistics.topShare),
    black: Math.max(...statistics.zeroShare),
  };
}

async function windowOf(sha256: string, file: string, rect: Rect): Promise<{ facts: PictureFacts; window: Picture }> {
  if (kept?.sha256 !== sha256) {
    let whole = false;
    const { facts, windows } = await readWindows(openMedia(mediaPath(sha256), file), (found) => {
      whole = found.width * found.height * found.channels * (found.bitDepth / 8) <= KEEP_BYTES;
      return [whole ? { x: 0, y: 0, width: found.width, height: found.height } : pixelsIn(rect, found)];
    });
    if (!whole) return { facts, window: windows[0] };
    kept = { sha256, facts, picture: windows[0] };
  }
  return { facts: kept.facts, window: cutWindow(kept.picture, pixelsIn(rect, kept.facts)) };
}

function pixelsIn(rect: Rect, { width, height }: PictureFacts): PixelRect {
  const pixels = pixelsOfRect(rect, width, height);
  if (!pixels) throw new RequestError(422, 'That rectangle holds no pixel.');
  return pixels;
}
