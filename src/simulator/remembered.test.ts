import { remembered } from './remembered';

test('what is known is not made again; the oldest is forgotten first', () => {
  const made: string[] = [];
  const of = remembered(10);
  const ask = (key: string, length = 4) => of(key, () => (made.push(key), new Float64Array(length)));
  const first = ask('a');
  ask('b');
  expect(ask('a')).toBe(first);
  ask('c');
  // "b" was asked for the longest ago.
  ask('a');
  ask('b');
  expect(made).toEqual(['a', 'b', 'c', 'b']);
});

test('one that is larger than the memory is given all the same, and forgotten by the next', () => {
  const of = remembered(10);
  const large = of('large', () => new Float64Array(50));
  expect(large).toHaveLength(50);
  of('small', () => new Float64Array(1));
  expect(of('large', () => new Float64Array(50))).not.toBe(large);
});
