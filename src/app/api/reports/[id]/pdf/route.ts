import { z } from 'zod';
import { attachment, downloadName } from '@/server/downloads';
import { answer, RequestError } from '@/server/http';
import { pdfOf, reportPage } from '@/server/reportPage';

const versionSchema = z.coerce.number().int().min(1).nullable();

/** A report as PDF: the live one, or `?version=1`. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = new URL(request.url).searchParams.get('version');
    const version = versionSchema.safeParse(asked);
    if (asked !== null && !version.success) throw new RequestError(400, 'Expected the number of a version.');
    const { html, report } = await reportPage((await params).id, asked === null ? null : version.data!, false);
    return new Response(new Uint8Array(await pdfOf(html)), {
      headers: attachment(downloadName(report.title, '.pdf'), 'application/pdf'),
    });
  });
}
