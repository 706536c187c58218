/** The plan that a session file carries in a key of its own. */
import { z } from 'zod';
import type { Session } from '../../session/schema';
import { PLAN_SCENES, type PlannedTake } from './plan';
import { planRigSchema, type PlanRig } from './planRig';

const plannedSchema = z.looseObject({
  id: z.string(),
  filter: z.string().nullable(),
  scene: z.enum(PLAN_SCENES),
  role: z.enum(['measure', 'sweep', 'bracket']),
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

/** A bare take as people say it. */
export const bareInWords = ({ role }: Pick<PlannedTake, 'role'>) => (role === 'bracket' ? 'bare, darker' : 'bare');

/** Planned takes of a session; none where it has no plan, or one that another program wrote. */
export function plannedOf(session: Session): PlannedTake[] {
  const plan = session.plan as { takes?: unknown } | undefined;
  const parsed = z.array(plannedSchema).safeParse(plan?.takes);
  return parsed.success ? parsed.data : [];
}

/** The rig that a session was planned for; one with thirds of a stop and wide limits where it was not. */
export function planRigIn(session: Session): PlanRig {
  const plan = session.plan as { request?: { rig?: unknown } } | undefined;
  const parsed = planRigSchema.safeParse(plan?.request?.rig);
  return parsed.success ? parsed.data : ANY_RIG;
}

const ANY_RIG: PlanRig = planRigSchema.parse({
  widest: 1,
  baseIso: 50,
  highestIso: 409_600,
  fastest: 1 / 32_000,
  slowest: 60,
  step: 1 / 3,
});

/** Lines that the planner added to the checklist. */
export function ownLines(session: Session): string[] {
  const plan = session.plan as { request?: { checklist?: unknown } } | undefined;
  const parsed = z.array(z.string()).safeParse(plan?.request?.checklist);
  return parsed.success ? parsed.data : [];
}
