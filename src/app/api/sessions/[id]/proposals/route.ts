import { answer, RequestError } from '@/server/http';
import { proposeRegions } from '@/server/looking';

/** Places to measure, proposed on a scene's bare picture: `?scene=chart`. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const scene = new URL(request.url).searchParams.get('scene');
    if (!scene) throw new RequestError(400, 'Expected a scene.');
    return Response.json(await proposeRegions((await params).id, scene));
  });
}
