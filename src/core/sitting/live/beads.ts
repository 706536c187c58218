/** Where each filter stands while a sitting goes on, and what is still to shoot until its ± is as small as was asked for. */
import type { Fault, FilterReadings, Reading } from '../../session/readings';
import { nominalStops } from '../../session/notation';
import type { Session } from '../../session/schema';
import { helpFor } from '../../words/advice';
import type { PlannedTake } from '../planning/plan';

/** One of several strengths of a filter. */
export interface LivePart {
  /** Where: `mark 3`, `dense half`. */
  at: string;
  stops: Reading;
}

export interface LiveBead {
  filter: string;
  name: string;
  label: number | null;
  /** Both ends of a labelled range. */
  labelSpan: readonly [number, number] | null;
  /** Provisional strength; `null` while there is none, and for what takes more than one. */
  stops: Reading | null;
  /** Provisional strengths of what takes more than one: a variable filter's marks, a graduated one's halves, a polarizer at its brightest. */
  parts: readonly LivePart[];
  /** Pictures that are there. */
  pictures: number;
  /** Planned takes of it that are still to be shot. */
  planned: number;
  state: 'to shoot' | 'withheld' | 'wide' | 'reached' | 'stuck';
  /** Pictures more that would bring the ± to what was asked for; `null` where pictures alone won't, or none are needed. */
  more: number | null;
  /** What would help, where pictures alone won't; a sentence. */
  help: string | null;
}

/** Sources that become smaller with the root of the pictures. */
const BY_PICTURES = new Set(['noise', 'repeats', 'rounding', 'pictures differ']);
/** More pictures than this nobody shoots of one filter. */
const MOST_MORE = 20;
/** Light that isn't followed on both sides of a take may have drifted by so much, stops: a bench's lamps in a few minutes. Our own judgement. */
const UNFOLLOWED = 0.03;

/**
 * A provisional strength: before a bare take closes it in, its ± holds what the light may have done since the last one.
 *
 * @param isClosed whether a bare take came after it
 */
export function provisional({ value, u95 }: Reading, isClosed: boolean): Reading {
  return { value, u95: isClosed ? u95 : Math.hypot(u95, 2 * UNFOLLOWED) };
}

/** Filters whose last take has a bare one of its scene after it, in the order of the session's takes. */
export function closedFilters({ takes }: Session): Set<string> {
  const closed = new Set<string>();
  const since = new Map<string, Set<string>>();
  for (const { scene, filter, role } of takes) {
    if (role === 'bracket') continue;
    const waiting = since.get(scene) ?? new Set();
    since.set(scene, waiting);
    if (filter !== null) {
      waiting.add(filter);
      closed.delete(filter);
    } else {
      for (const one of waiting) closed.add(one);
      waiting.clear();
    }
  }
  return closed;
}

/** Strengths of what takes more than one, as they lie on the ladder. */
function partsOf({ marks, graduation, polarizer }: FilterReadings): LivePart[] {
  if (marks) return marks.map(({ mark, stops }) => ({ at: `mark ${mark}`, stops }));
  if (graduation)
    return [
      { at: 'clear half', stops: graduation.clearStops },
      { at: 'dense half', stops: graduation.denseStops },
    ];
  return polarizer?.brightest ? [{ at: 'brightest', stops: polarizer.brightest }] : [];
}

/**
 * Where a filter of several strengths stands: the widest ± of them counts.
 *
 * @param withheld why one of them isn't told, with what helps; `null` where all that were shot are
 */
function standing(
  parts: readonly LivePart[],
  withheld: string | null,
  isClosed: boolean,
  planned: number,
  wanted: number,
): Pick<LiveBead, 'state' | 'help'> {
  const widest = Math.max(...parts.map(({ stops }) => stops.u95));
  if (planned > 0) return { state: 'wide', help: `${planned} ${planned === 1 ? 'take' : 'takes'} of it to be shot` };
  if (withheld !== null) return { state: 'stuck', help: withheld };
  if (provisional({ value: 0, u95: widest }, isClosed).u95 <= wanted) return { state: 'reached', help: null };
  if (!isClosed && widest <= wanted) return { state: 'wide', help: 'A bare take closes it in.' };
  return { state: 'stuck', help: 'A bare take beside each of its takes, and the same shutter for both.' };
}

/** Why a filter has no strength, and what helps; `null` where nothing is known. */
const withheldIn = (found: FilterReadings | undefined) =>
  inWords(found?.faults.find(({ severity }) => severity === 'error'));

/** Why one of several strengths is missing: its fault says what it came out as. */
const withheldPart = (found: FilterReadings) => inWords(found.faults.find(({ around }) => around));

function inWords(fault: Fault | undefined): string | null {
  return fault ? [fault.message, fault.remedy].filter(Boolean).join(' ') : null;
}

/**
 * Beads of all filters, in the kit's order.
 *
 * @param open planned takes that aren't shot yet
 * @param wanted ± that is asked for, stops
 */
export function beadsOf(
  session: Session,
  readings: readonly FilterReadings[],
  open: readonly PlannedTake[],
  wanted: number,
): LiveBead[] {
  const closed = closedFilters(session);
  return session.kits.flatMap((kit) =>
    kit.filters.map(({ id, name, nominal }): LiveBead => {
      const own = readings.find((one) => one.filter === id);
      const found = own?.density;
      const pictures = session.takes
        .filter((take) => take.filter === id)
        .reduce((sum, take) => sum + take.files.length, 0);
      const planned = open.filter((take) => take.filter === id).length;
      const range = nominal.stopsRange;
      const labelSpan = range ? ([Math.min(...range), Math.max(...range)] as const) : null;
      const isClosed = closed.has(id);
      const parts = own && !found ? partsOf(own) : [];
      const common = {
        ...{ filter: id, name: name ?? id, label: nominalStops(nominal), labelSpan, pictures, planned },
        parts: parts.map(({ at, stops }) => ({ at, stops: provisional(stops, isClosed) })),
      };
      if (own && parts.length > 0)
        return { ...common, stops: null, more: null, ...standing(parts, withheldPart(own), isClosed, planned, wanted) };
      if (!found) {
        const why = pictures > 0 ? withheldIn(own) : null;
        return { ...common, stops: null, state: why ? 'withheld' : 'to shoot', more: null, help: why };
      }
      const stops = provisional(found.stops, isClosed);
      if (stops.u95 <= wanted) return { ...common, stops, state: 'reached', more: null, help: null };
      if (!isClosed && found.stops.u95 <= wanted)
        return { ...common, stops, state: 'wide', more: null, help: 'A bare take closes it in.' };
      const shrinking = Math.hypot(...found.budget.filter(({ source }) => BY_PICTURES.has(source)).map(({ u }) => u));
      const rest = Math.hypot(...found.budget.filter(({ source }) => !BY_PICTURES.has(source)).map(({ u }) => u));
      const room = (wanted / 2) ** 2 - rest ** 2;
      const more = room > 0 ? Math.ceil(pictures * (shrinking ** 2 / room - 1) - 1e-9) : Infinity;
      if (more <= MOST_MORE) return { ...common, stops, state: 'wide', more: Math.max(1, more), help: null };
      const largest = found.budget.find(({ source }) => !BY_PICTURES.has(source) || room > 0);
      const help = largest && helpFor(largest.source);
      return { ...common, stops, state: 'stuck', more: null, help: help ? `${help.how}.` : (found.advice ?? null) };
    }),
  );
}
