import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { z } from 'zod';
import { SHOT_MISTAKES } from '@/core/sitting/live/mistakes';
import { answer, checkOrigin, RequestError, sentTo } from '@/server/http';
import { loadSession } from '@/store';

const body = z.object({ mistake: z.enum(SHOT_MISTAKES).nullable().default(null) });
const run = promisify(execFile);

/** The simulated camera shoots the next take of a plan; its files arrive like those of a watched folder. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const { id } = await params;
    const { mistake } = await sentTo(request, body, 'Expected a mistake, or none.');
    await loadSession(id);
    const manage = join(process.cwd(), 'dist', 'manage.mjs');
    try {
      // Rendering is heavy: it runs beside the server, which goes on answering.
      const { stdout } = await run(process.execPath, [manage, 'shoot-next', id, mistake ?? '']);
      return Response.json({ shot: stdout.trim() === '' ? null : stdout.trim() });
    } catch (error) {
      const said = (error as { stderr?: string }).stderr?.trim();
      throw new RequestError(422, said || 'The simulated camera could not shoot this take.');
    }
  });
}
