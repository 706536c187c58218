/** Who has which filters when: by hand, and over many numbers of benches and filters. */
import { parseSession } from '../../session/parse';
import type { KeptKit } from '../../sitting/kits/keptKit';
import { formOf, HOME, orderOf, roundRobin, roundRobinSchema, type RoundRobinRequest } from './roundRobin';

const kitOf = (count: number) =>
  ({
    id: 'kit',
    name: 'Foundry Set',
    filters: Array.from({ length: count }, (_, i) => ({ id: `f${i}`, name: `F${i}`, kind: 'nd', nominal: {} })),
  }) as KeptKit;
const REQUEST: RoundRobinRequest = {
  benches: ['Mill Lane', 'Tarn House'],
  control: null,
  firstDay: '2026-12-28',
  days: 10,
  inParcels: false,
};

test('whole, it begins and ends at home; days follow each other over months and years', () => {
  expect(roundRobin(kitOf(2), REQUEST)).toEqual([
    { bench: HOME, filters: ['f0', 'f1'], from: '2026-12-28', until: '2027-01-06' },
    { bench: 'Mill Lane', filters: ['f0', 'f1'], from: '2027-01-07', until: '2027-01-16' },
    { bench: 'Tarn House', filters: ['f0', 'f1'], from: '2027-01-17', until: '2027-01-26' },
    { bench: HOME, filters: ['f0', 'f1'], from: '2027-01-27', until: '2027-02-05' },
  ]);
});

test('the change of the clock moves no day', () => {
  const turns = roundRobin(kitOf(1), { ...REQUEST, firstDay: '2027-03-27', days: 1 });
  expect(turns.map(({ from }) => from)).toEqual(['2027-03-27', '2027-03-28', '2027-03-29', '2027-03-30']);
});

test.each([
  [2, 6, null],
  [3, 6, 'f2'],
  [5, 3, null],
  [7, 12, 'f0'],
])(
  'in parcels every one of %d other benches has each of %d filters once, and no filter is at two at a time',
  (others, count, control) => {
    const benches = Array.from({ length: others }, (_, i) => `B${i}`);
    const turns = roundRobin(kitOf(count), { ...REQUEST, benches, control, inParcels: true });
    const travelling = kitOf(count).filters.map(({ id }) => id).filter((id) => id !== control); // prettier-ignore
    for (const bench of [HOME, ...benches])
    expect(turns.filter((turn) => turn.bench === bench).flatMap(({ filters }) => filters).sort()).toEqual([...travelling].sort()); // prettier-ignore
    for (const day of new Set(turns.map(({ from }) => from))) {
      const atOnce = turns.filter(({ from }) => from === day).flatMap(({ filters }) => filters);
      expect(new Set(atOnce).size).toBe(atOnce.length);
    }
    // As many rounds as there are benches.
    expect(new Set(turns.map(({ from }) => from)).size).toBeLessThanOrEqual(others + 1);
  },
);

test('bare and the control come first and last, bare between as well', () => {
  const [turn] = roundRobin(kitOf(5), REQUEST);
  expect(orderOf(turn, kitOf(5), 'f4')).toEqual(['bare', 'F4', 'F0', 'F1', 'bare', 'F2', 'F3', 'F4', 'bare']);
  expect(orderOf(turn, kitOf(5), null)).toEqual(['bare', 'F0', 'F1', 'bare', 'F2', 'F3', 'bare', 'F4', 'bare']);
});

test('a form is a session that opens, with the kit’s own names and ids', () => {
  const document = formOf(kitOf(3), { ...REQUEST, control: 'f0' }, 'Mill Lane');
  const session = parseSession(JSON.parse(JSON.stringify(document)));
  expect(session.title).toBe('Round robin · Foundry Set · Mill Lane');
  expect(session.kits[0].filters.map(({ id, name }) => [id, name])).toEqual([['f0', 'F0'], ['f1', 'F1'], ['f2', 'F2']]); // prettier-ignore
  expect((session as { notes?: string }).notes).toContain('2027-01-07 to 2027-01-16: bare, F0, F1, F2, F0, bare.');
});

test.each([
  [{ benches: [] }, 'needs another bench'],
  [{ benches: ['A', 'a'] }, 'one name'],
  [{ benches: ['home'] }, 'your own'],
  [{ days: 0 }, '1'],
  [{ firstDay: 'soon' }, 'date'],
])('%j is refused', (part, words) => {
  const parsed = roundRobinSchema.safeParse({ ...REQUEST, ...part });
  expect(parsed.success).toBe(false);
  expect(JSON.stringify(parsed.error!.issues).toLowerCase()).toContain(words.toLowerCase());
});
