import { answer, RequestError } from '@/server/http';
import { kitsAnswer } from '@/server/kitsFile';
import { readKit } from '@/store';

type Props = { params: Promise<{ id: string }> };

/** One kit as a file: `?format=csv` or `json`. */
export function GET(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    const kept = await readKit((await params).id);
    if (!kept) throw new RequestError(404, 'There is no such kit.');
    return kitsAnswer([kept.item], kept.item.name ?? 'kit', request);
  });
}
