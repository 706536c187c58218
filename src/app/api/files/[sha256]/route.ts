import { answer, fileAnswer, RequestError, responseOf } from '@/server/http';
import { rendition, RENDITION_SIZES, type RenditionSize } from '@/store';

/** A view of a stored picture: `?size=320|1600&response={"kind":"srgb"}`. */
export function GET(request: Request, { params }: { params: Promise<{ sha256: string }> }): Promise<Response> {
  return answer(async () => {
    const { sha256 } = await params;
    const query = new URL(request.url).searchParams;
    const size = Number(query.get('size') ?? 320) as RenditionSize;
    if (!RENDITION_SIZES.includes(size))
      throw new RequestError(400, `Views come in sizes ${RENDITION_SIZES.join(' and ')}.`);
    const path = await rendition(sha256, size, responseOf(query.get('response')));
    return fileAnswer(path, 'image/jpeg');
  });
}
