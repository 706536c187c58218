/** What an alarm of a sitting is. */
export const ALARMS = [
  'unreadable',
  'exposure',
  'clipped',
  'dark',
  'moved',
  'soft',
  'light',
  'white balance',
  'wrong filter',
  'wrong angle',
  'wrong mark',
  'settings',
] as const;
export type AlarmKind = (typeof ALARMS)[number];

export interface Alarm {
  kind: AlarmKind;
  /** Takes that it is about, in the session's order. */
  takes: string[];
  /** What is wrong, a sentence. */
  message: string;
  /** What to do before the next take, a sentence. */
  advice: string;
  /** Whether these takes have to be shot again. */
  again: boolean;
}
