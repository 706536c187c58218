import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
import { parseSessionText } from '@/core/session/parse';
import { BundleError, readSessionFile, SESSION_FILE, unpackBundle } from '@/media/bundle';
import { createSession, forgetUpload, openUpload, readConfig, storeFile } from '@/store';

const body = z.object({ upload: z.string() });

/** Makes a session of a complete upload that is a `.glade.zip`. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const sent = await sentTo(request, body, 'Expected {"upload": id}.');
    const { path: zip } = await openUpload(sent.upload);
    const incoming = join(readConfig().mediaFolder, 'incoming');
    await mkdir(incoming, { recursive: true });
    const folder = await mkdtemp(join(incoming, 'bundle-'));
    try {
      const names = await unpackBundle(zip, join(folder, 'content'));
      if (!names.includes(SESSION_FILE)) throw new BundleError(`The bundle has no ${SESSION_FILE} at its root.`);
      const text = await readSessionFile(join(folder, 'content', SESSION_FILE));
      parseSessionText(text);
      const files = new Map<string, string>();
      for (const path of names.filter((one) => one !== SESSION_FILE))
        files.set(path, (await storeFile(join(folder, 'content', path), path)).sha256);
      return Response.json({ id: await createSession(JSON.parse(text.replace(/^\uFEFF/, '')), files) });
    } finally {
      await rm(folder, { recursive: true, force: true });
      await forgetUpload(sent.upload);
    }
  });
}
