import { z } from 'zod';
import { answer, checkOrigin, RequestError, sentTo } from '@/server/http';
import { signedInPerson } from '@/server/account';
import { proved } from '@/server/signIn';
import { changePassword } from '@/store';

const body = z.object({ password: z.string().max(400), wanted: z.string().max(400) });

/** Sets another password: `{ "password": the one there is, "wanted" }`. Other browsers are signed out. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const { name, signIn, address } = signedInPerson();
    const { password, wanted } = await sentTo(request, body, 'Expected the password there is, and the wanted one.');
    if (!(await proved(name, password, address))) throw new RequestError(403, 'The password there is isn’t this one.');
    await changePassword(name, wanted, signIn);
    return Response.json({ ok: true });
  });
}
