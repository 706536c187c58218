/** How far a planned sitting is: the same count on the first page, in the plan and on the run sheet. */
import type { Session } from '../../session/schema';
import { plannedOf } from './planned';
import { logOf, readLog, type LoggedTake } from './shootLog';

export interface SittingProgress {
  planned: number;
  /** Tapped as done, or with footage. */
  done: number;
  /** Skipped, and without footage. */
  skipped: number;
  left: number;
}

export type TakeState = LoggedTake['state'];

/** Each planned take's state: footage shows that it was shot, whatever was tapped. */
export function takeStates(logged: readonly LoggedTake[], withFootage: ReadonlySet<string>): Map<string, TakeState> {
  return new Map(logged.map(({ take, state }) => [take.id, withFootage.has(take.id) ? 'done' : state]));
}

export function countStates(states: Iterable<TakeState>): SittingProgress {
  const all = [...states];
  const count = (state: TakeState) => all.filter((one) => one === state).length;
  return { planned: all.length, done: count('done'), skipped: count('skipped'), left: count('open') };
}

/** Takes of a session's plan that have files. */
export const takesWithFootage = (session: Session): Set<string> => new Set(session.takes.map(({ id }) => id));

/** Planned takes that are still to be shot: neither skipped nor with footage, in the plan's order. */
export function takesToShoot(session: Session): LoggedTake[] {
  const footage = takesWithFootage(session);
  return readLog(plannedOf(session), logOf(session)).filter(
    ({ take, state }) => state !== 'skipped' && !footage.has(take.id),
  );
}

/** How far a session's plan is, by its log and its footage; `null` without a plan, or where each take of it has footage. */
export function progressOf(session: Session): SittingProgress | null {
  const [planned, footage] = [plannedOf(session), takesWithFootage(session)];
  if (planned.every(({ id }) => footage.has(id))) return null;
  return countStates(takeStates(readLog(planned, logOf(session)), footage).values());
}

/** "4 of 6 takes shot, 1 skipped, 1 left". */
export function progressInWords({ planned, done, skipped, left }: SittingProgress): string {
  const parts = [`${done} of ${planned} ${planned === 1 ? 'take' : 'takes'} shot`];
  if (skipped > 0) parts.push(`${skipped} skipped`);
  if (left > 0) parts.push(`${left} left`);
  return parts.join(', ');
}
