import { fenceStands } from '@/media/fence';
import { decodesBehindFence } from '@/media/vips/vips';
import { databaseAnswers } from '@/store';

export const dynamic = 'force-dynamic';

/** Whether all that a request needs is there, and whether decoders of foreign files work behind a fence of their own. */
export async function GET(): Promise<Response> {
  if (await databaseAnswers())
    return Response.json({ ok: true, fence: (await fenceStands()) && (await decodesBehindFence()) });
  return Response.json(
    { ok: false, error: 'The database doesn’t answer; it is being started again.' },
    { status: 503 },
  );
}
