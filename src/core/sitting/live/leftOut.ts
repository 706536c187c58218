/** Takes of a sitting that were spoiled and are to be shot again; the session's plan keeps them, and their files stay with the session. */
import { z } from 'zod';
import type { Session } from '../../session/schema';

const leftOutSchema = z.object({
  take: z.string(),
  files: z.array(z.string()),
  /** What was wrong, a sentence. */
  message: z.string(),
  /** ISO 8601. */
  at: z.string(),
});
export type LeftOut = z.infer<typeof leftOutSchema>;

/** Takes that were left out, the first one first; what another program wrote there is passed over. */
export function leftOutOf(session: Session): LeftOut[] {
  const list = (session.plan as { leftOut?: unknown } | undefined)?.leftOut;
  return (Array.isArray(list) ? (list as unknown[]) : []).flatMap((one) => leftOutSchema.safeParse(one).data ?? []);
}
