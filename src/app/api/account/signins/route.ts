import { answer, checkOrigin } from '@/server/http';
import { idAsked, signedInPerson } from '@/server/account';
import { endSignIn } from '@/store';

/** Signs another browser of one's own out: `?id=3`. */
export function DELETE(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    await endSignIn(signedInPerson().account, idAsked(request));
    return Response.json({ ok: true });
  });
}
