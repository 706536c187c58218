import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
import { signedInAnswer } from '@/server/account';
import { byPassword } from '@/server/signIn';
import { who } from '@/store';

const body = z.object({ name: z.string().min(1).max(200), password: z.string().min(1).max(400) });

/** Signs in by name and password: `{ "name", "password" }`. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const sent = await sentTo(request, body, 'Expected a name and a password.');
    return signedInAnswer(await byPassword(sent, who().address, request.headers.get('user-agent') ?? ''));
  });
}
