import type { RegistrationResponseJSON } from '@simplewebauthn/server';
import { z } from 'zod';
import { answer, checkOrigin, RequestError, sentTo } from '@/server/http';
import { askedAnswer, idAsked, signedInPerson } from '@/server/account';
import { askForNewPasskey, keepNewPasskey, proved } from '@/server/signIn';
import { removePasskey } from '@/store';

const body = z.union([
  z.object({ password: z.string().max(400) }),
  z.object({ name: z.string().max(200), response: z.looseObject({ id: z.string().max(700) }) }),
]);

/** Adds a passkey: with the `password` what the browser is to be asked, then its `response` and a `name`. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const { account, name, address } = signedInPerson();
    const sent = await sentTo(request, body, 'Expected the password, or a new passkey and its name.');
    if ('password' in sent) {
      if (!(await proved(name, sent.password, address))) throw new RequestError(403, 'This isn’t your password.');
      return askedAnswer(await askForNewPasskey(request, { id: account, name }));
    }
    await keepNewPasskey(request, account, sent.name, sent.response as unknown as RegistrationResponseJSON);
    return Response.json({ ok: true });
  });
}

/** Takes a passkey away: `?id=3`. */
export function DELETE(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    await removePasskey(signedInPerson().account, idAsked(request));
    return Response.json({ ok: true });
  });
}
