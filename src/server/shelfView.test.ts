import { keptKitSchema } from '@/core/sitting/kits/keptKit';
import type { HomeSession } from '@/stages/home/listed';
import { entryOf } from './shelfView';

const kit = keptKitSchema.parse({
  id: 'k',
  name: 'Field Set',
  filters: [
    { id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 }, price: 20.1 },
    { id: 'vnd', name: 'VND', kind: 'variable-nd', nominal: { stopsRange: [5, 2] }, price: 60.2 },
  ],
});
const unfound = { id: 'nd8', name: 'ND8', labelStops: 3, labelSpan: null, found: null, span: null, verdict: null };
const turned = { ...unfound, id: 'vnd', span: { low: 2, high: 5, ticks: [] } };
const session = (id: string, more: Partial<HomeSession>) =>
  ({
    id,
    kits: ['Field Set'],
    measured: true,
    day: '2026-05-14',
    finding: 'Both labels are true',
    beads: [
      {
        id: 'nd8',
        name: 'ND8',
        labelStops: 3,
        labelSpan: null,
        found: { value: 3.1, u95: 0.02 },
        span: null,
        verdict: 'true',
      },
    ],
    ...more,
  }) as HomeSession;

test('the newest sitting that measured the kit alone speaks of it', () => {
  const entry = entryOf('shelf', kit, [
    session('unmeasured', { measured: false, beads: [] }),
    session('nothing found', { beads: [unfound], finding: 'Nothing could be measured' }),
    session('both', { kits: ['Field Set', 'Other'] }),
    session('newest', {}),
    session('older', { finding: 'something else' }),
  ]);
  expect(entry.finding).toEqual({ words: 'Both labels are true', day: '2026-05-14', href: '/sessions/newest/verdict' });
  expect(entry.beads?.map(({ found, labelSpan }) => [found?.value ?? null, labelSpan])).toEqual([
    [3.1, null],
    [null, [2, 5]],
  ]);
});

test('a filter that the newest sitting left out speaks by an older one', () => {
  const entry = entryOf('shelf', kit, [session('newest', { beads: [unfound, turned] }), session('older', {})]);
  expect(entry.beads?.[0].found?.value).toBe(3.1);
  expect(entry.finding?.href).toBe('/sessions/newest/verdict');
});

test('a kit that nobody measured shows its labels', () => {
  const entry = entryOf('shelf', kit, [session('x', { kits: ['Another'] })]);
  expect(entry.finding).toBeUndefined();
  expect(entry.beads?.[0]).toMatchObject({ labelStops: 3, found: null });
});

test('what it cost: as a kit, or its filters where each has a price', () => {
  expect(entryOf('s', kit, []).price).toBe('80.3 in all');
  expect(entryOf('s', { ...kit, price: { amount: 75, currency: 'EUR' } }, []).price).toBe('75 EUR');
  const [first, second] = kit.filters;
  expect(entryOf('s', { ...kit, filters: [first, { ...second, price: undefined }] }, []).price).toBeUndefined();
});
