import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
import { addToInbox, rendition, takeUpload } from '@/store';

const body = z.object({ upload: z.string(), waits: z.boolean().default(false) });

/**
 * Takes in a complete upload: it is hashed, stored once, and read. `waits` enters it among the files that wait to be laid on takes.
 * Only after this answer may the sender forget the file; asked twice, it answers the same.
 */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const sent = await sentTo(request, body, 'Expected {"upload": id}.');
    const { name, ...stored } = await takeUpload(sent.upload);
    if (sent.waits) await addToInbox(name, stored.sha256, 'drop');
    // The small view is made in the background: it is what is looked at first.
    if (stored.facts.readable) rendition(stored.sha256, 320, { kind: 'file' }).catch(() => undefined);
    return Response.json(stored);
  });
}
