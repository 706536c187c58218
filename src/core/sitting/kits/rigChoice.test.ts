/** Which rig footage was shot with: told by its files where one camera's check fits them. */
import type { PictureFacts } from '../../reading/facts';
import { NEW_RIG } from './keptRig';
import { choiceByFiles, choicesOf, refusedFor, type RigChoice } from './rigChoice';

const facts = (model?: string, change: object = {}) =>
  ({
    bitDepth: 8,
    compression: { luma: 1, blue: 1, red: 1 },
    encoding: { transfer: 'srgb', source: null, toXyz: null, profile: null, settings: model ? { model } : {} },
    ...change,
  }) as unknown as PictureFacts;

const choice = (rig: string, model: string, checkedAt = '2026-05-14'): RigChoice => ({
  ...choicesOf(rig, { ...NEW_RIG, camera: rig })[0],
  check: { checkedAt, settings: { model }, file: { transfer: '"srgb"', bitDepth: 8, lossy: true } },
});

test('profiles are chosen from without the many numbers of their checks', () => {
  expect(choicesOf('R', { ...NEW_RIG, camera: 'Field' })).toEqual([
    { rig: 'R', profile: 0, camera: 'Field', name: 'Standard', response: { kind: 'srgb' } },
  ]);
});

test('files that name a checked camera choose it, the one checked last', () => {
  const choices = [choice('A', 'M1'), choice('B', 'M2'), choice('C', 'M1', '2026-06-01')];
  expect(choiceByFiles(choices, [facts('M2'), facts('M2')])?.rig).toBe('B');
  expect(choiceByFiles(choices, [facts('M1')])?.rig).toBe('C');
});

test('files that name none, several, or differ from the check’s choose nothing', () => {
  const choices = [choice('A', 'M1')];
  expect(choiceByFiles(choices, [facts()])).toBeNull();
  expect(choiceByFiles(choices, [facts('M1'), facts('M2')])).toBeNull();
  expect(choiceByFiles(choices, [facts('M1', { bitDepth: 16 })])).toBeNull();
  expect(choiceByFiles(choices, [])).toBeNull();
});

test('why a chosen check won’t be used is said once', () => {
  const raw = facts('M1', { compression: undefined, bitDepth: 16 });
  expect(refusedFor(choice('A', 'M1'), [raw, raw])).toEqual(['bit depth', 'compression']);
  expect(refusedFor(choicesOf('A', NEW_RIG)[0], [raw])).toEqual([]);
});
