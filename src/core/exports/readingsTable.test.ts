/** What a spreadsheet gets: each figure once, under its name, with its ±. */
import type { FilterReadings, Readings } from '../session/readings';
import { sessionSchema } from '../session/schema';
import { figuresHeader, figuresRows, readingsHeader, readingsRows } from './readingsTable';

const session = sessionSchema.parse({
  format: 'aurora-glade-session',
  version: 1,
  title: 'One',
  kits: [{ id: 'k', name: 'Field Set', filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } }] }],
  scenes: [{ id: 'chart', kind: 'chart' }],
  takes: [{ id: 'a', filter: 'nd8', scene: 'chart', files: ['a.tif'], exposure: { shutter: '1/100', iso: 100 } }],
});
const at = (value: number, u95: number) => ({ value, u95 });
const filter = {
  filter: 'nd8',
  kit: 'k',
  nominalStops: 3,
  density: {
    stops: at(3.1, 0.02),
    error: at(0.1, 0.021),
    channels: { r: at(3.2, 0.03), g: at(3.1, 0.02), b: at(3, 0.025) },
    byScene: [{ scene: 'chart', role: 'neutral', patch: 'gray', stops: at(3.11, 0.02) }],
    repeats: [
      { take: 'a', stops: at(3.1, 0.03) },
      { take: 'a', stops: at(3.2, 0.03) },
    ],
    budget: [{ source: 'repeats', u: 0.01, share: 1 }],
    actsLike: { ndFactor: 8 },
  },
  sharpness: [
    {
      patch: 'left-level',
      retained: at(0.95, 0.03),
      mtf50: at(0.24, 0.01),
      curves: { bare: [1, 0.5], filtered: [1, 0.4] },
    },
    {
      patch: 'right-level',
      retained: at(0.91, 0.02),
      mtf50: at(0.23, 0.01),
      curves: { bare: [1, 0.5], filtered: [1, 0.4] },
    },
  ],
  shading: {
    worst: at(-0.22, 0.001),
    corners: { topLeft: at(-0.22, 0.001), topRight: at(-0.21, 0.001), bottomLeft: null, bottomRight: at(-0.2, 0.001) },
    map: { columns: 2, rows: 1, stops: [0, -0.2] },
  },
  flare: { veilPercent: at(1.8, 0.2), ghosts: [] },
  verdict: { label: 'true', sentence: '', sharpness: 'slight' },
  faults: [{ code: 'steps-merged', severity: 'warning', takes: [], message: '' }],
} as unknown as FilterReadings;
const readings = { filters: [filter] } as unknown as Readings;

test('one filter a row: kit and filter by name, main figures with their ±, what is withheld empty', () => {
  const [row] = readingsRows(session, readings);
  const header = readingsHeader();
  expect(row).toHaveLength(header.length);
  expect(new Set(header).size).toBe(header.length);
  const cell = (column: string) => row[header.indexOf(column)];
  expect(['kit', 'kit_id', 'filter', 'filter_id'].map(cell)).toEqual(['Field Set', 'k', 'ND8', 'nd8']);
  expect([cell('stops'), cell('stops_u95'), cell('stops_blue'), cell('stops_blue_u95')]).toEqual([
    '3.1',
    '0.02',
    '3',
    '0.025',
  ]);
  // The softest edge speaks.
  expect([cell('sharpness_kept'), cell('sharpness_kept_u95')]).toEqual(['0.91', '0.02']);
  expect([cell('darkest_corner_stops'), cell('corner_bottom_left_stops')]).toEqual(['-0.22', '']);
  expect([cell('veil_percent'), cell('cast_a'), cell('glare_cut_stops_u95')]).toEqual(['1.8', '', '']);
  expect([cell('label_stops'), cell('sharpness_verdict'), cell('acts_like_nd_factor'), cell('faults')]).toEqual([
    '3',
    'slight',
    '8',
    'steps-merged',
  ]);
});

test('one figure a row: every one that the JSON has, by its path there', () => {
  const rows = figuresRows(session, readings);
  for (const row of rows) expect(row).toHaveLength(figuresHeader().length);
  const found = new Map(rows.map((row) => [row[4], row.slice(5)]));
  expect(found.size).toBe(rows.length);
  expect(found.get('density.byScene[gray].stops')).toEqual(['3.11', '0.02']);
  expect(found.get('sharpness[left-level].retained')).toEqual(['0.95', '0.03']);
  expect(found.get('sharpness[right-level].mtf50')).toEqual(['0.23', '0.01']);
  expect(found.get('shading.corners.topRight')).toEqual(['-0.21', '0.001']);
  expect([found.get('density.repeats[a 0].stops'), found.get('density.repeats[a 1].stops')]).toEqual([
    ['3.1', '0.03'],
    ['3.2', '0.03'],
  ]);
  expect(found.get('nominalStops')).toEqual(['3', '']);
  // Each figure with a ± in the document, counted by hand: strength 2, channels 3, scenes 1, repeats 2, sharpness 4, corners 4, veil 1.
  expect(rows.filter((row) => row[6] !== '')).toHaveLength(2 + 3 + 1 + 2 + 4 + 4 + 1);
  // Curves, maps and budgets are no figures.
  expect([...found.keys()].filter((path) => /curves|map|budget|faults/.test(path))).toEqual([]);
});
