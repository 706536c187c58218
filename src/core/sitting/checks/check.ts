/** What a check says, and what checks look at. */
import type { ClipLook, Look } from '../intake/look';
import { exposureLog2, parseShutter } from '../../formulas/optics/exposure';
import type { Session, Take } from '../../session/schema';
import type { PictureFacts } from '../../reading/facts';
import type { Cue } from '../../session/subrip';

export type CheckCode =
  | 'clipped'
  | 'too-dark'
  | 'exposure-missing'
  | 'exposure-moved'
  | 'white-balance-moved'
  | 'another-view'
  | 'view-moved'
  | 'blurred'
  | 'bare-missing'
  | 'bare-once'
  | 'order'
  | 'time-gap'
  | 'mixed-profiles'
  | 'clock-off'
  | 'name-contradicts'
  | 'gain-map'
  | 'file-missing';

export interface Check {
  code: CheckCode;
  /** `stop`: a figure will be missing or wrong; `look`: worth a look. */
  severity: 'stop' | 'look';
  takes: string[];
  /** The file that shows it best. */
  file: string | null;
  /** What is wrong, a sentence. */
  message: string;
  /** What to do, a sentence. */
  advice: string;
  /** How to show it on the file: cells at the top code, the graph over time, or beside another file. */
  show:
    { kind: 'picture' } | { kind: 'cells'; cells: number[] } | { kind: 'moments' } | { kind: 'beside'; file: string };
}

export interface CheckedFile {
  facts: PictureFacts;
  look: Look | ClipLook | null;
}

export interface Footage {
  session: Session;
  /** By path; files that can't be read or aren't there are missing. */
  files: ReadonlyMap<string, CheckedFile>;
  /** Cues by the path of the telemetry. */
  telemetry: ReadonlyMap<string, readonly Cue[]>;
  /** From codes as shares of the range to linear light, a channel each, for a file. */
  decode: (facts: PictureFacts) => readonly ((code: number) => number)[];
}

/** log2 of t·ISO/N² by the session, the file or the telemetry's first cue. */
export function exposureOf(take: Take, { facts }: CheckedFile, { telemetry, session }: Footage): number | null {
  const cue = (take.telemetry === undefined ? undefined : telemetry.get(take.telemetry))?.at(0)?.exposure ?? {};
  const own = { ...cue, ...facts.exposure };
  const shutterSeconds =
    (take.exposure.shutter === undefined ? null : parseShutter(take.exposure.shutter)) ?? own.shutterSeconds;
  const iso = take.exposure.iso ?? own.iso;
  const fNumber = take.exposure.fNumber ?? own.fNumber;
  if (!shutterSeconds || iso === undefined || (session.rig.aperture === 'variable' && fNumber === undefined))
    return null;
  return exposureLog2({ shutterSeconds, iso, fNumber });
}
