import { csvText } from '@/server/csv';
import { attachment, downloadName } from '@/server/downloads';
import { answer, RequestError } from '@/server/http';
import { readingsHeader, readingsRows } from '@/core/exports/readingsTable';
import { latestReadings, loadSession } from '@/store';

export function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const { session, id } = await loadSession((await params).id);
    const stored = await latestReadings(id);
    if (!stored) throw new RequestError(404, 'This session has not been measured yet.');
    return new Response(csvText([readingsHeader(), ...readingsRows(session, stored.readings)]), {
      headers: attachment(downloadName(session.title, '.csv'), 'text/csv; charset=utf-8; header=present'),
    });
  });
}
