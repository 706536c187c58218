import fc from 'fast-check';
import {
  allNotations,
  describeNominal,
  nearestStandardFactor,
  nominalStops,
  stopsFromDensity,
} from '../../session/notation';
import { parseKitShorthand } from './shorthand';

describe('notations', () => {
  // The usual tables of makers; densities by ISO 5-1.
  test.each([
    [{ ndFactor: 4 }, 2],
    [{ ndFactor: 8 }, 3],
    [{ ndFactor: 64 }, 6],
    [{ ndFactor: 128 }, 7],
    [{ ndFactor: 256 }, 8],
    [{ ndFactor: 512 }, 9],
    [{ ndFactor: 1000 }, 9.966],
    [{ opticalDensity: 0.9 }, 2.99],
    [{ opticalDensity: 0.30103 }, 1],
    [{ stops: 1.5 }, 1.5],
  ])('%j is %d stops', (nominal, stops) => expect(nominalStops(nominal)).toBeCloseTo(stops, 3));

  test('an unmarked filter and a range have no single strength', () => {
    expect(nominalStops({})).toBeNull();
    expect(nominalStops({ stopsRange: [2, 5] })).toBeNull();
  });

  test('all notations of three stops', () => {
    const all = allNotations(3);
    expect(all.ndFactor).toBe(8);
    expect(all.transmittance).toBe(0.125);
    expect(all.opticalDensity).toBeCloseTo(0.90309, 5);
  });

  test('notations agree both ways for any strength', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 20, noNaN: true }), (stops) => {
        const all = allNotations(stops);
        expect(Math.log2(all.ndFactor)).toBeCloseTo(stops, 9);
        expect(stopsFromDensity(all.opticalDensity)).toBeCloseTo(stops, 9);
        expect(all.transmittance * all.ndFactor).toBeCloseTo(1, 9);
      }),
    );
  });

  test('acts like the nearest engraved label', () => {
    expect(nearestStandardFactor(3.4)).toBe(8);
    expect(nearestStandardFactor(3.6)).toBe(16);
    expect(nearestStandardFactor(0.1)).toBe(1);
    expect(nearestStandardFactor(10)).toBe(1000);
  });

  test('labels read in their own notation', () => {
    expect(describeNominal({ ndFactor: 8 })).toBe('ND8');
    expect(describeNominal({ stops: 0 })).toBe('clear');
    expect(describeNominal({ stopsRange: [2, 5] })).toBe('2–5 stops');
    expect(describeNominal({})).toBe('unmarked');
  });
});

describe('kit shorthand', () => {
  const read = (text: string) => parseKitShorthand(text).filters.map(({ kind, nominal }) => [kind, nominal]);

  test('ND4 8 16 32 64 CPL makes six filters', () => {
    const { filters, problems } = parseKitShorthand('ND4 8 16 32 64 CPL');
    expect(problems).toEqual([]);
    expect(filters.map((filter) => filter.name)).toEqual(['ND4', 'ND8', 'ND16', 'ND32', 'ND64', 'CPL']);
    expect(filters.map((filter) => nominalStops(filter.nominal))).toEqual([2, 3, 4, 5, 6, null]);
  });

  test.each([
    [
      '0.3 0.6 0.9',
      [
        ['nd', { opticalDensity: 0.3 }],
        ['nd', { opticalDensity: 0.6 }],
        ['nd', { opticalDensity: 0.9 }],
      ],
    ],
    ['ND0.9', [['nd', { opticalDensity: 0.9 }]]],
    ['VND 2-5', [['variable-nd', { stopsRange: [2, 5] }]]],
    ['VND ND4-32', [['variable-nd', { stopsRange: [2, 5] }]]],
    [
      'ND8/PL ND16PL',
      [
        ['nd-polarizer', { ndFactor: 8 }],
        ['nd-polarizer', { ndFactor: 16 }],
      ],
    ],
    ['UV', [['clear', { stops: 0 }]]],
    [
      '3 6 10 stops',
      [
        ['nd', { stops: 3 }],
        ['nd', { stops: 6 }],
        ['nd', { stops: 10 }],
      ],
    ],
    ['3-stop', [['nd', { stops: 3 }]]],
    [
      'GND8 GND0.9',
      [
        ['graduated-nd', { ndFactor: 8 }],
        ['graduated-nd', { opticalDensity: 0.9 }],
      ],
    ],
    [
      '4, 8; ND1000',
      [
        ['nd', { ndFactor: 4 }],
        ['nd', { ndFactor: 8 }],
        ['nd', { ndFactor: 1000 }],
      ],
    ],
    [
      'OD 0.6 1.2',
      [
        ['nd', { opticalDensity: 0.6 }],
        ['nd', { opticalDensity: 1.2 }],
      ],
    ],
    ['unmarked', [['nd', {}]]],
    [
      'ND8 mist 1/4 diffusion1/8 IR cut yellow warming',
      [
        ['nd', { ndFactor: 8 }],
        ['diffusion', {}],
        ['diffusion', {}],
        ['infrared-cut', { stops: 0 }],
        ['color', {}],
        ['color', {}],
      ],
    ],
  ])('%s', (text, expected) => expect(read(text)).toEqual(expected));

  test('grades of diffusion stay in their names', () => {
    const { filters, problems } = parseKitShorthand('mist 1/4 Mist 1/8 mist 1 UV/IR');
    expect(problems).toEqual([]);
    expect(filters.map(({ id, name }) => [id, name])).toEqual([
      ['mist-1-4', 'Mist 1/4'],
      ['mist-1-8', 'Mist 1/8'],
      ['mist-1', 'Mist 1'],
      ['ir-cut', 'IR cut'],
    ]);
  });

  test('a word that is no strength is named, the rest still counts', () => {
    const { filters, problems } = parseKitShorthand('ND4 banana ND8');
    expect(filters).toHaveLength(2);
    expect(problems).toEqual([{ word: 'banana', message: expect.stringContaining('“banana” isn’t a strength') }]);
  });

  test('ids stay unique when a strength comes twice', () => {
    const { filters } = parseKitShorthand('ND8 ND8 CPL CPL');
    expect(new Set(filters.map((filter) => filter.id)).size).toBe(4);
  });

  test('never throws, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        for (const filter of parseKitShorthand(text).filters) expect(nominalStops(filter.nominal)).not.toBeNaN();
      }),
    );
  });
});
