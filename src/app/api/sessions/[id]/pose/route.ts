import { laidOn } from '@/app/server/compare';
import { answer, RequestError } from '@/app/server/http';

type Props = { params: Promise<{ id: string }> };

/** How a picture lies on bare: `?file=a.tif&bare=b.tif`. */
export function GET(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    const query = new URL(request.url).searchParams;
    const [file, bare] = [query.get('file'), query.get('bare')];
    if (!file || !bare) throw new RequestError(400, 'Expected a file and the bare one.');
    return Response.json(await laidOn((await params).id, file, bare));
  });
}
