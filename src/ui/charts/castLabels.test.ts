import fc from 'fast-check';
import { labelsNear, placeLabels } from './castLabels';

test('a name stands beside its dot, on the other side where the drawing ends', () => {
  expect(placeLabels([{ x: 50, y: 80, name: 'ND8' }], 300)).toEqual([{ x: 59, y: 80, align: 'left' }]);
  expect(placeLabels([{ x: 290, y: 80, name: 'ND8' }], 300)).toEqual([{ x: 281, y: 80, align: 'right' }]);
});

test('names of near dots are pushed apart, equally, in the order of their dots', () => {
  const [low, high] = placeLabels([{ x: 100, y: 62, name: 'ND8' }, { x: 101, y: 60, name: 'ND64' }], 300); // prettier-ignore
  expect(low.y - high.y).toBeGreaterThan(13.9);
  expect((low.y + high.y) / 2).toBeCloseTo(61, 6);
});

test('names far apart stay; of any few dots no two names cover each other', () => {
  const far = [
    { x: 20, y: 60, name: 'ND8' },
    { x: 200, y: 61, name: 'ND64' },
  ];
  expect(placeLabels(far, 300).map(({ y }) => y)).toEqual([60, 61]);
  const dot = fc.record({
    x: fc.integer({ min: 60, max: 200 }),
    y: fc.integer({ min: 40, max: 200 }),
    name: fc.constant('ND1000'),
  });
  fc.assert(
    fc.property(fc.array(dot, { maxLength: 6 }), (dots) => {
      const places = placeLabels(dots, 300);
      for (const [i, a] of places.entries())
        for (const b of places.slice(i + 1)) expect(Math.abs(a.x - b.x) > 44 || Math.abs(a.y - b.y) > 13).toBe(true);
    }),
  );
});

test('of dots on one place as many are named as can stand near it, the others not at all', () => {
  const dots = Array.from({ length: 12 }, (_, i) => ({ x: 100, y: 100, name: `ND${i}` }));
  const places = labelsNear([...dots, { x: 300, y: 40, name: 'far' }], 400);
  const named = places.filter((one) => one !== null);
  expect(named.length).toBeGreaterThan(2);
  expect(named.length).toBeLessThan(8);
  expect(places.at(-1)).toMatchObject({ x: 309, y: 40 });
  for (const [i, place] of places.slice(0, -1).entries())
    if (place) expect(Math.abs(place.y - dots[i].y)).toBeLessThanOrEqual(24);
  const rows = places
    .slice(0, -1)
    .flatMap((one) => (one ? [one.y] : []))
    .sort((a, b) => a - b);
  for (let i = 1; i < rows.length; i++) expect(rows[i] - rows[i - 1]).toBeGreaterThan(13.9);
});
