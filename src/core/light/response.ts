/** From a session's `response` and what a file says of itself to one decoding function a channel. */
import type { Response } from '../session/schema';
import type { Covariance } from '../formulas/statistics/covariance';
import type { CameraSettings } from '../session/cameraCheck';
import type { LogSum } from './recover';
import { parseCurveCsv } from './curveCsv';
import { cubePoints, parseCube1d } from './curveCube';
import {
  decodeBt709,
  decodeCurve,
  decodeGamma,
  decodeHlg,
  decodeLinear,
  decodePq,
  decodeSrgb,
  linearTable,
  type Decode,
} from '../formulas/transfer/transfer';

/** A raw file: light from the black level up, in codes of 16 bits. */
export interface RawLevels {
  black: number;
  white: number;
}

export const isRawTransfer = (transfer: FileEncoding['transfer']): transfer is RawLevels =>
  transfer !== null && typeof transfer === 'object' && 'black' in transfer;

/** Where cameras say of a picture that it is sRGB, whatever the style that they drew it by. */
export const EXIF_COLOR_SPACE = 'EXIF color space';

/** What a file itself says about its encoding; `null` where it says nothing. */
export interface FileEncoding {
  transfer:
    'linear' | 'srgb' | 'bt709' | 'hlg' | 'pq' | RawLevels | { gamma: number } | { points: [number, number][] } | null;
  /** Where that stands: "ICC profile", "EXIF color space", "PNG sRGB chunk", "raw file". */
  source: string | null;
  /** Linear RGB of the file → XYZ (D65 white), where the file's own primaries are known. */
  toXyz: readonly number[] | null;
  /** The name of the embedded profile, for people. */
  profile: string | null;
  /** How the camera was set, where the file tells: with other settings its codes mean other light. */
  settings?: CameraSettings;
}

/**
 * @param acrossPlaces the sum compares places of a picture, where what adapts by place doesn't cancel; one of more than two lights does
 *   where it is left out
 */
export type CovarianceOfSums = (sums: readonly [LogSum, LogSum, LogSum], acrossPlaces?: boolean) => Covariance;

export interface ResolvedResponse {
  decode: [Decode, Decode, Decode];
  /** False where nothing is known of the file's encoding and sRGB was assumed. */
  known: boolean;
  description: string;
  /** Of a recovered response: what its fit leaves, in stops. */
  residualStops?: number;
  /** Of a recovered response: covariance of the channels' errors in these sums of log2 light, in stops². */
  covariance?: CovarianceOfSums;
  /** Of a learned response: the same of light itself, log2 of what it makes of codes. */
  covarianceOfLight?: CovarianceOfSums;
  /** Both of a learned response, for pictures that aren't set right each by its own slope: ordinary scenes and turns. */
  byOneCurve?: ResponseDoubt;
  /** Of a recovered response: the codes that the bracket reached. */
  range?: [number, number];
}

/** What a recovered or learned response leaves uncertain. */
export type ResponseDoubt = Pick<ResolvedResponse, 'covariance' | 'covarianceOfLight'>;

/** The response with its doubt for pictures that were decoded by it alone, whatever their camera's tone made of each. */
export function byOneCurve(response: ResolvedResponse | null): ResolvedResponse | null {
  return response && { ...response, ...response.byOneCurve };
}

/**
 * Standard uncertainty, in stops, that a learned response leaves in a sum of log2 of green light; 0 of any other.
 *
 * @param acrossPlaces whether the lights are those of several places of a picture; left out: where they are more than two
 */
export function responseUOfLight(
  response: Pick<ResolvedResponse, 'covarianceOfLight'> | null,
  terms: readonly (readonly [light: number, factor: number])[],
  acrossPlaces?: boolean,
): number {
  if (!response?.covarianceOfLight) return 0;
  const sum = terms.map(([light, factor]) => [Math.log2(Math.max(light, DARKEST_LIGHT)), factor] as const);
  return Math.sqrt(Math.max(0, response.covarianceOfLight([sum, sum, sum], acrossPlaces)[4]));
}

/** Light of nothing, so that it has a logarithm. */
const DARKEST_LIGHT = 1e-7;

