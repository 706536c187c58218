/** Arrived files, and what laying wants to know of them. */
import { exposureLog2 } from '../../formulas/optics/exposure';
import { resolveResponse, responseAtHand } from '../../light/response';
import { lightOf, type ClipLook, type Look } from './look';
import type { Response } from '../../session/schema';
import type { PictureFacts } from '../../reading/facts';
import { cueAt, type Cue } from '../../session/subrip';
import type { FileToLay } from './laidFile';

/** What a file says of itself, or why it can't be read as a picture. */
export type FileReading =
  | { readable: true; picture: PictureFacts; look?: Look | ClipLook }
  // Telemetry is no picture, but is read: cues that say the same are joined.
  | { readable: false; reason: string; telemetry?: Cue[] };

/** A file stored under its hash. */
export interface StoredFile {
  sha256: string;
  bytes: number;
  facts: FileReading;
}

/** A stored file under the name with which it came. */
export interface ArrivedFile {
  path: string;
  stored: StoredFile;
}

const TELEMETRY = /\.srt$/i;
/** ITU-R BT.709 luminance: near enough for telling filters apart. */
const WEIGHTS = [0.2126, 0.7152, 0.0722];

/** The name without its ending: telemetry bears the clip's. */
const stem = (path: string) => path.replace(/\.[^.]+$/, '').toLowerCase();

export const isTelemetry = (file: ArrivedFile) => TELEMETRY.test(file.path);

/** Facts of a file that can be read as a picture. */
export function factsOf(file: ArrivedFile): PictureFacts {
  const { facts } = file.stored;
  if (!facts.readable) throw new Error('only readable pictures have facts');
  return facts.picture;
}

/** Telemetry that lies beside a clip, by its name. */
export function telemetryBeside(path: string, files: readonly ArrivedFile[]): ArrivedFile | undefined {
  return files.find((one) => isTelemetry(one) && stem(one.path) === stem(path));
}

/** What a file says of its exposure, else what the telemetry beside it says of its start. */
export function exposureBeside(file: ArrivedFile, files: readonly ArrivedFile[]): PictureFacts['exposure'] {
  const facts = telemetryBeside(file.path, files)?.stored.facts;
  const cues = facts && !facts.readable ? (facts.telemetry ?? []) : [];
  const cue = cueAt(cues, 0) ?? cues.at(0);
  return { ...cue?.exposure, ...factsOf(file).exposure };
}

/** A file for laying; `exposure` is what is known of it by now. */
export function toLay(file: ArrivedFile, exposure: PictureFacts['exposure'], response: Response): FileToLay {
  const facts = factsOf(file);
  const look = file.stored.facts.readable ? (file.stored.facts.look ?? null) : null;
  let light = NaN;
  if (look) {
    const { decode } = resolveResponse(responseAtHand(response, facts.encoding), facts.encoding, () => '');
    const channels = lightOf(look, decode, facts.bitDepth);
    light = Math.log2(WEIGHTS.reduce((sum, weight, c) => sum + weight * channels[c], 0));
  }
  const { shutterSeconds, iso, fNumber } = exposure;
  return {
    path: file.path,
    capturedAt: facts.capturedAt,
    exposureLog2:
      shutterSeconds !== undefined && iso !== undefined ? exposureLog2({ shutterSeconds, iso, fNumber }) : null,
    lightLog2: Number.isFinite(light) ? light : null,
    look,
  };
}
