import { answer } from '@/server/http';
import { checkRoom } from '@/store';

/** Whether so many bytes more fit on the disk: `?bytes=N`. Asked before an upload begins. */
export function GET(request: Request): Promise<Response> {
  return answer(async () => {
    await checkRoom(Number(new URL(request.url).searchParams.get('bytes') ?? 0), 'all of it');
    return Response.json({ fits: true });
  });
}
