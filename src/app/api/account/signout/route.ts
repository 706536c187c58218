import { answer, checkOrigin } from '@/server/http';
import { signedInAnswer, signedInPerson } from '@/server/account';
import { NO_COOKIES } from '@/server/signIn';
import { endSignIn } from '@/store';

/** Signs this browser out. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const { account, signIn } = signedInPerson();
    await endSignIn(account, signIn);
    return signedInAnswer(NO_COOKIES);
  });
}
