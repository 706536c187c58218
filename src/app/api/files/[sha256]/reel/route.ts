import { z } from 'zod';
import { answer, fileAnswer, RequestError } from '@/server/http';
import { reelOf } from '@/store';

const partSchema = z.coerce.number().int().min(0).max(100_000);

/** A couple of seconds of a clip as small frames, to be played: `?part=0` (see `media/clips/reel`). */
export function GET(request: Request, { params }: { params: Promise<{ sha256: string }> }): Promise<Response> {
  return answer(async () => {
    const part = partSchema.safeParse(new URL(request.url).searchParams.get('part') ?? undefined);
    if (!part.success) throw new RequestError(400, 'Expected a part of the clip, counted from 0.');
    const path = await reelOf((await params).sha256, part.data, request.signal);
    return fileAnswer(path, 'application/octet-stream');
  });
}
