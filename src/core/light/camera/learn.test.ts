/** Which curve stands for which files, and what is said where none can. */
import { parseSession } from '../../session/parse';
import { tableCache } from '../decoding';
import type { FileEncoding } from '../response';
import { learnedWith, learnResponse } from './learn';

const session = parseSession({
  format: 'aurora-glade-session',
  version: 1,
  scenes: [{ id: 'walk', kind: 'outdoor' }],
  takes: [],
});
const tables = tableCache(session, new Map(), null);
const encoding = (transfer: FileEncoding['transfer']): FileEncoding => ({ transfer, source: 'a tag', toXyz: null, profile: null }); // prettier-ignore
const told = (take: string, transfer: FileEncoding['transfer']) => ({ take, encoding: encoding(transfer) });
const stop = [
  [0.5, 1],
  [0.35, -1],
] as const;
const u = (learned: NonNullable<ReturnType<typeof learnedWith>>) =>
  Math.sqrt(learned.response.covariance!([stop, stop, stop])[4]);

test('where every file is believed nothing is learned', () => {
  expect(learnResponse([], session, tables)).toBeNull();
  expect(learnedWith(null, [], tables)).toBeNull();
});

test('a walk alone: as unknown as before any picture, around the curve that is told', () => {
  const learned = learnedWith(null, [told('run', 'bt709')], tables)!;
  expect(learned.faults.map(({ code }) => code)).toEqual(['curve-unknown']);
  expect(learned.response.decode[1](0.5)).toBeCloseTo(tables.responseOf(encoding('bt709')).decode[1](0.5), 5);
  // About a stop of light lies between these codes: σ = 0.35 a stop, and 0.8 of it once more.
  expect(u(learned)).toBeGreaterThan(0.35);
  expect(u(learned)).toBeLessThan(0.9);
});

test('files that tell another curve leave all open, and are named', () => {
  const learned = learnedWith(null, [told('a', 'bt709'), told('b', 'srgb'), told('c', 'bt709')], tables)!;
  expect(learned.faults).toHaveLength(1);
  expect(learned.faults[0].takes).toEqual(['b']);
  expect(u(learned)).toBeGreaterThan(1);
});

test('what was learned of one curve doesn’t stand for another', () => {
  const first = learnedWith(null, [told('a', 'bt709')], tables)!;
  expect(learnedWith(first, [told('b', 'bt709')], tables)).toBe(first);
  expect(learnedWith(first, [told('b', 'srgb')], tables)!.faults[0].message).toContain('another curve');
  const better = tableCache(session, new Map(), first.response, first.holdsFor);
  expect(better.responseOf(encoding('bt709'))).toBe(first.response);
  expect(better.responseOf(encoding('hlg')).description).toContain('hlg');
});

test('a file that tells nothing counts as sRGB, which is assumed of it', () => {
  const learned = learnedWith(null, [told('a', 'srgb'), told('b', null)], tables)!;
  expect(learned.faults[0].message).not.toContain('another curve');
});
