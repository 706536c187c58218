import { stringify } from 'csv-stringify/sync';
import { checkCube } from '@/core/exports/checkTables';
import type { CameraCheck } from '@/core/session/cameraCheck';
import { answer, RequestError } from '@/server/http';
import { readRig } from '@/store';

type Props = { params: Promise<{ id: string }> };

const FORMS = {
  json: { type: 'application/json', of: (check: CameraCheck) => JSON.stringify(check, null, 2) },
  csv: { type: 'text/csv; charset=utf-8', of: checkCsv },
  cube: { type: 'text/plain; charset=utf-8', of: checkCube },
} as const;

/** A profile's check as a file: `?profile=0&format=json`, `csv` or `cube`. */
export function GET(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    const asked = new URL(request.url).searchParams;
    const check = (await readRig((await params).id))?.item.profiles[Number(asked.get('profile') ?? 0)]?.check;
    if (!check) throw new RequestError(404, 'This profile has no check.');
    const format = asked.get('format') ?? 'json';
    if (!(format in FORMS)) throw new RequestError(400, 'A check is taken away as json, csv or cube.');
    const { type, of } = FORMS[format as keyof typeof FORMS];
    const name = `${check.camera || 'camera'}-check-${check.checkedAt.slice(0, 10)}`.replace(/[^\p{L}\p{N}.-]+/gu, '-');
    return new Response(of(check), {
      headers: {
        'content-type': type,
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.${format}`)}`,
      },
    });
  });
}

/** Columns: code (share of full scale), light of R, G, B in stops from full scale, u95 of G against the middle code's. */
function checkCsv({ curve }: CameraCheck): string {
  return stringify(
    curve.map(({ code, light, u95 }) => [code.toFixed(6), ...light.map((one) => one.toFixed(4)), u95.toFixed(4)]),
    { header: true, columns: ['code', 'r_stops', 'g_stops', 'b_stops', 'u95_stops'] },
  );
}
