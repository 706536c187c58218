import type { AuthenticationResponseJSON } from '@simplewebauthn/server';
import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
import { askedAnswer, signedInAnswer } from '@/server/account';
import { askForPasskey, byPasskey } from '@/server/signIn';
import { who } from '@/store';

/** What the browser answers is looked through by the library. */
const body = z.object({ response: z.looseObject({ id: z.string().max(700) }).optional() });

/** Signs in by a passkey: without a `response` what the browser is to be asked, with its `response` the sign-in. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const { response } = await sentTo(request, body, 'Expected what a passkey answered.');
    const { address } = who();
    if (!response) return askedAnswer(await askForPasskey(request, address));
    const browser = request.headers.get('user-agent') ?? '';
    return signedInAnswer(
      await byPasskey(request, response as unknown as AuthenticationResponseJSON, address, browser),
    );
  });
}
