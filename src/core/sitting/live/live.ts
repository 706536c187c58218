/** A sitting while one shoots: beads with their provisional ±, the light so far, what is spoiled, what comes next. */
import type { Readings } from '../../session/readings';
import type { Session } from '../../session/schema';
import type { Check } from '../checks/check';
import type { PlannedTake } from '../planning/plan';
import { plannedOf } from '../planning/planned';
import { takesToShoot } from '../planning/progress';
import type { Alarm } from './alarm';
import { alarmsOf } from './alarms';
import { beadsOf, type LiveBead } from './beads';
import type { Strengths } from './byLabel';

/** Something to shoot. */
export interface Ahead {
  /** Planned take; `null` for pictures beyond the plan. */
  planned: string | null;
  filter: string | null;
  scene: string;
  /** A darker bare picture, for the camera's curve. */
  isDarker?: boolean;
  /** Where a ring has to stand. */
  mark?: number;
  ringDegrees?: number;
  pictures: number;
  why: 'planned' | 'again' | 'closer' | 'bare';
}

export interface LiveView {
  beads: LiveBead[];
  alarms: Alarm[];
  /** In the order to shoot. */
  ahead: Ahead[];
  /** Takes that an alarm wants again. */
  again: string[];
  /** Minutes that what is ahead takes. */
  minutes: number;
  reached: number;
}

/** Minutes a take, where the plan doesn't say. */
const USUAL_MINUTES = 1.5;

/**
 * How a sitting stands.
 *
 * @param wanted ± asked for, stops
 * @param rough strengths by whole pictures, where their places have none
 */
export function liveView(
  session: Session,
  readings: Readings | null,
  checks: readonly Check[],
  wanted: number,
  rough?: Strengths,
): LiveView {
  const planned = plannedOf(session);
  const open = takesToShoot(session).map(({ take }) => take);
  const beads = beadsOf(session, readings?.filters ?? [], open, wanted);
  const strengths = new Map(beads.flatMap(({ filter, stops }) => (stops ? [[filter, stops] as const] : [])));
  const alarms = alarmsOf({
    session,
    readings,
    checks,
    strengths,
    rough: surest(rough ?? new Map(), withheldOf(readings)),
  });
  const again = [...new Set(alarms.filter((one) => one.again).flatMap(({ takes }) => newestOf(takes, session)))];
  const ahead = aheadOf(session, open, again, beads);
  const perTake =
    planned.length > 1 ? (planned.at(-1)!.minute - planned[0].minute) / (planned.length - 1) : USUAL_MINUTES;
  return {
    beads,
    alarms,
    ahead,
    again,
    minutes: ahead.length * (perTake > 0 ? perTake : USUAL_MINUTES),
    reached: beads.filter(({ state }) => state === 'reached').length,
  };
}

/** What withheld strengths came out as: too uncertain for a figure, good enough to tell one filter from another. */
const withheldOf = (readings: Readings | null): Strengths =>
  new Map(
    (readings?.filters ?? []).flatMap(({ filter, density, faults }) => {
      const around = density ? undefined : faults.find((one) => one.around)?.around;
      return around ? [[filter, around] as const] : [];
    }),
  );

/** Of two ways to tell a filter's strength the one with the smaller ±. */
function surest(some: Strengths, others: Strengths): Strengths {
  const found = new Map(some);
  for (const [filter, one] of others) if (one.u95 < (found.get(filter)?.u95 ?? Infinity)) found.set(filter, one);
  return found;
}

/** Of the takes that an alarm names, the newest of each filter: that one is shot again. */
function newestOf(takes: readonly string[], session: Session): string[] {
  const newest = new Map<string, string>();
  for (const { id, scene, filter } of session.takes) if (takes.includes(id)) newest.set(`${scene} ${filter}`, id);
  return [...newest.values()];
}

const ringOf = ({ mark, ringDegrees }: { mark?: number; ringDegrees?: number } = {}) => ({
  ...(mark === undefined ? {} : { mark }),
  ...(ringDegrees === undefined ? {} : { ringDegrees }),
});

/** First what is to be shot again while the set still stands as it did, then the plan, then what brings a ± down. */
function aheadOf(
  session: Session,
  open: readonly PlannedTake[],
  again: readonly string[],
  beads: readonly LiveBead[],
): Ahead[] {
  const repeated = session.takes
    .filter(({ id }) => again.includes(id))
    .map(({ id, filter, scene, files, setting }): Ahead => {
      return {
        planned: plannedOf(session).some((one) => one.id === id) ? id : null,
        filter,
        scene,
        pictures: files.length,
        ...ringOf(setting),
        why: 'again',
      };
    });
  const planned = open.map(({ id, filter, scene, role, repeats, mark, ringDegrees }): Ahead => {
    const darker = role === 'bracket' ? { isDarker: true } : {};
    return {
      planned: id,
      filter,
      scene,
      ...darker,
      ...ringOf({ mark, ringDegrees }),
      pictures: repeats,
      why: 'planned',
    };
  });
  // A scene that filters are measured on, for what lies beyond the plan.
  const scene = session.takes.find(({ filter }) => filter !== null)?.scene ?? session.scenes[0]?.id ?? '';
  const closer = beads
    .filter(({ more, planned: left }) => more !== null && left === 0)
    .map(({ filter, more }): Ahead => ({ planned: null, filter, scene, pictures: more!, why: 'closer' }));
  const isOpen = open.length === 0 && beads.some(({ state, help }) => state === 'wide' && help !== null);
  const bare: Ahead[] =
    closer.length > 0 || isOpen ? [{ planned: null, filter: null, scene, pictures: 1, why: 'bare' }] : [];
  return [...repeated, ...planned, ...closer, ...bare];
}
