import fc from 'fast-check';
import { lastEntry, mergeLogs, nextTake, notedOffset, readLog, type LogEntry } from './shootLog';
import type { PlannedTake } from './plan';

const setting = { shutterSeconds: 1 / 250, iso: 100, fNumber: 2.8 };
const takes = ['chart-bare-1', 'chart-nd8', 'chart-bare-2'].map((id, i): PlannedTake => ({
  id,
  filter: i === 1 ? 'nd8' : null,
  scene: 'chart',
  role: 'measure',
  setting,
  repeats: 1,
  short: 0,
  minute: i,
}));
let count = 0;
const entry = (kind: LogEntry['kind'], take: string, more: Partial<LogEntry> = {}): LogEntry => ({
  id: `entry-${String(++count).padStart(4, '0')}`,
  kind,
  take,
  at: new Date(Date.parse('2026-05-14T09:00:00Z') + count * 1000).toISOString(),
  ...more,
});

test('done moves on, redo opens again and forgets the cloud, skip passes by', () => {
  const log = [entry('done', 'chart-bare-1'), entry('cloud', 'chart-nd8'), entry('done', 'chart-nd8')];
  let state = readLog(takes, log);
  expect(state.map((one) => one.state)).toEqual(['done', 'done', 'open']);
  expect(state[1].cloud).toBe(true);
  expect(nextTake(state)!.take.id).toBe('chart-bare-2');
  log.push(entry('redo', 'chart-nd8'));
  state = readLog(takes, log);
  expect(nextTake(state)).toMatchObject({ take: { id: 'chart-nd8' }, cloud: false });
  log.push(entry('skip', 'chart-nd8'), entry('done', 'chart-bare-2'));
  expect(nextTake(readLog(takes, log))).toBeNull();
});

test('the last tap is taken back, and again', () => {
  const log = [entry('done', 'chart-bare-1'), entry('done', 'chart-nd8')];
  log.push(entry('undo', 'chart-nd8', { of: lastEntry(log)!.id }));
  expect(readLog(takes, log).map((one) => one.state)).toEqual(['done', 'open', 'open']);
  log.push(entry('undo', 'chart-bare-1', { of: lastEntry(log)!.id }));
  expect(readLog(takes, log).every((one) => one.state === 'open')).toBe(true);
  expect(lastEntry(log)).toBeNull();
});

test('settings and notes stay with the take, the clock’s offset with the sitting', () => {
  const log = [
    entry('setting', 'chart-nd8', { setting: { ...setting, iso: 200 } }),
    entry('note', 'chart-nd8', { text: 'edge of a cloud' }),
    { ...entry('clock', ''), take: undefined, text: '2026-05-14T10:00:10Z', at: '2026-05-14T09:00:00Z' },
  ];
  const state = readLog(takes, log)[1];
  expect(state.setting.iso).toBe(200);
  expect(state.notes).toEqual(['edge of a cloud']);
  expect(notedOffset(log)).toBe(3_610_000);
});

test('two phones, sent twice, in any order: the same state (property)', () => {
  const kinds = ['done', 'redo', 'skip', 'cloud', 'wrong'] as const;
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom(...kinds), fc.integer({ min: 0, max: 2 })), { maxLength: 12 }),
      fc.integer({ min: 0, max: 12 }),
      (taps, cut) => {
        const log = taps.map(([kind, i]) => entry(kind, takes[i].id));
        const [one, other] = [log.slice(0, cut), log.slice(Math.max(0, cut - 3))];
        expect(readLog(takes, mergeLogs(other, one))).toEqual(readLog(takes, log));
        expect(mergeLogs(one, other)).toHaveLength(log.length);
      },
    ),
  );
});
