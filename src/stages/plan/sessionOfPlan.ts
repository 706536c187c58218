import type { Plan, PlanRequest } from '@/core/sitting/planning/plan';
import { parseSession } from '@/core/session/parse';
import type { Session } from '@/core/session/schema';
import { handedOn, type KeptRig } from '@/core/sitting/kits/keptRig';

/**
 * A plan as a session without takes: footage is laid on the planned ones, which the session file carries in a key of its own.
 *
 * @param profile of the rig's camera: its response and its check go along
 */
export function sessionOfPlan(request: PlanRequest, { takes }: Plan, profile?: KeptRig['profiles'][number]): Session {
  return parseSession({
    format: 'aurora-glade-session',
    version: 1,
    title: request.title,
    rig: {
      camera: request.rig.camera,
      aperture: request.rig.fixedAperture ? 'fixed' : 'variable',
      shutterMarks: request.rig.shutterMarks,
      baseIso: request.rig.baseIso,
      ...(profile ? handedOn(profile) : {}),
    },
    kits: [request.kit],
    scenes: request.scenes.map((scene) => {
      const lens = request.lenses[scene]?.name;
      return { id: scene, kind: scene, ...(lens ? { lens } : {}) };
    }),
    takes: [],
    patches: [],
    plan: { request, takes },
  });
}
