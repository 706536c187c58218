/** One count of a sitting, whatever it was told by. */
import { smallSession } from '@/ui/testing/sessions';
import type { LogEntry } from './shootLog';
import { progressInWords, progressOf } from './progress';

const setting = { shutterSeconds: 0.01, iso: 100, fNumber: 4 };
const planned = ['bare', 'nd4', 'nd8', 'nd16'].map((id) => ({ id, filter: id === 'bare' ? null : id, scene: 'chart', role: 'measure', setting, repeats: 1, short: 0, minute: 0 })); // prettier-ignore
const tap = (kind: LogEntry['kind'], take: string, minute: number): LogEntry => ({
  id: `${kind}-${take}-${minute}`.padEnd(8, '-'),
  kind,
  take,
  at: `2026-05-14T09:0${minute}:00Z`,
});
const sitting = (log: LogEntry[], footage: string[] = []) =>
  smallSession({
    takes: footage.map((id) => ({ id, filter: null, scene: 'chart', role: 'measure', files: [`${id}.png`] })),
    plan: { takes: planned, log },
  });
const words = (...given: Parameters<typeof sitting>) => progressInWords(progressOf(sitting(...given))!);

test.each<[string, LogEntry[], string[], string]>([
  ['nothing yet', [], [], '0 of 4 takes shot, 4 left'],
  ['some tapped', [tap('done', 'bare', 1), tap('skip', 'nd4', 2)], [], '1 of 4 takes shot, 1 skipped, 2 left'],
  ['one again', [tap('done', 'bare', 1), tap('redo', 'bare', 2)], [], '0 of 4 takes shot, 4 left'],
  ['footage without a tap', [], ['bare', 'nd4'], '2 of 4 takes shot, 2 left'],
  ['footage of one that was skipped', [tap('skip', 'nd4', 1)], ['nd4'], '1 of 4 takes shot, 3 left'],
  ['footage and a tap count once', [tap('done', 'bare', 1)], ['bare'], '1 of 4 takes shot, 3 left'],
  ['all of it', [tap('skip', 'nd16', 1)], ['bare', 'nd4', 'nd8'], '3 of 4 takes shot, 1 skipped'],
])('%s', (_, log, footage, told) => expect(words(log, footage)).toBe(told));

test('a session without a plan has none, nor one whose planned takes have footage', () => {
  expect(progressOf(smallSession({}))).toBeNull();
  expect(progressOf(sitting([], ['bare', 'nd4', 'nd8', 'nd16', 'another']))).toBeNull();
});
