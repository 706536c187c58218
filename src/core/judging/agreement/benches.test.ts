/** Other people's readings: taken in from their tables and files, and laid beside one's own. */
import { readingsSchema, type FilterReadings } from '../../session/readings';
import type { KitSitting } from '../ranking/figures';
import { benchOf, besideOthers, ownBench, patternsOf, sharedBy } from './benches';
import { benchOfReadings, benchOfRows, otherBenchSchema } from './otherBench';

const HEAD = ['kit', 'filter', 'label_stops', 'stops', 'stops_u95', 'cast_b', 'cast_b_u95'];

describe('a table', () => {
  test('gives the filters with their figures; columns may stand in any order, and more may be there', () => {
    const { filters, problems } = benchOfRows([
      ['Filter', 'extra', 'STOPS_U95', 'stops', 'kit', 'label_stops'],
      ['ND8', 'x', '0.02', '3.10', 'Foundry Set', '3'],
      ['ND16', '', '0,03', '3,95', 'Foundry Set', ''],
    ]);
    expect(problems).toEqual([]);
    expect(filters).toEqual([
      { kit: 'Foundry Set', filter: 'ND8', label: 3, figures: { strength: { value: 3.1, u95: 0.02 } } },
      { kit: 'Foundry Set', filter: 'ND16', label: null, figures: { strength: { value: 3.95, u95: 0.03 } } },
    ]);
  });

  test('a figure without a ±, with a negative one, or that is no number is left out and told; others of the row stay', () => {
    const { filters, problems } = benchOfRows([
      HEAD,
      ['K', 'a', '3', '3.1', '', '1.5', '0.4'],
      ['K', 'b', '3', '3.1', '-0.1', '', ''],
      ['K', 'c', '3', 'about 3', '0.1', '', ''],
      ['K', '', '3', '3', '0.1', '', ''],
      ['', '', '', '', '', '', ''],
    ]);
    expect(filters).toEqual([
      { kit: 'K', filter: 'a', label: 3, figures: { 'warm/cool (b*)': { value: 1.5, u95: 0.4 } } },
    ]);
    expect(problems).toEqual([
      'Row 2, a: stops has no ± in stops_u95.',
      'Row 3, b: stops has no ± in stops_u95.',
      'Row 4, c: “about 3” in stops is no number.',
      'Row 5 names no filter.',
    ]);
  });

  test('without the column of filters or any of figures there is nothing to take in, and it says so', () => {
    expect(benchOfRows([['name', 'stops']]).problems).toEqual(['There is no column “filter”.']);
    expect(benchOfRows([['filter', 'price']]).problems[0]).toContain('There is no column of figures: “stops”');
    expect(benchOfRows([]).filters).toEqual([]);
  });
});

/** A filter's readings of one strength. */
const reading = (filter: string, value: number, u95: number, kit = 'k', nominalStops: number | null = null) =>
  ({
    filter,
    kit,
    nominalStops,
    density: { stops: { value, u95 }, channels: {}, byScene: [], budget: [] },
    verdict: { label: 'true', sentence: '' },
    faults: [],
  }) as unknown as FilterReadings;

test('a readings file gives what isn’t withheld, by ids', () => {
  const file = readingsSchema.parse({
    format: 'aurora-glade-readings',
    version: 1,
    session: 's',
    createdAt: '2026-05-14T09:00:00Z',
    generator: 'test',
    response: { kind: 'srgb' },
    faults: [],
    filters: [
      {
        ...reading('nd8', 3.1, 0.02),
        density: {
          stops: { value: 3.1, u95: 0.02 },
          channels: { r: { value: 3, u95: 1 }, g: { value: 3, u95: 1 }, b: { value: 3, u95: 1 } },
          byScene: [],
          budget: [],
        },
      },
      { filter: 'nd64', kit: 'k', nominalStops: 6, verdict: { label: 'withheld', sentence: '' }, faults: [] },
    ],
  });
  expect(benchOfReadings(file).filters).toEqual([
    { kit: 'k', filter: 'nd8', label: null, figures: { strength: { value: 3.1, u95: 0.02 } } },
  ]);
});

test('a bench needs a name and a figure', () => {
  const filters = [{ kit: 'K', filter: 'a', label: null, figures: {} }];
  expect(otherBenchSchema.safeParse({ name: ' ', file: 'a.csv', filters }).success).toBe(false);
  expect(otherBenchSchema.safeParse({ name: 'A', file: 'a.csv', filters: [] }).success).toBe(false);
  expect(otherBenchSchema.safeParse({ name: 'A', file: 'a.csv', filters }).success).toBe(true);
});

