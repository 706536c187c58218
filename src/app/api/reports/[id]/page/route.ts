import { z } from 'zod';
import { attachment, downloadName } from '@/server/downloads';
import { answer, RequestError } from '@/server/http';
import { reportPage } from '@/server/reportPage';

const query = z.object({ version: z.coerce.number().int().min(1).optional(), save: z.string().optional() });

/** A report as a page: the live one, or `?version=1`; `?save` as a file that needs nothing else. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!asked.success) throw new RequestError(400, 'Expected the number of a version.');
    const { version = null, save } = asked.data;
    const { html, report } = await reportPage((await params).id, version, save === undefined);
    const headers: Record<string, string> =
      save === undefined
        ? { 'content-type': 'text/html; charset=utf-8' }
        : attachment(downloadName(report.title, '.html'), 'text/html; charset=utf-8');
    return new Response(html, { headers: { ...headers, 'cache-control': 'no-store' } });
  });
}
