/** A camera's check: which pictures it takes, and the session that they make. */
import { z } from 'zod';
import { shutterMark } from '../../formulas/optics/exposure';
import type { CameraCheck } from '../../session/cameraCheck';
import type { ArrivedFile } from '../intake/arrived';
import { factsOf } from '../intake/arrived';

/** What a check's picture shows. */
export type CheckScene = 'surface' | 'edge';

/**
 * Stops below the brightest exposure: of the even surface, darker and back again between those, so that a bend between whole stops is
 * seen, and at the first once more, which tells whether the light drifted; then of the edge.
 */
export const CHECK_STOPS: Readonly<Record<CheckScene, readonly number[]>> = {
  surface: [...[0, 1, 2, 3, 4, 5, 6, 7, 8], ...[7, 6, 5, 4, 3, 2, 1, 0].map((stops) => stops + 2 / 3), 0],
  edge: [0, 1, 3, 5],
};

/** Fewest pictures of the surface that a curve can be told from. */
const FEWEST = 4;
/** Pictures of an edge that tone is told by. */
const FEWEST_EDGES = 2;
/** Their exposures must span so many stops. */
const LEAST_SPAN = 2;

/** Shutters of the pictures in the order in which they are shot, seconds. */
export function checkExposures(brightest: number): { scene: CheckScene; seconds: number }[] {
  const list = (['surface', 'edge'] as const).flatMap((scene) => CHECK_STOPS[scene].map((stops) => ({ scene, stops })));
  return list.map(({ scene, stops }) => ({ scene, seconds: shutterMark(brightest * 2 ** -stops) }));
}

/** A picture that was dropped for a check. */
export interface CheckPicture {
  scene: CheckScene;
  file: ArrivedFile;
}

/** What pictures of a check lack, one sentence each; empty where it can be worked out. */
export function missingInCheck(pictures: readonly CheckPicture[]): string[] {
  const missing: string[] = [];
  const unread = pictures.filter(({ file }) => !file.stored.facts.readable);
  for (const { file } of unread) missing.push(`${file.path} can’t be read as a picture: take it out.`);
  const readable = pictures.filter((one) => !unread.includes(one));
  const silent = readable.filter(({ file }) => !isExposed(file));
  if (silent.length > 0)
    missing.push(
      `${silent.map(({ file }) => file.path).join(', ')}: the file tells no shutter and ISO. A check needs files as the camera wrote them.`,
    );
  const surface = readable.filter(({ scene, file }) => scene === 'surface' && isExposed(file));
  if (surface.length < FEWEST)
    missing.push(`Drop the ${CHECK_STOPS.surface.length} pictures of the even surface; ${FEWEST} at least.`);
  else if (spanOf(surface) < LEAST_SPAN)
    missing.push('The exposures of the even surface lie within two stops: shoot it darker, down to eight stops.');
  if (readable.filter(({ scene, file }) => scene === 'edge' && isExposed(file)).length < FEWEST_EDGES)
    missing.push(
      'Drop pictures of an edge or chart at two exposures or more: only they show whether tone follows the picture.',
    );
  const models = new Set(readable.flatMap(({ file }) => factsOf(file).encoding.settings?.model ?? []));
  if (models.size > 1) missing.push(`These pictures are of several cameras: ${[...models].join(', ')}.`);
  return missing;
}

const isExposed = (file: ArrivedFile) => {
  const { exposure } = factsOf(file);
  return exposure.shutterSeconds !== undefined && exposure.iso !== undefined;
};

function spanOf(pictures: readonly CheckPicture[]): number {
  const exposures = pictures.map(({ file }) => {
    const { shutterSeconds = 1, iso = 100 } = factsOf(file).exposure;
    return Math.log2(shutterSeconds * iso);
  });
  return Math.max(...exposures) - Math.min(...exposures);
}

const checkedProfileSchema = z.object({ rig: z.string(), profile: z.number() });

/** Which profile of which rig a series of bare pictures checks. */
export type CheckedProfile = z.infer<typeof checkedProfileSchema>;

/** The profile that a session checks; `null` for every other session. */
export function checkedProfileOf(session: Record<string, unknown>): CheckedProfile | null {
  return checkedProfileSchema.safeParse(session.checkOf).data ?? null;
}

/**
 * The session of a check's pictures: bare takes alone, whole frames looked at.
 *
 * @param title in the list of sessions
 */
export function sessionOfCheck(
  pictures: readonly CheckPicture[],
  title: string,
  rig: { id: string; camera: string },
  profile: number,
): Record<string, unknown> {
  const scenes = (['surface', 'edge'] as const).filter((scene) => pictures.some((one) => one.scene === scene));
  const rect = { x: 0, y: 0, width: 1, height: 1 };
  const hasApertures = pictures.every(({ file }) => factsOf(file).exposure.fNumber !== undefined);
  return {
    format: 'aurora-glade-session',
    version: 1,
    title,
    checkOf: { rig: rig.id, profile } satisfies CheckedProfile,
    rig: { camera: rig.camera, aperture: hasApertures ? 'variable' : 'fixed', response: { kind: 'file' } },
    kits: [],
    scenes: scenes.map((scene) => ({ id: scene, kind: scene === 'surface' ? 'flat' : 'chart' })),
    patches: scenes.map((scene) => ({ id: scene, scene, role: scene === 'surface' ? 'field' : 'neutral', rect })),
    takes: pictures.map(({ scene, file }, i) => ({
      id: `${scene}-${i + 1}`,
      filter: null,
      scene,
      role: 'bracket',
      files: [file.path],
      exposure: {},
      ...(factsOf(file).capturedAt ? { capturedAt: factsOf(file).capturedAt } : {}),
    })),
  };
}

/** Largest difference between two checks' curves over the codes that both reached, stops; `null` where they share none. */
export function changeSince(before: CameraCheck, now: CameraCheck): { stops: number; u95: number } | null {
  const pointAt = ({ curve }: CameraCheck, code: number) => curve.find((one) => Math.abs(one.code - code) < 1e-6);
  const reached = ({ noise }: CameraCheck) => noise.map(({ code }) => code / 255);
  const [low, high] = [
    Math.max(Math.min(...reached(before)), Math.min(...reached(now))),
    Math.min(Math.max(...reached(before)), Math.max(...reached(now))),
  ];
  const shared = now.curve.flatMap(({ code, light, u95 }) => {
    const other = pointAt(before, code);
    return other && code >= low && code <= high
      ? [{ apart: light[1] - other.light[1], u95: Math.hypot(u95, other.u95) }]
      : [];
  });
  if (shared.length < 2) return null;
  // Both are told against their middle code: what all codes share is only how bright full scale is.
  const middle = shared[shared.length >> 1].apart;
  return shared
    .map(({ apart, u95 }) => ({ stops: Math.abs(apart - middle), u95 }))
    .reduce((most, one) => (one.stops > most.stops ? one : most));
}