describe('beside one’s own', () => {
  const sitting = (session: string, readings: FilterReadings[]): KitSitting => ({
    session,
    title: session,
    kit: { id: 'k', name: 'Foundry Set', filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: {} }, { id: 'nd64', name: 'ND64', kind: 'nd', nominal: {} }] } as KitSitting['kit'], // prettier-ignore
    readings,
  });
  const own = ownBench([
    sitting('a', [reading('nd8', 3.1, 0.02, 'k', 3), reading('nd64', 6.3, 0.02, 'k', 6)]),
    sitting('b', [reading('nd8', 3.12, 0.02, 'k', 3)]),
  ]);
  const other = (name: string, filters: [string, number, number?][], kit = 'foundry set') =>
    benchOf(name, {
      name,
      file: 'x.csv',
      filters: filters.map(([filter, value, label = 3]) => ({
        kit,
        filter,
        label,
        figures: { strength: { value, u95: 0.04 } },
      })),
    });

  test('own sittings are one bench, combined by 1/u² (by hand: 3.11 ± .02/√2, widened by the Birge ratio √2)', () => {
    const [nd8] = own.filters;
    expect(nd8.figures.strength!.value).toBeCloseTo(3.11, 12);
    expect(nd8.figures.strength!.u95).toBeCloseTo(0.02, 12);
  });

  test('a table that has a filter twice is one bench all the same', () => {
    const [shared] = sharedBy([own, other('A', [['ND8', 3.2], ['nd 8', 3.24]])], 'strength', 'filter'); // prettier-ignore
    expect(shared.results.map(({ bench }) => bench)).toEqual(['This bench', 'A']);
    expect(shared.results[1].reading.value).toBeCloseTo(3.22, 12);
    // What parts numbers parts names.
    expect(sharedBy([other('A', [['mist 1/4', 1]]), other('B', [['mist 14', 1]])], 'strength', 'filter')).toEqual([]);
  });

  test('names are one without case, blanks and hyphens; ids of one’s own serve as well; what only one has isn’t shared', () => {
    const shared = sharedBy([own, other('A', [['nd-8', 3.2]]), other('B', [['ND 8', 3.15], ['ND1000', 10]])], 'strength', 'filter'); // prettier-ignore
    expect(shared).toHaveLength(1);
    expect(shared[0].name).toBe('ND8 of Foundry Set');
    expect(shared[0].results.map(({ bench }) => bench)).toEqual(['This bench', 'A', 'B']);
    const byIds = sharedBy([own, other('C', [['nd64', 6.3]], 'k')], 'strength', 'filter');
    expect(byIds.map(({ name }) => name)).toEqual(['ND64 of Foundry Set']);
    // Another kit of one's own label is another filter.
    expect(sharedBy([own, other('D', [['ND8', 3.1]], 'Harbour Six')], 'strength', 'filter')).toEqual([]);
    expect(sharedBy([own, other('D', [['ND8', 3.1]], 'Harbour Six')], 'strength', 'label')[0].name).toBe('Labelled 3 stops'); // prettier-ignore
  });

  test('one’s own strengths beside those of others: what nobody else measured is left out', () => {
    const beside = besideOthers(own, [other('A', [['ND8', 3.12]]), other('B', [['ND8', 3.6]])], 0.1);
    expect(beside).toHaveLength(1);
    expect(beside[0]).toMatchObject({ filter: 'ND8 of Foundry Set', benches: ['A', 'B'], word: 'agrees' });
    expect(besideOthers(own, [other('A', [['ND8', 3.6]])], 0.1)[0].word).toBe('off');
    expect(besideOthers(own, [], 0.1)).toEqual([]);
  });

  test('of two benches no one is said to be off; of three the one whose curve is off is', () => {
    const filters = [1, 2, 3, 4, 5, 6];
    const at = (name: string, off: (stops: number) => number) =>
      other(name, filters.map((stops) => [`F${stops}`, stops + off(stops), stops] as [string, number, number])); // prettier-ignore
    const [a, b, curved] = [at('A', () => 0.004), at('B', () => -0.004), at('C', (stops) => 0.05 * stops)];
    expect(patternsOf([a, curved], 0.1)).toEqual([]);
    const found = new Map(patternsOf([a, b, curved], 0.1).map(({ bench, pattern }) => [bench, pattern]));
    expect(found.get('C')).toMatchObject({ what: 'response', slope: { value: expect.closeTo(0.05, 3) } });
  });
});
