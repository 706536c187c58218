import { checkMass } from './mass';
import { filtersOfShorthand, handlingFlaws, keptKitSchema, readLabel, type KeptKit } from './keptKit';
import { kitsOfRows, rowsOfKits, yearIn } from './kitsTable';
import { keptRigSchema, NEW_RIG, planRigOf } from './keptRig';

const kit: KeptKit = keptKitSchema.parse({
  id: 'kit',
  name: 'Foundry Set',
  maker: 'Palewright',
  obtained: 'lent',
  year: 2024,
  mount: '67 mm thread',
  price: { amount: 89, currency: 'EUR' },
  filters: [
    {
      id: 'nd8',
      name: 'ND8',
      kind: 'nd',
      nominal: { ndFactor: 8 },
      massGrams: 2.4,
      price: 19.5,
      serial: 'PW-0042',
      handling: { fit: true, shaken: true },
      notes: 'says "8", looks like 6',
    },
    { id: 'vnd', name: 'VND 2-5', kind: 'variable-nd', nominal: { stopsRange: [2, 5] } },
    { id: 'nd16-pl', name: 'ND16/PL', kind: 'nd-polarizer', nominal: { ndFactor: 16 } },
    { id: 'cpl', name: 'CPL', kind: 'polarizer', nominal: {} },
    { id: 'clear', name: 'Clear', kind: 'clear', nominal: { stops: 0 } },
    { id: 'mist', name: 'Mist 1/4', kind: 'diffusion', nominal: {} },
    { id: 'yellow', name: 'Yellow', kind: 'color', nominal: {} },
    { id: 'ir', name: 'IR cut', kind: 'infrared-cut', nominal: { stops: 0 } },
    { id: 'unmarked', name: 'Gray one', kind: 'nd', nominal: {} },
    { id: 'third', name: '6 1/3', kind: 'nd', nominal: { opticalDensity: 1.9 } },
  ],
});

test('rows of a kit are read back to the same kit', () => {
  const { kits, problems } = kitsOfRows(rowsOfKits([kit]));
  expect(problems).toEqual([]);
  expect(kits).toHaveLength(1);
  const strip = ({ filters, ...rest }: KeptKit) => ({
    ...rest,
    filters: filters.map(({ id: _, ...filter }) => filter),
  });
  expect(strip(kits[0])).toEqual(strip(kit));
});

test('columns come in any order, in other words and with a decimal comma; what can’t be read is told with its row', () => {
  const { kits, problems } = kitsOfRows([
    ['Weight', 'Name', 'ND'],
    ['2,5 g', 'First', 'ND4'],
    ['', '', ''],
    ['heavy', 'Second', '0.9'],
    ['3', 'Third', 'nd-something'],
  ]);
  expect(kits[0].filters.map(({ name, massGrams, nominal }) => [name, massGrams, nominal])).toEqual([
    ['First', 2.5, { ndFactor: 4 }],
    ['Second', undefined, { opticalDensity: 0.9 }],
  ]);
  expect(problems).toHaveLength(2);
  expect(problems[0]).toContain('Row 3: the mass “heavy”');
  expect(problems[1]).toContain('Row 4: “nd-something”');
});

test('several kits in one table, filters of one name told apart', () => {
  const { kits } = kitsOfRows([
    ['kit', 'filter'],
    ['One', 'ND4'],
    ['Two', 'ND4'],
    ['One', 'ND4'],
  ]);
  expect(kits.map((one) => [one.name, one.filters.map((filter) => filter.id)])).toEqual([
    ['One', ['nd4', 'nd4-2']],
    ['Two', ['nd4']],
  ]);
});

test('labels in every notation, and one only', () => {
  expect(readLabel('D 0.9')).toMatchObject({ kind: 'nd', nominal: { opticalDensity: 0.9 } });
  expect(readLabel('3 stops')).toMatchObject({ nominal: { stops: 3 } });
  expect(readLabel('2–5 stops')).toMatchObject({ kind: 'variable-nd', nominal: { stopsRange: [2, 5] } });
  expect(readLabel('')).toMatchObject({ nominal: {} });
  expect(readLabel('ND4 8')).toEqual({ problem: expect.stringContaining('names 2 filters') as string });
  expect(filtersOfShorthand('ND4 ND8', ['nd4']).filters.map((one) => one.id)).toEqual(['nd4-2', 'nd8']);
});

test('ids stay apart, handling says only what was answered', () => {
  expect(keptKitSchema.safeParse({ ...kit, filters: [kit.filters[0], kit.filters[0]] }).success).toBe(false);
  expect(handlingFlaws(kit.filters[0])).toEqual(['falls off when shaken']);
  expect(handlingFlaws(kit.filters[1])).toEqual([]);
});

test('mass: each filter alone against the limit, by hand', () => {
  // 247 + 2.4 = 249.4: 0.4 g over 249, 0.6 g under 250.
  expect(checkMass(kit.filters, { massGrams: 247, limitGrams: 249 }).over).toEqual([
    { filter: 'nd8', grams: expect.closeTo(0.4, 9) as number },
  ]);
  const fine = checkMass(kit.filters, { massGrams: 247, limitGrams: 250 });
  expect(fine.over).toEqual([]);
  expect(fine.left).toBeCloseTo(0.6, 9);
  expect(fine.unknown).toHaveLength(9);
  expect(checkMass([], { massGrams: 1, limitGrams: 2 }).left).toBeNull();
});

test('a rig gives a plan the shutters of what is shot; what can’t be is refused with a sentence', () => {
  const rig = keptRigSchema.parse({
    ...NEW_RIG,
    camera: 'Bench camera',
    video: { fastest: 1 / 4000, slowest: 1 / 25 },
  });
  expect(planRigOf(rig, rig.lenses[0], 'clips')).toMatchObject({ fastest: 1 / 4000, slowest: 1 / 25, widest: 2.8 });
  expect(planRigOf(rig, rig.lenses[0], 'stills').slowest).toBe(30);
  const refused = keptRigSchema.safeParse({ ...rig, stills: { fastest: 1, slowest: 1 / 60 } });
  expect(refused.error?.issues[0].message).toBe('The fastest shutter is slower than the slowest.');
});

test.each([
  ['2024', 2024],
  [' 1998 ', 1998],
  ['', undefined],
  ['24', null],
  ['20245', null],
  ['1024', null],
  ['last', null],
])('a year: “%s”', (text, year) => expect(yearIn(text)).toBe(year));

test('a year that is none is told with its row, and the kit is read', () => {
  const { kits, problems } = kitsOfRows([
    ['kit', 'bought', 'thread', 'filter', 'serial number'],
    ['Field Set', 'in spring', '82 mm', 'ND8', 'A7'],
  ]);
  expect(problems).toEqual(['Row 2: the year “in spring” is none.']);
  expect(kits[0]).toMatchObject({ name: 'Field Set', mount: '82 mm', filters: [{ name: 'ND8', serial: 'A7' }] });
  expect(kits[0].year).toBeUndefined();
});