/** A response to look at a picture with, where neither a curve's file nor a bracket is at hand: what the file says. */
export function responseAtHand(response: Response, file?: FileEncoding): Response {
  const needsMore = response.kind === 'bracket' || (response.kind === 'curve' && response.file !== undefined);
  return needsMore || (file && isRawTransfer(file.transfer)) ? { kind: 'file' } : response;
}

/** A response that can't be used, with a sentence for people. */
export class ResponseError extends Error {}

/**
 * Decoding functions for a file.
 *
 * @param readText gives the text of a curve file by its path in the session; needed for `curve` with a `file`.
 */
export function resolveResponse(
  response: Response,
  file: FileEncoding,
  readText: (path: string) => string,
): ResolvedResponse {
  const same = (decode: Decode, description: string, known = true): ResolvedResponse => ({
    decode: [decode, decode, decode],
    known,
    description,
  });
  switch (response.kind) {
    case 'linear':
      return same(decodeLinear, 'linear');
    case 'srgb':
      return same(decodeSrgb, 'sRGB');
    case 'bt709':
      return same(decodeBt709, 'BT.709');
    case 'hlg':
      return same(decodeHlg, 'HLG');
    case 'pq':
      return same(decodePq, 'PQ');
    case 'gamma':
      return same(decodeGamma(response.gamma), `gamma ${response.gamma}`);
    case 'curve':
      return curveResponse(response, readText);
    case 'bracket':
      throw new ResponseError('a bracket is recovered from the session’s takes, not from one file');
    case 'file':
      return fileResponse(file, same);
  }
}

function fileResponse(
  file: FileEncoding,
  same: (decode: Decode, description: string, known?: boolean) => ResolvedResponse,
): ResolvedResponse {
  const { transfer } = file;
  // Below black light is negative: noise there must not be cut off.
  if (isRawTransfer(transfer)) {
    const { black, white } = transfer;
    return same((value) => (value * 65535 - black) / (white - black), 'linear (raw file, black taken off)');
  }
  const from = file.source ? ` (${file.source})` : '';
  if (transfer === null) return same(decodeSrgb, 'sRGB, assumed', false);
  if (typeof transfer === 'object')
    return 'gamma' in transfer
      ? same(decodeGamma(transfer.gamma), `gamma ${transfer.gamma}${from}`)
      : same(decodeCurve(transfer.points), `table${from}`);
  const named = { linear: decodeLinear, srgb: decodeSrgb, bt709: decodeBt709, hlg: decodeHlg, pq: decodePq }[transfer];
  return same(named, `${transfer}${from}`);
}

function curveResponse(
  response: Extract<Response, { kind: 'curve' }>,
  readText: (path: string) => string,
): ResolvedResponse {
  try {
    if (response.points) {
      const decode = decodeCurve(normaliseCodes(response.points));
      return {
        decode: [decode, decode, decode],
        known: true,
        description: `curve of ${response.points.length} points`,
      };
    }
    const text = readText(response.file!);
    const channels = /\.(csv|tsv|txt)$/i.test(response.file!)
      ? parseCurveCsv(text).map(normaliseCodes)
      : ([0, 1, 2] as const).map((channel) => cubePoints(parseCube1d(text), channel));
    const decode = channels.map(decodeCurve) as [Decode, Decode, Decode];
    return { decode, known: true, description: `curve ${response.file}` };
  } catch (error) {
    throw new ResponseError(`The response curve can't be used: ${(error as Error).message}.`);
  }
}

/** Codes written as 0–255, 0–1023, 0–4095 or 0–65535 become shares of full scale; codes up to 1 stay. */
function normaliseCodes(points: readonly (readonly [number, number])[]): [number, number][] {
  const largest = Math.max(...points.map((point) => point[0]));
  const top = largest <= 1 ? 1 : ([255, 1023, 4095, 65535].find((full) => largest <= full) ?? largest);
  return points.map(([code, light]) => [code / top, light]);
}

/** Light of every code per channel, at a bit depth. Channels that share a function share the table. */
export function responseTables(
  response: ResolvedResponse,
  bitDepth: number,
): [Float64Array, Float64Array, Float64Array] {
  const first = linearTable(response.decode[0], bitDepth);
  const others = response.decode
    .slice(1)
    .map((decode) => (decode === response.decode[0] ? first : linearTable(decode, bitDepth)));
  return [first, others[0], others[1]];
}
