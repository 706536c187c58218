/** Strengths in every notation, against the row that makers engrave and ISO 5-1's definition of density. */
import fc from 'fast-check';
import {
  allNotations,
  densityFromStops,
  describeNominal,
  factorFromStops,
  formatFactor,
  nearestStandardFactor,
  nominalStops,
  STANDARD_FACTORS,
  stopsFromDensity,
  stopsFromFactor,
} from './notation';

/** Common practice, no source: factor, stops, density and share of light as tables of such filters print them, rounded there. */
const ENGRAVED: readonly (readonly [factor: number, stops: number, density: number, percent: number])[] = [
  [1, 0, 0, 100],
  [2, 1, 0.3, 50],
  [4, 2, 0.6, 25],
  [8, 3, 0.9, 12.5],
  [16, 4, 1.2, 6.25],
  [32, 5, 1.5, 3.125],
  [64, 6, 1.8, 1.563],
  [128, 7, 2.1, 0.781],
  [256, 8, 2.4, 0.391],
  [512, 9, 2.7, 0.195],
  [1000, 9.97, 3, 0.1],
  [2000, 10.97, 3.3, 0.05],
  [4000, 11.97, 3.6, 0.025],
  [8000, 12.97, 3.9, 0.0125],
  [64000, 15.97, 4.8, 0.0016],
  [100000, 16.61, 5, 0.001],
];

describe.each(ENGRAVED)('ND%d', (factor, stops, density, percent) => {
  test('in stops, as a density, as a share of light', () => {
    const all = allNotations(stopsFromFactor(factor));
    expect(Math.abs(all.stops - stops)).toBeLessThan(0.006);
    // Labels of densities are rounded: a stop is 0.30103.
    expect(Math.abs(all.opticalDensity - density)).toBeLessThan(0.01 + 0.002 * stops);
    expect(100 * all.transmittance).toBeCloseTo(percent, 3);
    expect(all.ndFactor).toBeCloseTo(factor, 6);
  });

  test('density is the negative logarithm of the share (ISO 5-1)', () => {
    expect(densityFromStops(stopsFromFactor(factor))).toBeCloseTo(Math.log10(factor), 9);
    expect(stopsFromDensity(Math.log10(factor))).toBeCloseTo(Math.log2(factor), 9);
  });

  test('is its own nearest label, as engraved', () => {
    expect(nearestStandardFactor(stopsFromFactor(factor))).toBe(factor);
    expect(describeNominal({ ndFactor: factor })).toBe(`ND${factor}`);
  });
});

test('there and back (property)', () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: 24, noNaN: true }), (stops) => {
      expect(stopsFromFactor(factorFromStops(stops))).toBeCloseTo(stops, 9);
      expect(stopsFromDensity(densityFromStops(stops))).toBeCloseTo(stops, 9);
    }),
  );
});

test('a factor below 1 is no filter', () => {
  expect(stopsFromFactor(0.5)).toBeNaN();
  expect(stopsFromFactor(0)).toBeNaN();
});

describe('the nearest label', () => {
  test.each([
    [0.2, 1],
    [0.5, 1],
    [0.51, 2],
    [2.49, 4],
    [2.51, 8],
    [6.8, 128],
    [9.48, 512],
    [9.5, 1000],
    [30, 100000],
    [-1, 1],
  ])('%d stops act like ND%d; ties go to the lighter', (stops, factor) => {
    expect(nearestStandardFactor(stops)).toBe(factor);
  });

  test('is one of the row', () => {
    for (let stops = 0; stops < 18; stops += 0.37) expect(STANDARD_FACTORS).toContain(nearestStandardFactor(stops));
  });
});

test.each([
  [{ ndFactor: 8 }, 3, 'ND8'],
  [{ ndFactor: 1.5 }, 0.585, 'ND1.5'],
  [{ stops: 3 }, 3, '3 stops'],
  [{ stops: 1 }, 1, '1 stop'],
  [{ stops: 0 }, 0, 'clear'],
  [{ stops: 2.5 }, 2.5, '2.5 stops'],
  [{ opticalDensity: 0.9 }, 2.99, 'D 0.9'],
  [{ stopsRange: [2, 5] as [number, number] }, null, '2–5 stops'],
  [{}, null, 'unmarked'],
  // Stops are believed before a factor, a factor before a density.
  [{ stops: 3, ndFactor: 64 }, 3, 'ND64'],
  [{ ndFactor: 8, opticalDensity: 3 }, 3, 'ND8'],
])('the label %j promises %s and reads “%s”', (nominal, stops, words) => {
  const found = nominalStops(nominal);
  if (stops === null) expect(found).toBeNull();
  else expect(found).toBeCloseTo(stops, 2);
  expect(describeNominal(nominal)).toBe(words);
});

test.each([
  [8, '8'],
  [1.5, '1.5'],
  [9.96, '10.0'],
  [10.4, '10'],
  [1024.3, '1024'],
])('the factor %d is engraved %s', (factor, text) => {
  expect(formatFactor(factor)).toBe(text);
});
