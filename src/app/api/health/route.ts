import { databaseAnswers } from '@/store';

export const dynamic = 'force-dynamic';

/** Whether all that a request needs is there. */
export async function GET(): Promise<Response> {
  if (await databaseAnswers()) return Response.json({ ok: true });
  return Response.json(
    { ok: false, error: 'The database doesn’t answer; it is being started again.' },
    { status: 503 },
  );
}
