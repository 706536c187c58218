import { Readable } from 'node:stream';
import { attachment, downloadName } from '@/server/downloads';
import { answer } from '@/server/http';
import { packBundle } from '@/media/bundle';
import { loadSession, mediaPath } from '@/store';

/** The session with its media as a `.glade.zip`. */
export function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const { session, document, files } = await loadSession((await params).id);
    const media = [...files].map(([name, sha256]) => ({ name, path: mediaPath(sha256) }));
    const stream = packBundle(`${JSON.stringify(document, null, 2)}\n`, media);
    return new Response(Readable.toWeb(stream as Readable) as unknown as BodyInit, {
      headers: attachment(downloadName(session.title, '.glade.zip'), 'application/zip'),
    });
  });
}
