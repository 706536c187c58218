/** Kits as files to take away. */
import { stringify } from 'csv-stringify/sync';
import { rowsOfKits } from '@/core/sitting/kits/kitsTable';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import { attachment, downloadName } from './downloads';

/** Answers with kits in the format that the address asks for. */
export function kitsAnswer(kits: KeptKit[], name: string, request: Request): Response {
  if (new URL(request.url).searchParams.get('format') === 'csv')
    // A cell that begins like a formula must not become one in a spreadsheet.
    return new Response(stringify(rowsOfKits(kits), { escape_formulas: true }), {
      headers: attachment(downloadName(name, '.csv'), 'text/csv; charset=utf-8'),
    });
  const document = { format: 'aurora-glade-kits', version: 1, kits };
  return new Response(JSON.stringify(document, null, 2), {
    headers: attachment(downloadName(name, '.json'), 'application/json'),
  });
}
