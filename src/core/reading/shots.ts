/** The pictures of takes: a still is one, a clip is several frames, each with what the telemetry says of its moment. */
import { exposureMovedInside, unreadableFile, unreadableTelemetry, whiteBalanceMovedInside } from '../words/reading';
import type { Take } from '../session/schema';
import { UnreadablePicture, type PictureFacts } from './facts';
import type { FoundFault } from './observations';
import type { PictureSource } from './source';
import { cueAt, parseSubRip, type Cue } from '../session/subrip';

export interface Shot {
  take: Take;
  /** As the source reads it; a frame has a name of its own. */
  file: string;
  /** The file as the session names it. */
  original: string;
  /** Moment of a frame in its clip; `null` for a still. */
  seconds: number | null;
  /** What the telemetry says: of all of the clip, of a still its first cue. */
  cues: readonly Cue[];
}

/** A full turn is looked at every fifteen degrees. */
const FRAMES_OF_TURN = 24;
/** An exposure that changes by less than this inside a clip is the same, in stops. */
const SAME_STOPS = 0.02;

/** All pictures of takes, in order. Clips and telemetry that can't be read become faults. */
export async function shotsOf(
  takes: readonly Take[],
  source: PictureSource,
): Promise<{ shots: Shot[]; faults: FoundFault[] }> {
  const faults: FoundFault[] = [];
  const shots: Shot[] = [];
  for (const take of takes) {
    const cues = take.telemetry === undefined ? [] : await readCues(take, take.telemetry, source, faults);
    const own: Shot[] = [];
    for (const file of take.files) {
      const frames = await framesOf(take, file, source, faults);
      if (frames === null) own.push({ take, file, original: file, seconds: null, cues: cues.slice(0, 1) });
      else own.push(...frames.map((frame) => ({ take, ...frame, original: file, cues })));
    }
    faults.push(...changesInside(take, own, cues));
    shots.push(...own);
  }
  return { shots, faults };
}

async function framesOf(take: Take, file: string, source: PictureSource, faults: FoundFault[]) {
  try {
    return (await source.frames?.(file, take.span, take.turn ? FRAMES_OF_TURN : undefined)) ?? null;
  } catch (error) {
    if (!(error instanceof UnreadablePicture)) throw error;
    faults.push({ filter: take.filter, fault: unreadableFile(take.id, file, error.reason) });
    return [];
  }
}

async function readCues(take: Take, file: string, source: PictureSource, faults: FoundFault[]): Promise<Cue[]> {
  try {
    return parseSubRip(await source.readText(file));
  } catch (error) {
    faults.push({ filter: take.filter, fault: unreadableTelemetry(take.id, file, (error as Error).message) });
    return [];
  }
}

/** What the telemetry says has changed between the first and the last frame that is measured. */
function changesInside(take: Take, shots: readonly Shot[], cues: readonly Cue[]): FoundFault[] {
  const moments = shots.flatMap((shot) => shot.seconds ?? []);
  if (moments.length < 2) return [];
  const [from, to] = [Math.min(...moments), Math.max(...moments)];
  const inside = cues.filter((cue) => cue.to > from && cue.from <= to);
  const found: FoundFault[] = [];
  const stops = inside.map(({ exposure: { shutterSeconds = 1, iso = 100, fNumber = 1 } }) =>
    Math.log2((shutterSeconds * iso) / fNumber ** 2),
  );
  const range = Math.max(...stops) - Math.min(...stops);
  const { id, filter, exposure } = take;
  if (inside.length > 1 && range > SAME_STOPS) {
    const sessionSays = exposure.shutter !== undefined || exposure.iso !== undefined;
    found.push({ filter, fault: exposureMovedInside(id, range, sessionSays) });
  }
  const kelvin = new Set(inside.flatMap((cue) => cue.colorTemperature ?? []));
  if (kelvin.size > 1)
    found.push({ filter, fault: whiteBalanceMovedInside(id, Math.min(...kelvin), Math.max(...kelvin)) });
  return found;
}

/** What a file and its telemetry say: the file speaks first (formats.md, section 1). */
export function withTelemetry(facts: PictureFacts, { cues, seconds }: Pick<Shot, 'cues' | 'seconds'>): PictureFacts {
  const moment = facts.frameSeconds ?? seconds;
  const cue = moment === null ? (cues[0] ?? null) : cueAt(cues, moment);
  if (!cue) return facts;
  return {
    ...facts,
    exposure: { ...cue.exposure, ...facts.exposure },
    whiteBalance: facts.whiteBalance ?? (cue.colorTemperature === null ? null : `${cue.colorTemperature} K`),
  };
}
