/** Whose curve is believed as it is told, and whose is only where an estimate starts. */
import type { Response } from '../../session/schema';
import type { CodedFacts } from '../decoding';
import { EXIF_COLOR_SPACE, isRawTransfer } from '../response';

/** What a standard curve of a processed picture is known to, stops a stop: picture styles bend it (our own trials). */
export const STANDARD_CURVE_SIGMA = 0.35;

/** Curves that cameras draw pictures with by a style of their own, whatever the file says. */
const STYLED = ['srgb', 'bt709'];
/** In clips these are what a profile says; a still in them was drawn for bright screens by a style like any other. */
const STYLED_STILLS = ['pq', 'hlg'];

/**
 * Whether a file's curve is only told: a standard curve in a file that a camera wrote (lossy, or by its EXIF), or none at all. Raw files, published profiles
 * (log, HLG, PQ), linear light and curves that were chosen for this camera are believed; so is a standard curve that the session
 * names for files of exact codes, as a developer of raw pictures writes them.
 */
export function isOnlyTold({ encoding, compression, clip }: CodedFacts, response: Response): boolean {
  const lossy = compression !== undefined || clip !== undefined;
  const { transfer } = encoding;
  if (isRawTransfer(transfer)) return false;
  switch (response.kind) {
    case 'srgb':
    case 'bt709':
    case 'gamma':
      return lossy;
    case 'file':
      // A profile in a file of exact codes was put there by who developed it; EXIF comes from the camera.
      if (!lossy && transfer !== null && encoding.source !== EXIF_COLOR_SPACE) return false;
      if (transfer === null || typeof transfer === 'object') return true;
      return STYLED.includes(transfer) || (compression !== undefined && STYLED_STILLS.includes(transfer));
    default:
      return false;
  }
}

/** Whether a camera's JPEGs or clips under a profile's response need pictures that tell its curve. */
export function needsDarkBares(response: Response): boolean {
  const encoding = { transfer: null, source: null, toXyz: null, profile: null };
  return isOnlyTold({ encoding, compression: { luma: 1, blue: 1, red: 1 } }, response);
}
