/** What the viewing room shows: pictures of a session with their exposures, strengths and gains, and how they lie on bare. */
import { readFile } from 'node:fs/promises';
import { inStep, trackOf, type InStep } from '@/core/viewing/route';
import { keepLuminance } from '@/core/viewing/level';
import { toScreen, whiteOf } from '@/core/viewing/display';
import type { Pyramid } from '@/core/viewing/pyramid';
import { luminanceRow, resolveColorSpace } from '@/core/formulas/color/spaces';
import { exposureOf, exposureRules, type ExposureRules } from '@/core/reading/exposures';
import { withTelemetry } from '@/core/reading/shots';
import { parseShutter, writeShutter } from '@/core/formulas/optics/exposure';
import { disclosureOf } from '@/core/sitting/kits/keptKit';
import { responseAtHand, type FileEncoding } from '@/core/light/response';
import { IDENTITY, type Pose } from '@/core/laying/align';
import { POLARIZED_SCENES } from '@/core/session/polarizing';
import type { Response, Take } from '@/core/session/schema';
import type { PictureFacts } from '@/core/reading/facts';
import { joinedCues, parseSubRip, type Cue } from '@/core/session/subrip';
import { isClip } from '@/media/clips/frames';
import { frameTime } from '@/media/clips/reel';
import {
  allKits,
  latestReadings,
  loadSession,
  mediaPath,
  OncePerKey,
  poseBeside,
  poseFound,
  pyramidMade,
  storedFiles,
  type FoundPose,
} from '@/store';
import { withShelf } from './across';
import { RequestError } from './http';

export interface ComparedPicture {
  file: string;
  sha256: string;
  take: string;
  scene: string;
  /** `null` for bare. */
  filter: string | null;
  name: string;
  /** Shutter and what else sets it apart, for captions. */
  caption: string;
  frame: { width: number; height: number };
  response: Response;
  /** Linear light that is white on the screen; below 1 for HDR, which is compressed then. */
  white: number;
  /** What it is levelled by: the strength that was measured, and gains that cancel the cast. `null` where nothing was measured. */
  strength: { stops: number; channels: ChannelGains | null } | null;
  /** log2 of t·ISO/N², from a moment of the clip on; one entry for a still. Empty where it isn't known: nothing is levelled by a guess. */
  exposures: { from: number; log2: number }[];
  film: Film | null;
  /** Its tiles (of a clip its middle's), where they are made already: the first of them can be asked for at once. */
  pyramid: Pyramid | null;
  /** How it lies on its scene's first bare picture (of clips their middles), where that was found already. */
  laid: LaidOn | null;
  /** What was measured, for captions and the end of blind viewing. */
  found: { stops: number; deltaE00: number; kept: number | null } | null;
}

type ChannelGains = { r: number; g: number; b: number };

/** A clip that can be played. */
export interface Film {
  seconds: number;
  framesPerSecond: number;
  /** The span of the take. */
  from: number;
  to: number;
  encoding: FileEncoding;
  /** By moments of the scene's first bare clip: where this one was at the same place. `null` where telemetry doesn't say. */
  steps: InStep[] | null;
}

export interface ComparedSession {
  id: string;
  title: string;
  pictures: ComparedPicture[];
  kits: { name: string; filters: string[]; disclosure: string | null }[];
  /** Linear camera RGB to linear sRGB, row-major. */
  toScreen: number[];
  luminance: number[];
}

