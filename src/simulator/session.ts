/** From a bench plan to a session: the file that describes it, and a source of pictures that renders on demand. */
import type { Session } from '@/core/session/schema';
import { parseSession } from '@/core/session/parse';
import type { PictureSource } from '@/core/reading/source';
import type { PictureFacts } from '@/core/reading/facts';
import type { Preview } from '@/core/laying/preview';
import type { Picture } from '@/core/reading/window';
import { edgeRects, FLARE_RECTS, NEUTRAL_RECT, renderTake } from './bench';
import { spoiledOf } from './spoiled';
import { planTakes } from './plan';
import { SCREEN_RECT, SKY_RECTS, WATER_RECTS } from './polarized';
import type { BenchPlan, PlannedTake, SimulatedScene } from './truth';

/** File name of one picture of a take. */
export function fileName(take: PlannedTake, index: number, ending = 'tif'): string {
  return `${take.id}${take.repeats > 1 ? `-${index + 1}` : ''}.${ending}`;
}

/** File names of a take that is filmed, and of its telemetry. */
export const clipName = (take: PlannedTake) => `${take.id}.mp4`;
export const telemetryName = (take: PlannedTake) => `${take.id}.srt`;

/** Scenes whose kind isn't their name. */
const KINDS: Partial<Record<SimulatedScene, string>> = { 'flat-long': 'flat', turn: 'sky' };

/** The session of a plan, as plain JSON of the session format. */
export function describeSession(
  plan: BenchPlan,
  kit: Record<string, unknown>,
  ending = 'tif',
): Record<string, unknown> {
  const started = Date.parse(plan.startedAt);
  const { response } = plan.camera;
  return {
    format: 'aurora-glade-session',
    version: 1,
    title: plan.title,
    rig: {
      camera: 'Bench rig',
      lens: 'wide',
      aperture: 'fixed',
      response: plan.bracket
        ? { kind: 'bracket' }
        : typeof response === 'string'
          ? { kind: plan.clips ? 'file' : response }
          : { kind: 'gamma', gamma: response.gamma },
      colorSpace: 'srgb',
      shutterMarks: 'exact',
      baseIso: 100,
    },
    kits: [{ ...kit, filters: plan.filters.map(definitionOf) }],
    scenes: plan.scenes.map((scene) => ({
      id: scene,
      kind: KINDS[scene] ?? scene,
      ...opticsOf(scene, plan),
    })),
    takes: planTakes(plan).map((take) => ({
      id: take.id,
      filter: take.filter?.id ?? null,
      scene: take.scene,
      ...(take.role === 'measure' ? {} : { role: take.role }),
      ...(take.scene === 'turn' ? { turn: { fromDegrees: 0, toDegrees: 360 } } : {}),
      ...(take.setting ? { setting: notedSetting(plan, take) } : {}),
      files: plan.clips ? [clipName(take)] : Array.from({ length: take.repeats }, (_, i) => fileName(take, i, ending)),
      ...(plan.clips?.telemetry ? { telemetry: telemetryName(take) } : {}),
      capturedAt: new Date(started + take.minute * 60000).toISOString(),
      ...(plan.clips?.telemetry ? {} : { exposure: { shutter: take.shutterText, iso: take.iso, fNumber: 2.8 } }),
      whiteBalance: 'daylight',
    })),
    patches: plan.scenes.flatMap((scene) => patchesOf(scene, plan)),
  };
}

/** What was written down of the ring; JSON leaves out what is undefined. */
function notedSetting(plan: BenchPlan, take: PlannedTake) {
  const { ringDegrees, mark } = take.setting!;
  return { ringDegrees: spoiledOf(plan, take, 0).notedDegrees ?? ringDegrees, mark };
}

function opticsOf(scene: SimulatedScene, { polarization, optics }: BenchPlan): { optics?: Record<string, unknown> } {
  if (scene === 'screen') return { optics: { screenDegrees: polarization?.lightDegrees ?? 0 } };
  return optics?.[scene] ? { optics: optics[scene] } : {};
}

