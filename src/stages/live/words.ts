/** What a live sitting says, in short: it is read standing, and spoken. */
import type { Alarm, AlarmKind } from '@/core/sitting/live/alarm';
import type { LiveBead } from '@/core/sitting/live/beads';
import type { LeftOut } from '@/core/sitting/live/leftOut';
import type { Reading } from '@/core/session/readings';
import type { Ahead, LiveView } from '@/core/sitting/live/live';
import { fixed, plusMinus } from '@/ui/format';

export const ALARM_WORDS: Readonly<Record<AlarmKind, string>> = {
  unreadable: 'Can’t be read',
  exposure: 'Exposure',
  clipped: 'Clipped',
  dark: 'Too dark',
  moved: 'The view moved',
  soft: 'Not sharp',
  light: 'The light changed',
  'white balance': 'White balance',
  'wrong filter': 'Wrong filter?',
  'wrong angle': 'Wrong ring angle?',
  'wrong mark': 'Wrong mark?',
  settings: 'Camera settings',
};

/** How a sitting stands, in one line. */
export function titleOf({ beads, alarms, ahead, reached }: LiveView, wanted: number): string {
  const total = beads.length;
  if (alarms.some(({ again }) => again)) return 'Something has to be shot again';
  if (total > 0 && reached === total) return `Every filter is within ${plusMinus(wanted, 2)}`;
  if (ahead.length === 0 && beads.every(({ pictures }) => pictures === 0)) return 'Nothing is planned';
  return `${reached} of ${total} filters within ${plusMinus(wanted, 2)}`;
}

/** "ND8, chart: 2 pictures", "VND 2–5 at mark 3, chart: 2 pictures". */
export function aheadWords(
  { filter, scene, pictures, why, isDarker, mark, ringDegrees }: Ahead,
  nameOf: (id: string) => string,
): string {
  const ring = mark !== undefined ? ` at mark ${mark}` : ringDegrees !== undefined ? ` at ${ringDegrees}°` : '';
  const what = filter === null ? (isDarker ? 'Bare, darker' : 'Bare') : nameOf(filter) + ring;
  const count = `${pictures} ${pictures === 1 ? 'picture' : 'pictures'}`;
  const reason = { planned: '', again: ', again', closer: ' more, for the ±', bare: ', to close it in' }[why];
  return `${what}, ${scene}: ${count}${reason}`;
}

/**
 * What is missing until a filter's ± is as asked for.
 *
 * @param isCurrent whether all that has arrived is measured
 */
export function missingWords({ state, more, planned, help, pictures }: LiveBead, isCurrent: boolean): string {
  switch (state) {
    case 'to shoot':
      if (pictures > 0) return isCurrent ? 'these pictures tell no strength' : 'being measured';
      return planned > 0 ? 'to be shot' : 'not planned';
    case 'withheld':
      return help ?? 'withheld';
    case 'reached':
      return 'reached';
    case 'wide':
      return more !== null ? `${more} ${more === 1 ? 'picture' : 'pictures'} more` : (help ?? 'a bare take more');
    case 'stuck':
      return help ?? 'more pictures won’t bring it closer';
  }
}

/** Minutes as people plan by them. */
export function minutesInWords(minutes: number): string {
  const whole = Math.ceil(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${whole % 60} min`;
}

/** An alarm as it is spoken. */
export const spoken = ({ kind, advice }: Pick<Alarm, 'kind' | 'advice'>) =>
  `${ALARM_WORDS[kind].replace('?', '')}. ${advice}`;

/** A take that was left out by itself, as it is spoken; nothing where a person left it out, who knows. */
export const leftOutSpoken = ({ take, kind, advice }: LeftOut): string[] =>
  kind && advice ? [`${take}: ${spoken({ kind, advice })}`] : [];

/** Provisional strengths, each with where it is taken if there are several; a dash while there is none. */
export const strengthWords = ({ stops, parts }: Pick<LiveBead, 'stops' | 'parts'>): { at: string; words: string }[] => {
  const words = ({ value, u95 }: Reading) => `${fixed(value)} ${plusMinus(u95)}`;
  if (parts.length > 0) return parts.map((one) => ({ at: one.at, words: words(one.stops) }));
  return [{ at: '', words: stops ? words(stops) : '–' }];
};

/** "5.0", "2.0–5.0". */
export const labelWords = ({ label, labelSpan }: Pick<LiveBead, 'label' | 'labelSpan'>) =>
  label !== null ? label.toFixed(1) : labelSpan ? labelSpan.map((end) => end.toFixed(1)).join('–') : '–';
