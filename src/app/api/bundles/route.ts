import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { answer, RequestError, uploadOf } from '@/app/server/http';
import { parseSessionText } from '@/core/session';
import { BundleError, SESSION_FILE, unpackBundle } from '@/media/bundle';
import { createSession, readConfig, storeFile } from '@/store';

/** Takes in a `.glade.zip` as a raw body and makes its session. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { stream, bytes, name } = uploadOf(request);
    const incoming = join(readConfig().mediaFolder, 'incoming');
    await mkdir(incoming, { recursive: true });
    const folder = await mkdtemp(join(incoming, 'bundle-'));
    try {
      const zip = join(folder, 'upload.zip');
      let received = 0;
      stream.on('data', (chunk: Buffer) => (received += chunk.length));
      await pipeline(stream, createWriteStream(zip));
      if (bytes !== undefined && received !== bytes)
        throw new RequestError(400, `${name} arrived incomplete; drop it again.`);
      const names = await unpackBundle(zip, join(folder, 'content'));
      if (!names.includes(SESSION_FILE)) throw new BundleError(`The bundle has no ${SESSION_FILE} at its root.`);
      const text = await readFile(join(folder, 'content', SESSION_FILE), 'utf8');
      parseSessionText(text);
      const files = new Map<string, string>();
      for (const path of names.filter((one) => one !== SESSION_FILE))
        files.set(path, (await storeFile(join(folder, 'content', path), path)).sha256);
      return Response.json({ id: await createSession(JSON.parse(text.replace(/^\uFEFF/, '')), files) });
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });
}
