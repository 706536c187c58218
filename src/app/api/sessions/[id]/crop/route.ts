import { z } from 'zod';
import { answer, RequestError } from '@/server/http';
import { cropOf } from '@/server/looking';

const pixels = z.coerce.number().int().min(0).max(1e6);
const query = z.object({ file: z.string(), x: pixels, y: pixels, width: pixels, height: pixels });

/** A part of a picture at its own pixels, levelled: `?file=a.tif&x=100&y=80&width=120&height=200`. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!asked.success) throw new RequestError(400, 'Expected a file and a rectangle in pixels.');
    const { file, ...rect } = asked.data;
    const png = await cropOf((await params).id, file, rect);
    return new Response(new Uint8Array(png), {
      headers: { 'content-type': 'image/png', 'cache-control': 'private, max-age=3600' },
    });
  });
}
