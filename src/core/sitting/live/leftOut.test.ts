/** Takes left out while one shoots, by taps and by hand: small documents, as their files have them. */
import { parseSession } from '../../session/parse';
import type { LogEntry } from '../planning/shootLog';
import { everLeftOut, heedTaps, leaveOut, leftOutOf, putBack } from './leftOut';

const NOW = Date.parse('2026-05-14T09:00:00Z');
const AT = '2026-05-14T09:00:00Z';

const take = (id: string) => ({ id, filter: id === 'bare' ? null : 'nd4', scene: 'chart', files: [`${id}-1.jpg`, `${id}-2.jpg`], note: `of ${id}` }); // prettier-ignore
const document = (...ids: string[]) => ({
  format: 'aurora-glade-session',
  version: 1,
  title: 'Left out',
  rig: { camera: 'C', response: { kind: 'srgb' } },
  kits: [{ id: 'k', name: 'K', filters: [{ id: 'nd4', name: 'ND4', kind: 'nd', nominal: { ndFactor: 4 } }] }],
  scenes: [{ id: 'chart', kind: 'chart' }],
  takes: ids.map(take),
  patches: [],
  plan: { request: { mine: true } },
});
const out = (id: string, by?: string) => ({ take: id, message: 'A hand in it.', at: AT, ...(by ? { by } : {}) });
const ids = ({ takes }: Record<string, unknown>) => (takes as { id: string }[]).map(({ id }) => id);
const tap = (kind: LogEntry['kind'], more: Partial<LogEntry>): LogEntry => ({ id: 'tap-00001', kind, at: AT, ...more });

test('a take is left out with its files, and the rest of the document stays', () => {
  const without = leaveOut(document('bare', 'a', 'b'), out('a'));
  expect(ids(without)).toEqual(['bare', 'b']);
  expect(leftOutOf(parseSession(without))).toEqual([{ ...out('a'), files: ['a-1.jpg', 'a-2.jpg'], after: 'bare' }]);
  expect(without.plan).toMatchObject({ request: { mine: true } });
  const same = document('bare');
  expect(leaveOut(same, out('a'))).toBe(same);
});

test('put back it is where it was, with all that its file said of it', () => {
  const whole = document('bare', 'a', 'b', 'c', 'd');
  const twice = leaveOut(leaveOut(whole, out('b', 'first')), out('d', 'second'));
  expect(ids(twice)).toEqual(['bare', 'a', 'c']);
  // In whichever order they come back.
  expect(putBack(putBack(twice, 'first'), 'second').takes).toEqual(whole.takes);
  expect(putBack(putBack(twice, 'second'), 'first').takes).toEqual(whole.takes);
  expect(ids(putBack(leaveOut(document('a', 'b'), out('a', 'x')), 'x'))).toEqual(['a', 'b']);
  // It isn't left out any more, but was once.
  const back = parseSession(putBack(twice, 'first'));
  expect(leftOutOf(back).map((one) => one.take)).toEqual(['d']);
  expect(everLeftOut(back).map((one) => one.take)).toEqual(['b', 'd']);
  // Twice taken back, or something that nobody left out: nothing changes.
  expect(putBack(putBack(twice, 'first'), 'first').takes).toEqual(putBack(twice, 'first').takes);
  expect(putBack(twice, 'another')).toBe(twice);
});

test('where it was shot anew meanwhile all its pictures count', () => {
  const without = leaveOut(document('bare', 'a'), out('a', 'x'));
  const anew = { ...without, takes: [...without.takes as object[], { ...take('a'), files: ['new.jpg'] }] }; // prettier-ignore
  expect((putBack(anew, 'x').takes as object[])[1]).toMatchObject({
    id: 'a',
    files: ['a-1.jpg', 'a-2.jpg', 'new.jpg'],
  });
});

describe('taps', () => {
  test('“Redo” leaves a laid take out, taking it back puts it there again', () => {
    const redone = heedTaps(document('bare', 'a'), [tap('redo', { take: 'a' })], NOW + 2000, true);
    expect(ids(redone.document)).toEqual(['bare']);
    expect(redone.late).toEqual([]);
    expect(leftOutOf(parseSession(redone.document))[0]).toMatchObject({ take: 'a', message: '“Redo” was tapped.' });
    const undone = heedTaps(redone.document, [tap('undo', { id: 'tap-00002', of: 'tap-00001' })], NOW + 9000, true);
    expect(ids(undone.document)).toEqual(['bare', 'a']);
    // Both at once, as a phone sends what it kept.
    const both = heedTaps(document('bare', 'a'), [tap('redo', { take: 'a' }), tap('undo', { id: 'tap-00002', of: 'tap-00001' })], NOW, true); // prettier-ignore
    expect(ids(both.document)).toEqual(['bare', 'a']);
  });

  test('after the sitting “Redo” is only a tap, but one that was done can still be taken back', () => {
    const whole = document('bare', 'a');
    expect(heedTaps(whole, [tap('redo', { take: 'a' })], NOW, false)).toEqual({ document: whole, late: [] });
    const redone = heedTaps(whole, [tap('redo', { take: 'a' })], NOW, true).document;
    const undone = heedTaps(redone, [tap('undo', { id: 'tap-00002', of: 'tap-00001' })], NOW + 900_000, false);
    expect(ids(undone.document)).toEqual(['bare', 'a']);
  });

  test('a late one leaves pictures alone and is told; one of a take without pictures is only a tap', () => {
    const whole = document('bare', 'a');
    expect(heedTaps(whole, [tap('redo', { take: 'a' })], NOW + 61_000, true)).toEqual({ document: whole, late: ['a'] });
    expect(heedTaps(whole, [tap('redo', { take: 'b' })], NOW + 61_000, true)).toEqual({ document: whole, late: [] });
    expect(heedTaps(whole, [tap('done', { take: 'a' }), tap('skip', { take: 'a' })], NOW, true).document).toBe(whole);
  });
});
