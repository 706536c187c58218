/** From read pictures to what was seen of each patch, with exposures and moments; what pictures can't carry becomes a fault. */
import type { TableCache } from '../light/decoding';
import type { Session, Take } from '../session/schema';
import {
  exposureContradicted,
  exposureMissing,
  primariesConverted,
  responseAssumed,
  sizeDiffers,
  viewDiffers,
} from '../words/reading';
import type { MeasuredPatch } from './asked';
import { exposureRules, contradiction, exposureOf, markDoubt, timesOf } from './exposures';
import type { FoundFault, ObservedPatch } from './observations';
import { ordinaryTakes } from './ordinaryTakes';
import type { ReadingPlan } from './readingPlan';
import type { ReadShot } from './readShots';

/** Every patch of the plan in the pictures that show its scene's bare view. */
export function observePatches(
  read: readonly ReadShot[],
  { patchesOf }: Pick<ReadingPlan, 'patchesOf'>,
  session: Session,
): { patches: ObservedPatch[]; faults: FoundFault[] } {
  const faults: FoundFault[] = [];
  const patches = [...patchesOf].flatMap(([scene, list]) => {
    const here = read.filter((shot) => shot.take.scene === scene);
    const strangers = otherViews(here);
    faults.push(...strangers.map(({ shot, fault }) => ({ filter: shot.take.filter, fault })));
    const left = new Set(strangers.map(({ shot }) => shot));
    const shown = here.filter((shot) => !left.has(shot));
    return list.map((patch) => {
      const seen = observePatch(patch, shown, session);
      faults.push(...seen.faults);
      return seen.observed;
    });
  });
  return { patches, faults };
}

/** What files say that isn't so, or that had to be assumed. */
export function fileFaults(read: readonly ReadShot[], tables: TableCache, session: Session): FoundFault[] {
  return [...encodingFaults(read, tables), ...exposureFaults(read, session)];
}

function encodingFaults(read: readonly ReadShot[], tables: TableCache): FoundFault[] {
  const takesOf = (shots: readonly ReadShot[]) => shots.map((shot) => shot.take.id);
  const unknown = read.filter((shot) => !tables.responseOf(shot.facts).known);
  const converted = read.filter((shot) => tables.conversion(shot.facts.encoding) !== null);
  return [
    ...(unknown.length > 0 ? [{ filter: null, fault: responseAssumed(takesOf(unknown)) }] : []),
    ...(converted.length > 0
      ? [{ filter: null, fault: primariesConverted(takesOf(converted), converted[0].facts.encoding.profile) }]
      : []),
  ];
}

/** Exposures that the session and the file tell differently: one of the two is wrong. */
function exposureFaults(read: readonly ReadShot[], session: Session): FoundFault[] {
  return read.flatMap((shot) => {
    const apart = contradiction(shot, session);
    if (!apart) return [];
    // Of a clip the whole is named once, not every frame.
    const fault = exposureContradicted(shot.take.id, shot.original, apart.what, apart.stops);
    return [{ filter: shot.take.filter, fault }];
  });
}

/** Pictures of another size or another view than the scene's bare ones: their fractions of the frame don't match. */
function otherViews(read: readonly ReadShot[]) {
  const bare = read.find((shot) => shot.take.filter === null);
  if (!bare) return [];
  return read.flatMap((shot) => {
    const { take, file, facts, view } = shot;
    if (facts.width !== bare.facts.width || facts.height !== bare.facts.height)
      return [{ shot, fault: sizeDiffers(take.id, file, facts, bare.facts) }];
    if (view.kind === 'other') return [{ shot, fault: viewDiffers('view-moved', take.id, file, view.words) }];
    if (view.kind === 'lost') return [{ shot, fault: viewDiffers('registration-failed', take.id, file, view.words) }];
    return [];
  });
}

function observePatch(
  patch: MeasuredPatch,
  shown: readonly ReadShot[],
  session: Session,
): { observed: ObservedPatch; faults: FoundFault[] } {
  const times = timesOf(shown);
  const rules = exposureRules(shown, session);
  const observed: ObservedPatch = { patch, samples: [], bracket: [], fields: [], edges: [] };
  const faults: FoundFault[] = [];
  const ordinary = new Set(patch.role === 'frame' ? ordinaryTakes(session, patch.scene) : []);
  for (const [i, shot] of shown.entries()) {
    const { take, file } = shot;
    const reduced = shot.reduced.get(patch.id);
    if (!reduced || (take.filter !== null && ordinary.has(take))) continue;
    const isBracket = take.role === 'bracket';
    const frame = shot.seconds === null ? {} : { frame: true };
    const seen = { take: take.id, file, filter: take.filter, timeMs: times[i], ...frame };
    if (reduced.field && !isBracket) observed.fields.push({ ...seen, value: reduced.field });
    if (reduced.edge && !isBracket)
      observed.edges.push({ ...seen, value: reduced.edge, pixels: shot.places.get(patch.id)! });
    if (!reduced.level) continue;
    const exposureLog2 = exposureOf(shot, rules);
    if (typeof exposureLog2 === 'string')
      faults.push({ filter: take.filter, fault: exposureMissing(take.id, exposureLog2) });
    else
      (isBracket ? observed.bracket : observed.samples).push({
        ...seen,
        exposureLog2,
        markDoubt: markDoubt(shot, rules),
        setting: settingOf(take),
        ...(take.role === 'sweep' || take.setting?.mark !== undefined ? { inSeries: true } : {}),
        whiteBalance: { said: take.whiteBalance ?? null, own: shot.facts.whiteBalance },
        statistics: reduced.level,
      });
  }
  return { observed, faults };
}

/** What the filter was set to, as a word that is equal for equal settings. */
function settingOf({ setting }: Take): string {
  return setting ? `ring ${setting.ringDegrees ?? '?'} mark ${setting.mark ?? '?'}` : '';
}