/** Pictures of a session that can be compared. Throws NoSuchSession. */
export async function comparedSession(id: string): Promise<ComparedSession> {
  const { session, files } = await loadSession(id);
  const [stored, readings] = await Promise.all([storedFiles([...files.values()]), latestReadings(id)]);
  const shots = session.takes
    .filter((take) => take.role !== 'bracket')
    .flatMap((take) =>
      take.files.slice(0, 1).flatMap((file) => {
        const sha256 = files.get(file);
        const facts = sha256 === undefined ? undefined : stored.get(sha256)?.facts;
        return sha256 && facts?.readable ? [{ take, file, sha256, facts: facts.picture }] : [];
      }),
    );
  const cues = await Promise.all(shots.map(({ take }) => cuesOf(take.telemetry, files)));
  const told = shots.map((shot, i) => ({
    ...shot,
    facts: withTelemetry(shot.facts, { cues: cues[i], seconds: null }),
  }));
  const rules = exposureRules(told, session);
  const tracks = shots.map(({ facts, take }, i) => {
    const bareAt = shots.findIndex((one) => one.take.scene === take.scene && one.take.filter === null);
    if (!facts.clip || bareAt < 0 || bareAt === i || !shots[bareAt].facts.clip) return null;
    const own = trackOf(cues[bareAt]);
    return inStep(own.points, trackOf(cues[i], own.origin).points);
  });
  const space = resolveColorSpace(session.rig.colorSpace);
  const luminance = luminanceRow(space);
  const filters = session.kits.flatMap((kit) => kit.filters);
  const responses = shots.map(({ facts }) => responseAtHand(session.rig.response, facts.encoding));
  const pyramids = await Promise.all(shots.map(({ sha256 }, i) => pyramidMade(sha256, responses[i])));
  const laid = await Promise.all(
    shots.map((shot) =>
      laidBefore(
        shot,
        shots.find(({ take }) => take.scene === shot.take.scene && take.filter === null),
      ),
    ),
  );
  const pictures = shots.map(({ take, file, sha256, facts }, i): ComparedPicture => {
    const found = readings?.readings.filters.find((one) => one.filter === take.filter);
    const scene = session.scenes.find((one) => one.id === take.scene);
    // Before polarized light a picture is as dark as its ring says: no one strength levels it.
    const levels = take.filter === null || !POLARIZED_SCENES.has(scene?.kind ?? '');
    const stops = take.filter === null ? 0 : found?.density?.stops.value;
    const gains = found?.cast?.gains;
    return {
      file,
      sha256,
      take: take.id,
      scene: take.scene,
      filter: take.filter,
      name: take.filter === null ? 'bare' : (filters.find((one) => one.id === take.filter)?.name ?? take.filter),
      caption: captionOf(take, told[i].facts),
      frame: { width: facts.width, height: facts.height },
      response: responses[i],
      white: whiteOf(session.rig.response, facts.encoding),
      strength:
        levels && stops !== undefined
          ? { stops, channels: gains ? keepLuminance(gains, [luminance[0], luminance[1], luminance[2]]) : null }
          : null,
      exposures: exposuresOf(shots[i], cues[i], rules),
      film: facts.clip ? filmOf(take, facts.clip, facts.encoding, tracks[i]) : null,
      pyramid: pyramids[i],
      laid: laid[i],
      found:
        found?.density && found.cast
          ? {
              stops: found.density.stops.value,
              deltaE00: found.cast.deltaE00.value,
              kept: found.sharpness?.find((one) => one.region === 'center')?.retained.value ?? null,
            }
          : null,
    };
  });
  const shelf = await allKits();
  const kits = session.kits.map((kit) => ({
    name: kit.name ?? kit.id,
    filters: kit.filters.map((one) => one.id),
    disclosure: disclosureOf(withShelf(kit, shelf) as { obtained?: unknown }),
  }));
  return { id, title: session.title, pictures, kits, toScreen: [...toScreen(space)], luminance: [...luminance] };
}

/** Cues of a take's telemetry; none where there is no such file or it can't be read: Footage says so. */
async function cuesOf(telemetry: string | undefined, files: ReadonlyMap<string, string>): Promise<Cue[]> {
  const sha256 = telemetry === undefined ? undefined : files.get(telemetry);
  if (sha256 === undefined) return [];
  try {
    return parseSubRip(await readFile(mediaPath(sha256), 'utf8'));
  } catch {
    return [];
  }
}

function filmOf(
  { span }: Take,
  { seconds, framesPerSecond }: NonNullable<PictureFacts['clip']>,
  encoding: FileEncoding,
  steps: InStep[] | null,
): Film {
  const last = Math.max(0, seconds - 1 / framesPerSecond);
  const [from, to] = [Math.min(last, span?.from ?? 0), Math.min(last, span?.to ?? last)];
  return { seconds, framesPerSecond, from, to, encoding, steps };
}

