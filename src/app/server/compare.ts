/** What the viewing room shows: pictures of a session with their exposures, strengths and gains, and how they lie on bare. */
import { keepLuminance, levelling, toScreen, whiteOf, type Levelling } from '@/core/compare';
import { luminanceRow, resolveColorSpace } from '@/core/color';
import { apertureCounts, exposureOf } from '@/core/gather';
import { parseShutter, writeShutter } from '@/core/exposure';
import { responseAtHand } from '@/core/light';
import { alignPreviews, IDENTITY, judgeView, type Pose } from '@/core/registration';
import type { Preview } from '@/core/registration';
import { POLARIZED_SCENES, type Response } from '@/core/session';
import type { PictureFacts } from '@/core/source';
import { readMedia } from '@/media/files';
import { latestReadings, loadSession, mediaPath, storedFiles } from '@/store';
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
  /** As shot, raised by the strength, by the strength and the channels' gains. `null` where nothing was measured or an exposure isn't known. */
  level: Levelling | null;
  channels: Levelling | null;
  /** What was measured, for captions and the end of blind viewing. */
  found: { stops: number; deltaE00: number; kept: number | null } | null;
}

export interface ComparedSession {
  id: string;
  title: string;
  pictures: ComparedPicture[];
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
  const usesAperture = apertureCounts(shots, session);
  const exposures = shots.map((shot) => exposureOf(shot, session, usesAperture));
  const space = resolveColorSpace(session.rig.colorSpace);
  const luminance = luminanceRow(space);
  const filters = session.kits.flatMap((kit) => kit.filters);
  const pictures = shots.map(({ take, file, sha256, facts }, i): ComparedPicture => {
    const bareAt = shots.findIndex((one) => one.take.scene === take.scene && one.take.filter === null);
    const [own, bare] = [exposures[i], exposures[bareAt]];
    const exposure = typeof own === 'number' && typeof bare === 'number' ? { take: own, bare } : null;
    const found = readings?.readings.filters.find((one) => one.filter === take.filter);
    const scene = session.scenes.find((one) => one.id === take.scene);
    // Before polarized light a picture is as dark as its ring says: no one strength levels it.
    const levels = take.filter === null || !POLARIZED_SCENES.has(scene?.kind ?? '');
    const stops = take.filter === null ? 0 : found?.density?.stops.value;
    const gains = found?.cast?.gains;
    // Where an exposure isn't known, what the picture should be raised by would be a guess.
    const level = levels && stops !== undefined && exposure ? levelling(stops, exposure) : null;
    return {
      file,
      sha256,
      take: take.id,
      scene: take.scene,
      filter: take.filter,
      name: take.filter === null ? 'bare' : (filters.find((one) => one.id === take.filter)?.name ?? take.filter),
      caption: captionOf(take, facts),
      frame: { width: facts.width, height: facts.height },
      response: responseAtHand(session.rig.response, facts.encoding),
      white: whiteOf(session.rig.response, facts.encoding),
      level,
      channels:
        take.filter === null
          ? level
          : level && gains && stops !== undefined && exposure
            ? levelling(stops, exposure, keepLuminance(gains, [luminance[0], luminance[1], luminance[2]]))
            : null,
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
  return { id, title: session.title, pictures, toScreen: [...toScreen(space)], luminance: [...luminance] };
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

const poses = new Map<string, Promise<LaidOn>>();
const MOST_POSES = 2000;

/** How a picture lies on another one of its scene. Throws NoSuchSession, RequestError, UnreadablePicture. */
export async function laidOn(sessionId: string, file: string, bare: string): Promise<LaidOn> {
  const { files } = await loadSession(sessionId);
  const [own, other] = [files.get(file), files.get(bare)];
  if (!own || !other) throw new RequestError(404, 'These are not files of the session.');
  const key = `${own} ${other}`;
  let found = poses.get(key);
  if (!found) {
    found =
      own === other ? Promise.resolve({ pose: IDENTITY, problem: null, movedPx: 0 }) : align(own, file, other, bare);
    poses.set(key, found);
    found.catch(() => poses.delete(key));
    for (const old of poses.keys()) {
      if (poses.size <= MOST_POSES) break;
      poses.delete(old);
    }
  }
  return found;
}

async function align(own: string, file: string, other: string, bare: string): Promise<LaidOn> {
  const [take, reference] = await Promise.all([previewOf(own, file), previewOf(other, bare)]);
  const as = (problem: string): LaidOn => ({ pose: IDENTITY, problem, movedPx: 0 });
  if (!take.preview || !reference.preview) return as('There is no small view to lay it by.');
  if (take.width !== reference.width || take.height !== reference.height)
    return as('Its frame has another size than bare’s.');
  const alignment = alignPreviews(reference.preview, take.preview);
  const state = judgeView(alignment, reference);
  if (state.kind === 'same') return { pose: IDENTITY, problem: null, movedPx: 0 };
  if (state.kind !== 'moved') return as(`It is shown where it stands: ${state.words}.`);
  return { pose: state.pose, problem: null, movedPx: Math.hypot(state.pose.dx, state.pose.dy) };
}

async function previewOf(
  sha256: string,
  name: string,
): Promise<{ preview: Preview | null; width: number; height: number }> {
  let preview: Preview | null = null;
  const { facts } = await readMedia(mediaPath(sha256), name, (_, found) => {
    preview = found;
    return [];
  });
  return { preview, width: facts.width, height: facts.height };
}
