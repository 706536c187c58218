/** Words of the kit's steps, and what no label is given to. */
import { plainReadings } from '@/ui/testing/sessions';
import { stepInWords } from './stepWords';
import { actsLikeOf } from './VerdictTable';

test('a step that is one is told with its limits, not as what it was labelled', () => {
  expect(stepInWords({ state: 'even', limits: [1.5, 4.5] })).toBe('within 1.50 to 4.50');
  expect(stepInWords({ state: 'gap', limits: [1.5, 4.5] })).toBe('a gap');
});

test('a polarizer without a label of strength acts like no ND filter; one that says ND does', () => {
  const plain = plainReadings('pl', 2);
  expect(actsLikeOf(plain)).toBe(4);
  expect(actsLikeOf({ ...plain, polarizer: {}, nominalStops: null } as never)).toBeUndefined();
  expect(actsLikeOf({ ...plain, polarizer: {}, nominalStops: 2 } as never)).toBe(4);
});
