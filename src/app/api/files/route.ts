import { answer, uploadOf } from '@/app/server/http';
import { storeStream } from '@/store';

/** Takes in one file as a raw body: `POST /api/files?name=…`. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { stream, bytes, name } = uploadOf(request);
    return Response.json(await storeStream(stream, name, bytes));
  });
}
