import { answer, RequestError } from '@/server/http';
import { reportPage } from '@/server/reportPage';
import { reportByLink, reportVersions } from '@/store';

/** A report for whoever has its link: its newest frozen version, else as it is now; nothing can be changed from it. */
export function GET(_request: Request, { params }: { params: Promise<{ link: string }> }): Promise<Response> {
  return answer(async () => {
    const found = await reportByLink((await params).link);
    if (!found) throw new RequestError(404, 'No report is read by this link, or not any more.');
    const [newest] = await reportVersions(found.id);
    const { html } = await reportPage(found.id, newest?.number ?? null, false);
    return new Response(html, { headers: { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' } });
  });
}
