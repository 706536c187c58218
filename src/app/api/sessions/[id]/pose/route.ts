import { z } from 'zod';
import { laidOn } from '@/server/compare';
import { answer, RequestError } from '@/server/http';

type Props = { params: Promise<{ id: string }> };

const moment = z.coerce.number().min(0).max(1_000_000).optional();

/** How a picture lies on bare: `?file=a.tif&bare=b.tif`; of clips at moments, `&at=1.2&bareAt=1.4`. */
export function GET(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    const query = new URL(request.url).searchParams;
    const [file, bare] = [query.get('file'), query.get('bare')];
    if (!file || !bare) throw new RequestError(400, 'Expected a file and the bare one.');
    const [at, bareAt] = ['at', 'bareAt'].map((key) => moment.safeParse(query.get(key) ?? undefined));
    if (!at.success || !bareAt.success) throw new RequestError(400, 'Expected moments in seconds.');
    const [own, other] = [
      { file, at: at.data },
      { file: bare, at: bareAt.data },
    ];
    return Response.json(await laidOn((await params).id, own, other, request.signal));
  });
}