/** One exposure, or those that the telemetry tells where session and file are silent. */
function exposuresOf(
  { take, facts }: { take: Take; facts: PictureFacts },
  cues: readonly Cue[],
  rules: ExposureRules,
): ComparedPicture['exposures'] {
  const moments =
    cues.length === 0 ? [{ from: 0, cues }] : joinedCues(cues).map((cue) => ({ from: cue.from, cues: [cue] }));
  return (facts.clip ? moments : moments.slice(0, 1)).flatMap(({ from, cues: own }) => {
    const told = withTelemetry({ ...facts, frameSeconds: from }, { cues: own, seconds: from });
    const log2 = exposureOf({ take, facts: told }, rules);
    return typeof log2 === 'number' ? [{ from, log2 }] : [];
  });
}

function captionOf(
  take: { exposure: { shutter?: string | number; iso?: number }; setting?: { ringDegrees?: number; mark?: number } },
  facts: PictureFacts,
): string {
  const { shutter, iso } = take.exposure;
  const seconds = shutter === undefined ? facts.exposure.shutterSeconds : parseShutter(shutter);
  return [
    seconds && writeShutter(seconds),
    (iso ?? facts.exposure.iso) && `ISO ${iso ?? facts.exposure.iso}`,
    take.setting?.ringDegrees !== undefined && `ring ${take.setting.ringDegrees}°`,
    take.setting?.mark !== undefined && `mark ${take.setting.mark}`,
  ]
    .filter(Boolean)
    .join(', ');
}

export interface LaidOn {
  pose: Pose;
  /** A sentence where the picture could not be laid on bare: it is shown as it is. */
  problem: string | null;
  /** How far it had to be moved in the frame, pixels. */
  movedPx: number;
}

const poses = new Map<string, LaidOn>();
const posing = new OncePerKey<LaidOn>();
const MOST_POSES = 2000;

interface Moment {
  file: string;
  /** Seconds of a clip; its middle when left out. */
  at?: number;
}

/**
 * How a picture lies on another one of its scene. Throws NoSuchSession, RequestError, UnreadablePicture.
 *
 * @param asker aborts when who asked has gone
 */
export async function laidOn(sessionId: string, own: Moment, bare: Moment, asker?: AbortSignal): Promise<LaidOn> {
  const { files } = await loadSession(sessionId);
  const sha = [own, bare].map(({ file }) => files.get(file));
  if (!sha[0] || !sha[1]) throw new RequestError(404, 'These are not files of the session.');
  const [ownSha, bareSha] = sha;
  if (ownSha === bareSha && own.at === bare.at) return laidBy({ pose: IDENTITY });
  const key = `${ownSha} ${own.at} ${bareSha} ${bare.at}`;
  const known = poses.get(key);
  if (known) return known;
  const found = await posing.ask(key, (givenUp) => align(ownSha, own, bareSha, bare, givenUp), asker);
  poses.set(key, found);
  for (const old of poses.keys()) {
    if (poses.size <= MOST_POSES) break;
    poses.delete(old);
  }
  return found;
}

async function align(
  own: string,
  ownAt: Moment,
  other: string,
  otherAt: Moment,
  givenUp: AbortSignal,
): Promise<LaidOn> {
  const [name, bareName] = await Promise.all([nameOf(mediaPath(own), ownAt), nameOf(mediaPath(other), otherAt)]);
  return laidBy(await poseBeside({ sha256: own, name }, { sha256: other, name: bareName }, givenUp));
}

function laidBy(found: FoundPose): LaidOn {
  const pose = found.pose ?? IDENTITY;
  return { pose, problem: found.problem ?? null, movedPx: Math.hypot(pose.dx, pose.dy) };
}

/** How a picture lies on its scene's bare one, where that was found before. */
async function laidBefore(own: Moment & { sha256: string }, bare: (Moment & { sha256: string }) | undefined) {
  if (!bare) return null;
  if (bare.sha256 === own.sha256) return laidBy({ pose: IDENTITY });
  const found = await poseFound({ sha256: own.sha256, name: own.file }, { sha256: bare.sha256, name: bare.file });
  return found && laidBy(found);
}

/** A file's name as readers take it: with the frame that is shown at a clip's moment. */
async function nameOf(path: string, { file, at }: Moment): Promise<string> {
  return at !== undefined && isClip(file) ? `${file}#t=${(await frameTime(path, file, at)).toFixed(4)}` : file;
}
