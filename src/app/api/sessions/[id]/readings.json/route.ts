import { attachment, downloadName } from '@/server/downloads';
import { answer, RequestError } from '@/server/http';
import { latestReadings, loadSession } from '@/store';

export function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const { session, id } = await loadSession((await params).id);
    const stored = await latestReadings(id);
    if (!stored) throw new RequestError(404, 'This session has not been measured yet.');
    return new Response(`${JSON.stringify(stored.readings, null, 2)}\n`, {
      headers: attachment(downloadName(session.title, '.readings.glade.json'), 'application/json; charset=utf-8'),
    });
  });
}
