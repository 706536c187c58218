/** Which curve stands for which files, and what is said where none can. */
import { parseSession } from '../../session/parse';
import { tableCache } from '../decoding';
import type { FileEncoding } from '../response';
import { checkOf } from '../../testing/cameraCheck';
import { estimateResponse } from './estimate';
import { checkedElsewhere, learnedFromCheck, learnedWith, learnResponse } from './learn';
import { NO_EVIDENCE } from './model';

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
  expect(learned.response.decode[1](0.5)).toBeCloseTo(
    tables.responseOf({ encoding: encoding('bt709') }).decode[1](0.5),
    5,
  );
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
  const better = tableCache(session, new Map(), first.response, ({ encoding: one }) => first.holdsFor(one));
  expect(better.responseOf({ encoding: encoding('bt709') })).toBe(first.response);
  expect(better.responseOf({ encoding: encoding('hlg') }).description).toContain('hlg');
});

test('a file that tells nothing counts as sRGB, which is assumed of it', () => {
  const learned = learnedWith(null, [told('a', 'srgb'), told('b', null)], tables)!;
  expect(learned.faults[0].message).not.toContain('another curve');
});

describe('a walk of a checked camera', () => {
  const estimate = estimateResponse(NO_EVIDENCE, 0.004)!;
  // As sure as a published curve: what is tested is where it is used.
  const check = checkOf(estimate, {
    knownStops: 8,
    settings: { model: 'One' },
    file: { transfer: '"bt709"', bitDepth: 8, lossy: true },
  });
  const checked = { ...session, rig: { ...session.rig, check } };
  const alone = learnedFromCheck(checked, tables)!;

  test('is read with its curve, and nothing in it would show another style', () => {
    const learned = checkedElsewhere(alone, [told('run', 'bt709')], tables);
    expect(u(learned)).toBeLessThan(0.03);
    expect(learned.faults.map(({ code, takes }) => [code, takes])).toEqual([['check-unwitnessed', ['run']]]);
    expect(learned.response.description).toContain('by the camera’s check of 2026-05-14');
  });

  test('with files that tell another curve is as unknown as without it, or open where only some do', () => {
    const none = checkedElsewhere(alone, [told('run', 'srgb')], tables);
    expect(none.faults.map(({ code }) => code)).toEqual(['check-refused', 'curve-unknown']);
    expect(u(none)).toBeGreaterThan(0.35);
    const some = checkedElsewhere(alone, [told('run', 'srgb'), told('back', 'bt709')], tables);
    expect(u(some)).toBeGreaterThan(1);
  });

  test('without a check, or with one of a table, there is none', () => {
    expect(learnedFromCheck(session, tables)).toBeNull();
    const table = { ...check, file: { ...check.file, transfer: '{"points":[]}' } };
    expect(learnedFromCheck({ ...session, rig: { ...session.rig, check: table } }, tables)).toBeNull();
  });
});
