import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { answer, checkOrigin, RequestError } from '@/server/http';
import { storeStream } from '@/store';

const MOST_BYTES = 60_000_000;

/** Takes in a photo of a filter, the body as it is, `?name=` as people know it. Answers with its hash. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const name = new URL(request.url).searchParams.get('name') ?? 'photo.jpg';
    const bytes = Number(request.headers.get('content-length') ?? NaN);
    if (!request.body || !(bytes > 0)) throw new RequestError(400, 'Expected a picture.');
    if (bytes > MOST_BYTES) throw new RequestError(413, `${name} is larger than 60 MB; a smaller photo will do.`);
    const { sha256, facts } = await storeStream(Readable.fromWeb(request.body as ReadableStream), name, bytes);
    if (!facts.readable) throw new RequestError(422, `${name} can’t be shown: ${facts.reason}`);
    return Response.json({ sha256, name });
  });
}
