import { buffer } from 'node:stream/consumers';
import { ZipFile } from 'yazl';
import { csvText as csv } from '@/server/csv';
import { attachment, downloadName } from '@/server/downloads';
import { answer, RequestError } from '@/server/http';
import { wholeSession } from '@/server/across';
import { keepLuminance } from '@/core/viewing/level';
import { luminanceRow, resolveColorSpace } from '@/core/formulas/color/spaces';
import { cgatsOf, stepRows, takeRows } from '@/core/exports/text';
import { cube1d, cube3d } from '@/core/exports/cubeTables';
import { resolveResponse, responseAtHand } from '@/core/light/response';
import type { Decode } from '@/core/formulas/transfer/transfer';
import { kitsAcross, sittingsOf } from '@/core/judging/ranking/figures';
import { figuresHeader, figuresRows, readingsHeader, readingsRows } from '@/core/exports/readingsTable';
import { storedFiles } from '@/store';

/** All readings of a session in one zip: CSV, JSON, CGATS, and look-up tables that cancel each cast. */
export function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const whole = await wholeSession((await params).id);
    if (!whole) throw new RequestError(404, 'This session has not been measured yet.');
    const { session, readings, files, id } = whole;
    const zip = new ZipFile();
    const add = (name: string, text: string) =>
      zip.addBuffer(Buffer.from(text), name, { mtime: new Date(readings.createdAt) });
    add('readings.csv', csv([readingsHeader(), ...readingsRows(session, readings)]));
    add('figures.csv', csv([figuresHeader(), ...figuresRows(session, readings)]));
    add('readings.glade.json', JSON.stringify(readings, null, 2));
    add('takes.csv', csv(takeRows(session)));
    add('casts.cgats.txt', cgatsOf(session, readings));
    const kits = kitsAcross(sittingsOf(id, session, readings.filters));
    add('steps.csv', csv(kits.flatMap((kit, i) => stepRows(kit.filters).slice(i === 0 ? 0 : 1))));
    const [r, g, b] = luminanceRow(resolveColorSpace(session.rig.colorSpace));
    const own = await encodingOf(session.rig.response, files);
    for (const { filter, cast } of readings.filters) {
      if (!cast) continue;
      // An id is the session file's own and may hold what no path may.
      const stem = `cube/${downloadName(filter, '')}`;
      // The picture's brightness stays: what is canceled is color.
      const ask = {
        title: `${session.title}, ${filter}: cancels the cast`,
        gains: keepLuminance(cast.gains, [r, g, b]),
      };
      add(`${stem}-linear-3d.cube`, cube3d(ask));
      add(`${stem}-linear-1d.cube`, cube1d(ask));
      if (!own) continue;
      add(`${stem}-${own.name}-3d.cube`, cube3d({ ...ask, decode: own.decode }));
      add(`${stem}-${own.name}-1d.cube`, cube1d({ ...ask, decode: own.decode }));
    }
    zip.end();
    const bytes = await buffer(zip.outputStream as NodeJS.ReadableStream);
    return new Response(new Uint8Array(bytes), {
      headers: attachment(downloadName(session.title, '-readings.zip'), 'application/zip'),
    });
  });
}

/** How the rig's own codes stand for light; `null` where that isn't one known curve. */
async function encodingOf(
  response: Parameters<typeof responseAtHand>[0],
  files: ReadonlyMap<string, string>,
): Promise<{ name: string; decode: Decode } | null> {
  const [stored] = [...(await storedFiles([...files.values()])).values()].flatMap(({ facts }) =>
    facts.readable ? [facts.picture.encoding] : [],
  );
  if (!stored) return null;
  const known = responseAtHand(response, stored);
  const kind = known.kind === 'file' ? (typeof stored.transfer === 'string' ? stored.transfer : null) : known.kind;
  if (kind === null || kind === 'linear') return null;
  return { name: kind, decode: resolveResponse(known, stored, () => '').decode[1] };
}
