/** Pictures for looking at closely, made when they are first looked at and kept like other views. */
import { spawn } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { REEL_SECONDS, type Pyramid } from '@/core/viewing/pyramid';
import type { Pose } from '@/core/laying/align';
import type { Response } from '@/core/session/schema';
import type { PictureFacts } from '@/core/reading/facts';
import { frameTime, writeReel } from '@/media/clips/reel';
import { readPyramid } from '@/media/pyramid';
import { store } from './database';
import { madeOnce, renditionPath } from './renditions';
import { MediaError, mediaPath, type StoredFacts } from './media';
import { NewestFirst } from './turns';

/** Made at a time: each may hold a large picture. */
const making = new NewestFirst(2);

/**
 * Path of a stored picture's pyramid (see `media/pyramid`). Throws MediaError.
 *
 * @param moment seconds of a clip; its middle when left out
 * @param asker aborts when who asked has gone
 */
export async function pyramidOf(
  sha256: string,
  response: Response,
  moment?: number,
  asker?: AbortSignal,
): Promise<string> {
  const picture = await pictureOf(sha256);
  const time = moment === undefined || !picture.clip ? null : await timeShown(sha256, moment);
  const frame = time === null ? '' : `#t=${time.toFixed(4)}`;
  const target = pyramidPath(sha256, response, frame.replace('#t=', '-'));
  const name = picture.clip ? `view.mp4${frame}` : picture.raw ? 'view.dng' : 'view';
  const given = [mediaPath(sha256), name, target, JSON.stringify(picture), JSON.stringify(response)];
  return madeOnce(target, (givenUp) => making.add(() => make(given), givenUp), asker);
}

/** What a stored picture's pyramid (of a clip its middle's) holds, where it is made already; else `null`. */
export async function pyramidMade(sha256: string, response: Response): Promise<Pyramid | null> {
  return readPyramid(pyramidPath(sha256, response, '')).catch(() => null);
}

function pyramidPath(sha256: string, response: Response, frame: string): string {
  const how = createHash('sha256').update(JSON.stringify(response)).digest('hex').slice(0, 10);
  return renditionPath(sha256, `tiles-${how}${frame}`);
}

/** Path of a couple of seconds of a stored clip (see `media/clips/reel`). Throws MediaError or UnreadablePicture. */
export async function reelOf(sha256: string, part: number, asker?: AbortSignal): Promise<string> {
  const { clip } = await pictureOf(sha256);
  if (!clip) throw new MediaError('That file is no clip.');
  if (part * REEL_SECONDS >= clip.seconds)
    throw new MediaError(`The clip ends after ${clip.seconds.toFixed(1)} seconds.`);
  const target = renditionPath(sha256, `reel-${part}`);
  const make = () => writeReel(mediaPath(sha256), 'view.mp4', target, part);
  return madeOnce(target, (givenUp) => making.add(make, givenUp), asker);
}

async function pictureOf(sha256: string): Promise<PictureFacts> {
  const file = await store().models.File.findByPk(sha256);
  if (!file) throw new MediaError('There is no such file.');
  const facts = file.facts as unknown as StoredFacts;
  if (!facts.readable) throw new MediaError(facts.reason);
  return facts.picture;
}

const times = new Map<string, Promise<number>>();
const MOST_TIMES = 5000;

/** Time of the frame that is on the screen at a moment of a stored clip. */
async function timeShown(sha256: string, moment: number): Promise<number> {
  const key = `${sha256} ${moment}`;
  const found = times.get(key) ?? frameTime(mediaPath(sha256), 'view.mp4', moment);
  times.set(key, found);
  found.catch(() => times.delete(key));
  if (times.size > MOST_TIMES) times.delete([...times.keys()][0]);
  return found;
}

async function make(given: string[]): Promise<void> {
  await beside('pyramid.mjs', given, 'No close view of it can be made');
}

/** Poses found at a time: one leaves the other core to the page that waits. */
const posing = new NewestFirst(1);

export interface FoundPose {
  pose?: Pose;
  problem?: string;
}

/** A stored file, and its name as readers take it: of a clip with the frame. */
interface Named {
  sha256: string;
  name: string;
}

/** Counts what is found otherwise than before. */
const POSE = 1;

/** How a picture lies on another one (see `media/poseMain`). Found once and kept, but for frames of clips that play. Throws MediaError. */
export async function poseBeside(own: Named, other: Named, givenUp?: AbortSignal): Promise<FoundPose> {
  const given = [own, other].flatMap(({ sha256, name }) => [mediaPath(sha256), name]);
  const find = () => posing.add(() => beside('pose.mjs', given, 'How it lies on bare can’t be told'), givenUp);
  if ([own, other].some(({ name }) => name.includes('#t='))) return JSON.parse(await find()) as FoundPose;
  const target = posePath(own, other);
  const path = await madeOnce(target, async () => {
    const text = await find();
    await mkdir(dirname(target), { recursive: true });
    const part = `${target}.${randomUUID()}`;
    await writeFile(part, text);
    await rename(part, target);
  });
  return JSON.parse(await readFile(path, 'utf8')) as FoundPose;
}

/** How a picture lies on another one where that was found before; else `null`. */
export async function poseFound(own: Named, other: Named): Promise<FoundPose | null> {
  return readFile(posePath(own, other), 'utf8').then(
    (text) => JSON.parse(text) as FoundPose,
    () => null,
  );
}

const posePath = (own: Named, other: Named) =>
  renditionPath(own.sha256, `pose-${POSE}-${other.sha256.slice(0, 16)}.json`);

/** Runs one of our own small programs beside the server; gives what it wrote. Rejects with MediaError. */
function beside(program: string, given: string[], trouble: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [join(process.cwd(), 'dist', program), ...given], {
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let [out, said] = ['', ''];
    child.stdout.on('data', (part: Buffer) => (out += part.toString()));
    child.stderr.on('data', (part: Buffer) => (said += part.toString()));
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve(out) : reject(new MediaError(`${trouble}: ${said.trim().split('\n').pop() || 'it ended.'}`)),
    );
  });
}
