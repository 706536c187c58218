/** Kits as files to take away. */
import { rowsOfKits } from '@/core/sitting/kits/kitsTable';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import { csvText } from './csv';
import { attachment, downloadName } from './downloads';

/** Answers with kits in the format that the address asks for. */
export function kitsAnswer(kits: KeptKit[], name: string, request: Request): Response {
  if (new URL(request.url).searchParams.get('format') === 'csv')
    return new Response(csvText(rowsOfKits(kits)), {
      headers: attachment(downloadName(name, '.csv'), 'text/csv; charset=utf-8'),
    });
  const document = { format: 'aurora-glade-kits', version: 1, kits };
  return new Response(JSON.stringify(document, null, 2), {
    headers: attachment(downloadName(name, '.json'), 'application/json'),
  });
}
