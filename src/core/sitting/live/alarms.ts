/**
 * What went wrong in a sitting that still goes on, take by take: what the checks see in files and what measuring what is there so far finds,
 * each as one thing that a person can do before the next take. What is missing only because it is still to be shot is no alarm.
 */
import { ALARMS, type Alarm, type AlarmKind } from './alarm';
import { castsBeside, labelsByFilter, marksByLabel, type Strengths } from './byLabel';
import type { Check, CheckCode } from '../checks/check';
import type { Readings, Fault } from '../../session/readings';
import type { Session } from '../../session/schema';
import type { FaultCode } from '../../words/faults';

const OF_CHECKS: Readonly<Partial<Record<CheckCode, AlarmKind>>> = {
  'file-missing': 'unreadable',
  'exposure-missing': 'exposure',
  'exposure-moved': 'exposure',
  clipped: 'clipped',
  'too-dark': 'dark',
  'another-view': 'moved',
  'view-moved': 'moved',
  blurred: 'soft',
  'white-balance-moved': 'white balance',
  order: 'wrong filter',
  'name-contradicts': 'wrong filter',
  'mixed-profiles': 'settings',
  'gain-map': 'settings',
};

const OF_FAULTS: Readonly<Partial<Record<FaultCode, AlarmKind>>> = {
  'file-unreadable': 'unreadable',
  'same-picture': 'unreadable',
  'exposure-missing': 'exposure',
  'exposure-moved': 'exposure',
  clipped: 'clipped',
  'too-dark': 'dark',
  'view-moved': 'moved',
  'registration-failed': 'moved',
  'soft-by-motion': 'soft',
  'focus-moved': 'soft',
  'light-jumped': 'light',
  'repeats-disagree': 'light',
  'white-balance-moved': 'white balance',
  'white-balance-wanders': 'white balance',
  'order-suspect': 'wrong filter',
  'off-alike': 'exposure',
  'ring-angle-doubtful': 'wrong angle',
  'size-differs': 'settings',
  'style-moved': 'settings',
  'settings-moved': 'settings',
  'tone-automatic': 'settings',
  'tone-local': 'settings',
};

/** What is to be done at once, where the remedies of a finished session speak of another day. */
const AT_ONCE: Readonly<Record<AlarmKind, string>> = {
  unreadable: 'Shoot this take again; look at the card or the cable if it happens again.',
  exposure: 'Set exposure by hand as the sheet says, and shoot this take again.',
  clipped: 'Shorten the shutter or lower the ISO by a stop, and shoot this take again.',
  dark: 'Lengthen the shutter until it is about as bright as bare, and shoot this take again.',
  moved: 'Put the camera back and fix it, then shoot this take again; touch only the filter.',
  soft: 'Lock the focus, let the camera come to rest, and shoot this take again.',
  light: 'Wait until the light is steady, shoot a bare take now, then this one again.',
  'white balance': 'Set the white balance to one fixed value, and shoot this take again.',
  'wrong filter': 'Look which filter is on, and shoot this take again with the right one.',
  'wrong angle': 'Set the ring to the angle of the sheet, and shoot this take again.',
  'wrong mark': 'Look at which mark the ring stands, and shoot this take again.',
  settings: 'Set the camera as for the bare take, and shoot this take again.',
};

/** The same where a filter was on: brightness that the plan didn't foresee may be another filter's. */
const WITH_FILTER: Readonly<Partial<Record<AlarmKind, string>>> = {
  clipped: 'shorten the shutter or lower the ISO by a stop. Shoot this take again.',
  dark: 'lengthen the shutter until it is about as bright as bare. Shoot this take again.',
};
const WHICH_FILTER = 'Look which filter is on. Where it is the right one, ';
const WHICH_MARK = 'Look which filter is on, and at which mark its ring stands. Where both are right, ';

export interface LiveInput {
  session: Session;
  /** Of what is there so far; `null` before the first measurement. */
  readings: Readings | null;
  checks: readonly Check[];
  strengths: Strengths;
  /** By whole pictures, where there are no better ones. */
  rough?: Strengths;
}

/** Alarms of a sitting so far, those of its newest takes first. */
export function alarmsOf({ session, readings, checks, strengths, rough }: LiveInput): Alarm[] {
  const order = new Map(session.takes.map(({ id }, i) => [id, i]));
  const found: Alarm[] = [
    ...checks.flatMap((check) => ofCheck(check)),
    ...(readings ? allFaults(readings).filter((fault) => isTold(fault, session)) : []).flatMap((fault) =>
      ofFault(fault),
    ),
    ...labelsByFilter(session, strengths, rough),
    ...marksByLabel(session, readings?.filters ?? []),
    ...castsBeside(session, readings?.filters ?? []),
  ];
  const newest = ({ takes }: Alarm) => Math.max(-1, ...takes.map((take) => order.get(take) ?? -1));
  const filtered = new Map(session.takes.flatMap((take) => (take.filter === null ? [] : [[take.id, take] as const])));
  const told = withoutEchoes(found.filter(({ takes }) => takes.some((take) => order.has(take)))).map((alarm) => {
    const advice = alarm.takes.every((take) => filtered.has(take)) ? WITH_FILTER[alarm.kind] : undefined;
    if (advice === undefined) return alarm;
    const turns = alarm.takes.some((take) => filtered.get(take)?.setting?.mark !== undefined);
    return { ...alarm, advice: (turns ? WHICH_MARK : WHICH_FILTER) + advice };
  });
  return told.sort((a, b) => newest(b) - newest(a) || ALARMS.indexOf(a.kind) - ALARMS.indexOf(b.kind));
}

function ofCheck({ code, takes, message, severity }: Check): Alarm[] {
  const kind = OF_CHECKS[code];
  // A soft picture can be measured, but tells the filter's sharpness wrong.
  return kind ? [{ kind, takes, message, advice: AT_ONCE[kind], again: severity === 'stop' || kind === 'soft' }] : [];
}

/** Of these a finished session only warns, since the figure is withheld or its ± holds it; while the set stands one shoots again. */
const SPOILED_ALREADY: ReadonlySet<AlarmKind> = new Set(['soft', 'light', 'wrong filter', 'wrong angle', 'exposure']);

function ofFault({ code, takes, message, severity }: Fault): Alarm[] {
  const kind = severity === 'info' ? undefined : OF_FAULTS[code as FaultCode];
  if (!kind) return [];
  const again = severity === 'error' || SPOILED_ALREADY.has(kind);
  return [{ kind, takes, message, advice: AT_ONCE[kind], again }];
}

/** A crossed polarizer's picture is dark, as it should be. */
function isTold({ code, takes }: Fault, session: Session): boolean {
  const isOf = (role: string) => takes.some((id) => session.takes.find((take) => take.id === id)?.role === role);
  return code !== 'too-dark' || !isOf('sweep');
}

const allFaults = (readings: Readings): Fault[] => [
  ...readings.faults,
  ...readings.filters.flatMap((one) => one.faults),
];

/** One alarm a kind and take: the first that was told, with what the others know of whether to shoot again. */
function withoutEchoes(alarms: readonly Alarm[]): Alarm[] {
  const kept: Alarm[] = [];
  for (const alarm of alarms) {
    const same = kept.find((one) => one.kind === alarm.kind && one.takes.some((take) => alarm.takes.includes(take)));
    if (!same) kept.push({ ...alarm, takes: [...new Set(alarm.takes)] });
    else {
      same.again ||= alarm.again;
      same.takes.push(...alarm.takes.filter((take) => !same.takes.includes(take)));
    }
  }
  return kept;
}
