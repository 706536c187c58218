import { z } from 'zod';
import { answer, RequestError, responseOf } from '@/server/http';
import { readPyramid, readTile } from '@/media/pyramid';
import { pyramidOf } from '@/store';

const count = z.coerce.number().int().min(0).max(100_000);
const query = z.object({
  response: z.string(),
  level: count.optional(),
  column: count.optional(),
  row: count.optional(),
  at: z.coerce.number().min(0).max(1_000_000).optional(),
});

type Props = { params: Promise<{ sha256: string }> };

/** Tiles of linear light: without a place what there is (JSON), with `level`, `column` and `row` one tile (half floats); of a clip the frame that is shown at `at` seconds. */
export function GET(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    const asked = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!asked.success)
      throw new RequestError(400, 'Expected a response, and a tile’s level, column and row, and a clip’s moment.');
    const { response, level, column, row, at } = asked.data;
    const path = await pyramidOf((await params).sha256, responseOf(response), at, request.signal);
    if (level === undefined) return Response.json(await readPyramid(path));
    const tile = await readTile(path, level, column ?? 0, row ?? 0);
    if (!tile) throw new RequestError(404, 'There is no such tile.');
    return new Response(new Uint8Array(tile), {
      headers: {
        'content-type': 'application/octet-stream',
        'cache-control': 'private, max-age=31536000, immutable',
      },
    });
  });
}
