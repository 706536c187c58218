import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { z } from 'zod';
import { answer, checkOrigin, RequestError, sentTo } from '@/server/http';
import { plannedOf } from '@/core/sitting/planning/planned';
import { loadSession, storedFiles } from '@/store';

const body = z.object({ mishaps: z.array(z.enum(['cloud', 'ring', 'swapped', 'missed'])).default([]) });
const made = z.array(z.object({ path: z.string(), sha256: z.string() }));

type Props = { params: Promise<{ id: string }> };

/** Shoots a session's plan on the simulated bench: answers with the files of its card, stored and read. */
export function POST(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const { id } = await params;
    const sent = await sentTo(request, body, 'Expected a list of mishaps.');
    const { session } = await loadSession(id);
    if (plannedOf(session).length === 0) throw new RequestError(422, 'This session has no plan to shoot.');
    const files = made.parse(JSON.parse(await shoot(id, sent.mishaps)));
    const stored = await storedFiles(files.map((one) => one.sha256));
    return Response.json({ files: files.map(({ path, sha256 }) => ({ path, stored: stored.get(sha256) })) });
  });
}

/** Rendering is heavy: it runs beside the server, which goes on answering. */
function shoot(session: string, mishaps: readonly string[]): Promise<string> {
  return new Promise((resolve, reject) => {
    const manage = join(process.cwd(), 'dist', 'manage.mjs');
    const child = spawn(process.execPath, [manage, 'practice', session, mishaps.join(',')], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let text = '';
    child.stdout.on('data', (part: Buffer) => (text += part.toString()));
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve(text) : reject(new RequestError(500, 'The simulated bench could not shoot this plan.')),
    );
  });
}
