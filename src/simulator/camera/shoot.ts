/** A session shot by a stand-in camera: pictures or clips with its processing, in files as it writes them. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parseShutter } from '@/core/formulas/optics/exposure';
import sharp, { type Exif } from 'sharp';
import { renderTake } from '../bench';
import { planTakes } from '../plan';
import { writeClipOf } from '../clips';
import { clipName, describeSession, fileName, telemetryName } from '../session';
import type { BenchPlan, PlannedTake } from '../truth';
import { develop } from './develop';
import type { CameraProfile } from './profile';

/** A plan whose light is told as it falls on the sensor, noise and all, for a camera to develop. */
function linearPlan(plan: BenchPlan): BenchPlan {
  return { ...plan, camera: { ...plan.camera, response: 'linear', bitDepth: 16 } };
}

/** Extra bare pictures of the first scene, before all others, so many stops darker than bare: what a camera's curve is learned from. */
export function extraTakes(plan: BenchPlan, darker: readonly number[]): PlannedTake[] {
  const [bare] = planTakes(plan).filter((take) => take.filter === null && take.role === 'measure');
  return darker.map((stops, i) => {
    const denominator = 1 / (bare.shutterSeconds * 2 ** -stops);
    return {
      ...bare,
      id: `extra-${i + 1}`,
      role: 'bracket',
      minute: bare.minute - 0.2 * (darker.length - i),
      shutterSeconds: 1 / denominator,
      shutterText: `1/${denominator.toFixed(3)}`,
      repeats: 1,
    };
  });
}

/**
 * Writes the pictures or clips of a plan and the session that describes them into a folder. The session says nothing of the response: the
 * files tell sRGB.
 *
 * @param camera the same for all pictures, or one whose settings are changed between them
 * @param darker bare pictures beside the plan's own, stops
 * @returns paths of the pictures
 */
export async function shootSession(
  plan: BenchPlan,
  camera: CameraProfile | ((take: PlannedTake) => CameraProfile),
  folder: string,
  darker: readonly number[] = [],
  kit: Record<string, unknown> = { id: 'kit' },
): Promise<string[]> {
  await mkdir(folder, { recursive: true });
  const names: string[] = [];
  const profileOf = (take: PlannedTake) => (typeof camera === 'function' ? camera(take) : camera);
  const ending = profileOf(planTakes(plan)[0]).jpeg ? 'jpg' : 'png';
  const own = planTakes(plan);
  const more = extraTakes(plan, darker);
  for (const take of [...more, ...own]) {
    if (plan.clips) names.push(...(await filmDeveloped(plan, take, profileOf(take), folder)));
    else
      for (let i = 0; i < take.repeats; i++) {
        const name = fileName(take, i, ending);
        await writeDeveloped(plan, take, i, profileOf(take), join(folder, name));
        names.push(name);
      }
  }
  const session = describeSession(plan, kit, ending);
  const rig = { ...(session.rig as Record<string, unknown>), response: { kind: 'file' } };
  const started = Date.parse(plan.startedAt);
  const described = more.map((take) => ({
    id: take.id,
    filter: null,
    scene: take.scene,
    role: 'bracket',
    files: [plan.clips ? clipName(take) : fileName(take, 0, ending)],
    ...(plan.clips?.telemetry ? { telemetry: telemetryName(take) } : {}),
    capturedAt: new Date(started + take.minute * 60_000).toISOString(),
    exposure: { shutter: take.shutterText, iso: take.iso, fNumber: 2.8 },
    whiteBalance: 'daylight',
  }));
  const takes = [...described, ...(session.takes as unknown[])];
  await writeFile(join(folder, 'session.glade.json'), JSON.stringify({ ...session, rig, takes }, null, 2));
  return names;
}

/** One picture of a take as the camera draws it. */
function developed(plan: BenchPlan, take: PlannedTake, index: number, profile: CameraProfile, bitDepth: 8 | 16) {
  const { falloffStops } = plan.camera;
  return develop(
    renderTake(linearPlan(plan), take, index),
    profile,
    falloffStops,
    `${plan.seed}/${take.id}/${index}`,
    bitDepth,
  );
}

/** Films a take; the clip says that its curve is that of films. */
function filmDeveloped(plan: BenchPlan, take: PlannedTake, profile: CameraProfile, folder: string): Promise<string[]> {
  const tagged: BenchPlan = { ...plan, camera: { ...plan.camera, response: 'bt709' } };
  return writeClipOf(tagged, take, folder, (i) => developed(plan, take, i, { ...profile, filmed: true }, 16));
}

/** Renders, develops and writes one picture. */
export async function writeDeveloped(
  plan: BenchPlan,
  take: PlannedTake,
  index: number,
  profile: CameraProfile,
  path: string,
): Promise<void> {
  const { data, width, height } = developed(plan, take, index, profile, 8);
  const picture = sharp(data, { raw: { width, height, channels: 3 } });
  const encoded = profile.jpeg
    ? picture.jpeg({
        quality: profile.jpeg.quality,
        chromaSubsampling: profile.jpeg.halfColor ? '4:2:0' : '4:4:4',
      })
    : picture.png({ compressionLevel: 1 });
  await encoded.withExif(exifOf(take, plan, profile)).toFile(path);
}

/** Times are written as so many parts of a second. */
const PARTS = 1_000_000_000;

/** What a camera writes of a picture: exposure, time, settings. */
function exifOf(take: PlannedTake, plan: BenchPlan, { settings = {} }: CameraProfile): Exif {
  const { make, model, rendered, contrast, saturation, sharpness } = settings;
  const at = new Date(Date.parse(plan.startedAt) + take.minute * 60_000).toISOString();
  const tags = {
    ColorSpace: 1,
    ExposureTime: `${Math.round(parseShutter(take.shutterText)! * PARTS)}/${PARTS}`,
    FNumber: '28/10',
    ISOSpeedRatings: take.iso,
    DateTimeOriginal: at.slice(0, 19).replace(/-/g, ':').replace('T', ' '),
    OffsetTimeOriginal: '+00:00',
    CustomRendered: rendered,
    Contrast: contrast,
    Saturation: saturation,
    Sharpness: sharpness,
  };
  return { IFD0: written({ Make: make, Model: model }), IFD2: written(tags) };
}

const written = (tags: Record<string, string | number | undefined>) =>
  Object.fromEntries(
    Object.entries(tags).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]])),
  );