function patchesOf(scene: SimulatedScene, { width, height }: BenchPlan): Record<string, unknown>[] {
  if (scene === 'flat' || scene === 'flat-long')
    return [
      { id: scene === 'flat' ? 'wall' : 'wall-long', scene, role: 'field', rect: { x: 0, y: 0, width: 1, height: 1 } },
    ];
  // An outdoor scene without patches is measured over its whole frame.
  if (scene === 'outdoor') return [];
  if (scene === 'screen') return [{ id: 'screen', scene, role: 'neutral', rect: SCREEN_RECT }];
  if (scene === 'water')
    return [
      { id: 'puddle', scene, role: 'glare', rect: WATER_RECTS.glare },
      { id: 'stone', scene, role: 'reference', rect: WATER_RECTS.reference },
      { id: 'leaves', scene, role: 'color', rect: WATER_RECTS.leaves },
      { id: 'paint', scene, role: 'color', rect: WATER_RECTS.paint },
    ];
  if (scene === 'turn')
    return [
      { id: 'turn-sky', scene, role: 'sky', rect: SKY_RECTS.near },
      { id: 'turn-ground', scene, role: 'reference', rect: SKY_RECTS.reference },
    ];
  if (scene === 'sky')
    return [
      { id: 'sky-across', scene, role: 'sky', rect: SKY_RECTS.near },
      { id: 'sky-aside', scene, role: 'sky', rect: SKY_RECTS.far },
      { id: 'wall-below', scene, role: 'reference', rect: SKY_RECTS.reference },
    ];
  if (scene === 'flare')
    return [
      { id: 'trap', scene, role: 'black', rect: FLARE_RECTS.black },
      { id: 'card', scene, role: 'neutral', rect: FLARE_RECTS.neutral },
    ];
  return [
    { id: 'gray', scene, role: 'neutral', rect: NEUTRAL_RECT },
    ...edgeRects(width, height).map(({ id, rect }) => ({ id, scene, role: 'edge', rect })),
  ];
}

/**
 * A session and a source that renders its pictures, windows only, with nothing on disk.
 *
 * @param viewOf makes a view of a whole picture; with it pictures are rendered whole too, so that a camera that moved can be told
 */
export function simulateSession(
  plan: BenchPlan,
  viewOf?: (picture: Picture) => Preview,
): { session: Session; source: PictureSource } {
  const session = parseSession(describeSession(plan, { id: 'kit', name: 'Simulated kit' }));
  const shots = new Map(
    planTakes(plan).flatMap((take) =>
      Array.from({ length: take.repeats }, (_, i) => [fileName(take, i), { take, i }] as const),
    ),
  );
  const facts: PictureFacts = {
    width: plan.width,
    height: plan.height,
    channels: 3,
    bitDepth: plan.camera.bitDepth,
    encoding: { transfer: null, source: null, toXyz: null, profile: null },
    exposure: {},
    capturedAt: null,
    whiteBalance: null,
  };
  const source: PictureSource = {
    async open(file) {
      const shot = shots.get(file);
      if (!shot) throw new Error(`no take renders ${file}`);
      const spoiled = spoiledOf(plan, shot.take, shot.i);
      const shutterSeconds = shot.take.shutterSeconds * 2 ** (spoiled.exposureStops ?? 0);
      const own: PictureFacts = {
        ...facts,
        exposure: spoiled.exposureStops === undefined ? {} : { shutterSeconds, iso: shot.take.iso },
        whiteBalance: spoiled.whiteBalance ?? null,
      };
      return {
        facts: own,
        preview: viewOf?.(renderTake(plan, shot.take, shot.i)) ?? null,
        windows: async (rects) => rects.map((rect) => renderTake(plan, shot.take, shot.i, rect)),
        close: () => undefined,
      };
    },
    async readText() {
      throw new Error('a simulated session has no other files');
    },
  };
  return { session, source };
}

/** A filter as its kit tells it: nothing of its truth. */
const definitionOf = ({ id, name, kind, nominal, serial }: BenchPlan['filters'][number]) => ({
  ...{ id, name, kind, nominal },
  ...(serial === undefined ? {} : { serial }),
});
