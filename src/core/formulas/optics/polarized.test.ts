/** Reflections and skies through a polarizer, against Fresnel's printed values and the geometry of the sky. */
import fc from 'fast-check';
import { brewsterDegrees, greatestCut, reflectance, SURFACES } from './fresnel';
import { angleBetween, rayleighPolarization, skyDarkening, skyRose, skyUnevenness } from './rayleigh';

describe('Fresnel', () => {
  test.each([
    // Glass of 1.5 straight on reflects 4 %, water 2 % (Hecht, Optics, §4.6).
    [1.5, 0, 0.04, 0.04],
    [1.333, 0, 0.02037, 0.02037],
    // At grazing incidence everything.
    [1.5, 90, 1, 1],
    // At 45° on glass: Rs = 9.201 %, Rp = Rs² = 0.847 % (at 45° the one is the square of the other).
    [1.5, 45, 0.09201, 0.00847],
  ])('index %d at %d°: s %d, p %d', (index, degrees, s, p) => {
    const found = reflectance(index, degrees);
    expect(found.s).toBeCloseTo(s, 4);
    expect(found.p).toBeCloseTo(p, 4);
  });

  test('at 45° the p share is the square of the s share, whatever the index (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 1.05, max: 2.5, noNaN: true }), (index) => {
        const { s, p } = reflectance(index, 45);
        expect(p).toBeCloseTo(s * s, 10);
      }),
    );
  });

  test.each([
    ['water', 53.1],
    ['glass', 56.3],
    ['leaf', 55.4],
  ] as const)('%s lets all of a reflection go at %d°', (surface, degrees) => {
    const { index } = SURFACES[surface];
    expect(brewsterDegrees(index)).toBeCloseTo(degrees, 1);
    expect(reflectance(index, brewsterDegrees(index)).p).toBeCloseTo(0, 12);
    expect(greatestCut(index, brewsterDegrees(index))).toBeGreaterThan(30);
  });

  test('straight down a polarizer does nothing to it', () => {
    expect(greatestCut(1.333, 0)).toBeCloseTo(0, 9);
  });

  test('the cut grows towards Brewster’s angle and falls beyond', () => {
    const cuts = [10, 20, 30, 40, 50].map((degrees) => greatestCut(1.333, degrees));
    for (let i = 1; i < cuts.length; i++) expect(cuts[i]).toBeGreaterThan(cuts[i - 1]);
    expect(greatestCut(1.333, 70)).toBeLessThan(greatestCut(1.333, 55));
    // By hand at 40° on water: Rs 4.53 %, Rp 0.62 %.
    const { s, p } = reflectance(1.333, 40);
    expect(greatestCut(1.333, 40)).toBeCloseTo(Math.log2((s + p) / (2 * p)), 12);
  });
});

describe('the sky', () => {
  test.each([
    [0, 0],
    [45, 1 / 3],
    [60, 0.6],
    [90, 1],
    [120, 0.6],
    [180, 0],
  ])('at %d° from the sun %d of its light is polarized', (degrees, share) => {
    expect(rayleighPolarization(degrees)).toBeCloseTo(share, 9);
  });

  test('a clear sky darkens by two stops at 90°, a hazy one by one', () => {
    expect(skyDarkening(90, 0.75)).toBeCloseTo(2, 9);
    expect(skyDarkening(90, 0.5)).toBeCloseTo(1, 9);
    expect(skyDarkening(0)).toBeCloseTo(0, 9);
  });

  test.each([
    [{ azimuth: 0, altitude: 0 }, { azimuth: 90, altitude: 0 }, 90],
    [{ azimuth: 10, altitude: 0 }, { azimuth: 350, altitude: 0 }, 20],
    [{ azimuth: 77, altitude: 90 }, { azimuth: 0, altitude: 30 }, 60],
    [{ azimuth: 40, altitude: 35 }, { azimuth: 40, altitude: 35 }, 0],
    [{ azimuth: 0, altitude: -20 }, { azimuth: 180, altitude: 20 }, 180],
  ])('from %j to %j are %d°', (a, b, degrees) => {
    expect(angleBetween(a, b)).toBeCloseTo(degrees, 5);
    expect(angleBetween(b, a)).toBeCloseTo(degrees, 5);
  });

  test('a rose goes around, darkest across the sun, symmetric about it', () => {
    const sun = { azimuth: 120, altitude: 20 };
    const rose = skyRose(sun, 20, 0.75, 10);
    expect(rose.map((one) => one.azimuth)).toEqual(Array.from({ length: 36 }, (_, i) => 10 * i));
    const at = (azimuth: number) => rose.find((one) => one.azimuth === ((azimuth % 360) + 360) % 360)!.stops;
    expect(at(120)).toBeCloseTo(0, 9);
    expect(at(210)).toBeCloseTo(at(30), 9);
    for (const aside of [40, 90, 130]) expect(at(120 + aside)).toBeCloseTo(at(120 - aside), 9);
    expect(Math.max(...rose.map((one) => one.stops))).toBeGreaterThan(1.7);
  });

  test('a wide lens sees it uneven, a long one hardly', () => {
    const sun = { azimuth: 180, altitude: 30 };
    const view = { azimuth: 90, altitude: 15 };
    expect(skyUnevenness(sun, view, 84)).toBeGreaterThan(0.5);
    expect(skyUnevenness(sun, view, 10)).toBeLessThan(0.35);
    expect(skyUnevenness(sun, view, 0)).toBe(0);
  });
});
