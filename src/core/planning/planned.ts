/** The plan that a session file carries in a key of its own. */
import { z } from 'zod';
import type { Session } from '../session';
import { PLAN_SCENES, type PlannedTake } from './plan';

const plannedSchema = z.looseObject({
  id: z.string(),
  filter: z.string().nullable(),
  scene: z.enum(PLAN_SCENES),
  role: z.enum(['measure', 'sweep']),
  ringDegrees: z.number().optional(),
  mark: z.number().optional(),
  setting: z.object({
    shutterSeconds: z.number().positive(),
    iso: z.number().positive(),
    fNumber: z.number().positive(),
  }),
  repeats: z.number(),
  short: z.number(),
  minute: z.number(),
});

/** Planned takes of a session; none where it has no plan, or one that another program wrote. */
export function plannedOf(session: Session): PlannedTake[] {
  const plan = session.plan as { takes?: unknown } | undefined;
  const parsed = z.array(plannedSchema).safeParse(plan?.takes);
  return parsed.success ? parsed.data : [];
}
