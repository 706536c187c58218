/** Pictures for looking at closely, made when they are first looked at and kept like other views. */
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import type { Response } from '@/core/session';
import { readConfig } from './config';
import { store } from './database';
import { madeOnce } from './renditions';
import { MediaError, mediaPath, type StoredFacts } from './media';

/** Pyramids made at a time: each may hold a large picture. */
const SIDE_BY_SIDE = 2;
let running = 0;
const waiting: (() => void)[] = [];

/** Path of a stored picture's pyramid (see `media/pyramid`); a clip shows its middle. Throws MediaError. */
export async function pyramidOf(sha256: string, response: Response): Promise<string> {
  const how = createHash('sha256').update(JSON.stringify(response)).digest('hex').slice(0, 10);
  const target = join(readConfig().renditionFolder, sha256.slice(0, 2), `${sha256}-tiles-${how}`);
  return madeOnce(target, async () => {
    const file = await store().models.File.findByPk(sha256);
    if (!file) throw new MediaError('There is no such file.');
    const facts = file.facts as unknown as StoredFacts;
    if (!facts.readable) throw new MediaError(facts.reason);
    const { clip, raw } = facts.picture;
    const name = clip ? 'view.mp4' : raw ? 'view.dng' : 'view';
    if (running >= SIDE_BY_SIDE) await new Promise<void>((resolve) => waiting.push(resolve));
    else running++;
    try {
      await make([mediaPath(sha256), name, target, JSON.stringify(facts.picture), JSON.stringify(response)]);
    } finally {
      const next = waiting.shift();
      if (next) next();
      else running--;
    }
  });
}

function make(given: string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [join(process.cwd(), 'dist', 'pyramid.mjs'), ...given], {
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    let text = '';
    child.stderr.on('data', (part: Buffer) => (text += part.toString()));
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0
        ? resolve()
        : reject(new MediaError(`No close view of it can be made: ${text.trim().split('\n').pop() || 'it ended.'}`)),
    );
  });
}
