import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { answer, RequestError } from '@/app/server/http';
import { stripOf } from '@/store';

/** A clip's moments side by side, for scrubbing. */
export function GET(_request: Request, { params }: { params: Promise<{ sha256: string }> }): Promise<Response> {
  return answer(async () => {
    const path = await stripOf((await params).sha256);
    if (path === null) throw new RequestError(404, 'That file has no strip.');
    const { size } = await stat(path);
    return new Response(Readable.toWeb(createReadStream(path)) as unknown as BodyInit, {
      headers: {
        'content-type': 'image/jpeg',
        'content-length': String(size),
        'cache-control': 'private, max-age=31536000, immutable',
      },
    });
  });
}
