import { answer, fileAnswer, RequestError } from '@/server/http';
import { stripOf } from '@/store';

/** A clip's moments side by side, for scrubbing. */
export function GET(_request: Request, { params }: { params: Promise<{ sha256: string }> }): Promise<Response> {
  return answer(async () => {
    const path = await stripOf((await params).sha256);
    if (path === null) throw new RequestError(404, 'That file has no strip.');
    return fileAnswer(path, 'image/jpeg');
  });
}
