/**
 * Resumable uploads by the tus protocol: `POST /api/uploads` opens one, `PATCH` adds to it, `HEAD` tells how far it is. What is complete is
 * taken in with `POST /api/files`.
 */
import { randomUUID } from 'node:crypto';
import { mkdir } from 'node:fs/promises';
import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import { answer, checkOrigin } from '@/server/http';
import { checkRoom, MediaError, purgeUploads, uploadFolder } from '@/store';

const MOST_BYTES = 500_000_000_000;

let server: Promise<Server> | null = null;

async function start(): Promise<Server> {
  const directory = uploadFolder();
  await mkdir(directory, { recursive: true });
  await purgeUploads();
  return new Server({
    path: '/api/uploads',
    datastore: new FileStore({ directory }),
    maxSize: MOST_BYTES,
    relativeLocation: true,
    namingFunction: () => randomUUID(),
    async onUploadCreate(_request, { size, metadata }) {
      try {
        await checkRoom(size ?? 0, metadata?.filename ?? 'the file');
      } catch (error) {
        if (!(error instanceof MediaError)) throw error;
        // The protocol's own way of refusing: thrown, with a status and a text.
        throw { status_code: 507, body: error.message };
      }
      return {};
    },
  });
}

function handle(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    server ??= start();
    return (await server).handleWeb(request);
  });
}

export { handle as DELETE, handle as HEAD, handle as OPTIONS, handle as PATCH, handle as POST };
