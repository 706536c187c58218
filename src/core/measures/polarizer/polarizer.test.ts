import fc from 'fast-check';
import { sunPosition } from '../../formulas/sun/sun';
import {
  angleBetween,
  rayleighPolarization,
  skyDarkening,
  skyRose,
  skyUnevenness,
} from '../../formulas/optics/rayleigh';
import { anglesOf, distinctAngles, doubtfulPoints, fitRing, ringDesign, ringDistance, type RingPoint } from './ring';
import { brewsterDegrees, greatestCut, reflectance } from '../../formulas/optics/fresnel';
import { glareInWords } from '../../words/polarizer';

const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** Malus' law with a leak, as a row of points. */
function sweep(angles: readonly number[], axis: number, top: number, bottom: number, relativeU = 1e-3): RingPoint[] {
  return angles.map((degrees) => ({
    degrees,
    ratio: bottom + (top - bottom) * Math.cos(radians(degrees - axis)) ** 2,
    relativeU,
  }));
}

const evenly = (count: number) => Array.from({ length: count }, (_, i) => (180 * i) / count);

describe('the ring', () => {
  test('Malus’ law comes out as it went in: half at 45°, gone at 90° (common practice: a screen goes out there)', () => {
    const fit = fitRing(sweep(evenly(12), 30, 0.8, 0.8 / 2 ** 10))!;
    expect(fit.axisDegrees).toBeCloseTo(30, 6);
    expect(fit.brightest).toBeCloseTo(-Math.log2(0.8), 6);
    expect(fit.darkest - fit.brightest).toBeCloseTo(10, 4);
    expect(fit.at(75)).toBeCloseTo(0.4, 3);
    expect(fit.at(120)).toBeCloseTo(0.8 / 2 ** 10, 6);
    expect(fit.at(210)).toBeCloseTo(fit.at(30), 9);
  });

  test('three angles are enough, two are not; 0° and 180° are one', () => {
    expect(fitRing(sweep([0, 60, 120], 17, 0.7, 0.01))!.axisDegrees).toBeCloseTo(17, 6);
    expect(fitRing(sweep([0, 60], 17, 0.7, 0.01))).toBeNull();
    expect(fitRing(sweep([0, 60, 180], 17, 0.7, 0.01))).toBeNull();
    expect(distinctAngles([0, 180, 359.5, 90])).toBe(2);
  });

  test('a shift of all takes by a stop shifts brightest, darkest and mean by one, the axis by none', () => {
    const fit = fitRing(sweep(evenly(7), 100, 0.6, 0.004))!;
    const sum = (list: readonly number[]) => list.reduce((total, one) => total + one, 0);
    expect(sum(fit.sensitivities.brightest)).toBeCloseTo(1, 6);
    expect(sum(fit.sensitivities.darkest)).toBeCloseTo(1, 6);
    expect(sum(fit.sensitivities.mean)).toBeCloseTo(1, 6);
    expect(sum(fit.sensitivities.extinction)).toBeCloseTo(0, 6);
    expect(sum(fit.sensitivities.axis)).toBeCloseTo(0, 6);
  });

  test('sensitivities agree with moving a take', () => {
    const points = sweep([5, 50, 95, 140], 70, 0.5, 0.02);
    const fit = fitRing(points)!;
    const darker = points.map((one, i) => (i === 1 ? { ...one, ratio: one.ratio * 2 ** -0.001 } : one));
    const moved = fitRing(darker)!;
    expect((moved.brightest - fit.brightest) / 0.001).toBeCloseTo(fit.sensitivities.brightest[1], 1);
    expect((moved.axisDegrees - fit.axisDegrees) / 0.001).toBeCloseTo(fit.sensitivities.axis[1], 0);
  });

  test('any axis and extinction come back (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 179.9, noNaN: true }),
        fc.double({ min: 0.5, max: 9, noNaN: true }),
        (axis, stops) => {
          const fit = fitRing(sweep(evenly(9), axis, 0.9, 0.9 * 2 ** -stops))!;
          expect(ringDistance(fit.axisDegrees, axis)).toBeLessThan(1e-3);
          expect(fit.darkest - fit.brightest).toBeCloseTo(stops, 3);
        },
      ),
    );
  });

  test('an angle that was noted wrongly is found, and told where it belongs', () => {
    const points = sweep(evenly(9), 30, 0.8, 0.002);
    const wrong = points.map((one, i) => (i === 2 ? { ...one, degrees: one.degrees + 25 } : one));
    const { doubtful, fit } = doubtfulPoints(wrong);
    expect(doubtful).toEqual([2]);
    expect(fit!.axisDegrees).toBeCloseTo(30, 3);
    expect(anglesOf(fit!, points[2].ratio).some((one) => ringDistance(one, points[2].degrees) < 0.1)).toBe(true);
    expect(doubtfulPoints(points).doubtful).toEqual([]);
  });

  test('angles read to a degree or two are told as that, not as noise of the light', () => {
    const errors = [1.5, -1, 0.5, -2, 1.2, -0.3, 2, -1.4, 0.9];
    const read = sweep(evenly(9), 30, 0.8, 0.02).map((one, i) => ({ ...one, degrees: one.degrees + errors[i] }));
    const { scatter } = fitRing(read)!;
    expect(scatter?.cause).toBe('ring angles');
    expect(scatter!.size).toBeGreaterThan(0.7);
    expect(scatter!.size).toBeLessThan(3);
  });

  test('more angles leave less open', () => {
    const [three, seven, thirteen] = [3, 7, 13].map((count) => ringDesign(count, 6, 0.003));
    expect(seven.darkest).toBeLessThan(three.darkest);
    expect(thirteen.axisDegrees).toBeLessThan(seven.axisDegrees);
  });
});

describe('Fresnel (Hecht, Optics, §4.6; Born & Wolf, §1.5)', () => {
  test('Brewster’s angle: water 53.12°, glass 56.31°', () => {
    expect(brewsterDegrees(1.333)).toBeCloseTo(53.12, 2);
    expect(brewsterDegrees(1.5)).toBeCloseTo(56.31, 2);
  });
  test('at normal incidence water reflects 0.0204, glass 0.04, whatever the polarization', () => {
    expect(reflectance(1.333, 0).s).toBeCloseTo(0.0204, 4);
    expect(reflectance(1.5, 0).p).toBeCloseTo(0.04, 6);
    expect(reflectance(1.5, 0).s).toBeCloseTo(0.04, 6);
  });
  test('glass at Brewster’s angle: R_s 0.1479, R_p 0 (closed form ((n² − 1)/(n² + 1))²)', () => {
    const { s, p } = reflectance(1.5, brewsterDegrees(1.5));
    expect(s).toBeCloseTo(((1.5 ** 2 - 1) / (1.5 ** 2 + 1)) ** 2, 9);
    expect(p).toBeCloseTo(0, 12);
    expect(reflectance(1.5, 89.999).s).toBeGreaterThan(0.99);
  });
  test('nothing to do straight down, everything at Brewster’s angle, and it is said', () => {
    expect(greatestCut(1.333, 0)).toBeCloseTo(0, 9);
    expect(greatestCut(1.333, brewsterDegrees(1.333))).toBeGreaterThan(20);
    expect(glareInWords(0.02, 'water', 5)).toContain('nothing to do at this angle');
    expect(glareInWords(0.02, 'water', 53)).toContain('far less');
    expect(glareInWords(0.02, 'metal', 53)).toContain('Metals');
  });
});

describe('the sky', () => {
  test('Rayleigh’s degree of polarization: none at 0° and 180°, a third at 45°, all at 90°', () => {
    expect(rayleighPolarization(0)).toBeCloseTo(0, 12);
    expect(rayleighPolarization(45)).toBeCloseTo(1 / 3, 12);
    expect(rayleighPolarization(90)).toBeCloseTo(1, 12);
    expect(rayleighPolarization(180)).toBeCloseTo(0, 12);
  });
  test('darkening is greatest at right angles to the sun, and uneven across a wide lens', () => {
    expect(skyDarkening(90, 0.75)).toBeCloseTo(2, 9);
    const sun = { azimuth: 180, altitude: 30 };
    const rose = skyRose(sun, 0);
    const best = [...rose].sort((a, b) => b.stops - a.stops)[0];
    expect([90, 270]).toContain(best.azimuth);
    const view = { azimuth: 120, altitude: 0 };
    expect(skyUnevenness(sun, view, 90)).toBeGreaterThan(1);
    expect(skyUnevenness(sun, view, 10)).toBeLessThan(skyUnevenness(sun, view, 90) / 3);
    expect(angleBetween(sun, sun)).toBeCloseTo(0, 5);
  });
  test('the sun of 17 October 2003 (Reda & Andreas 2004, SPA example): zenith 50.1116°, azimuth 194.3402°', () => {
    const place = { latitude: 39.742476, longitude: -105.1786, height: 1830.14 };
    const sun = sunPosition(new Date('2003-10-17T19:30:30Z'), place);
    expect(sun.azimuth).toBeCloseTo(194.3402, 1);
    // The example's refraction is for 820 mbar and 11 °C; what a standard atmosphere refracts more is below 0.01°.
    expect(90 - sun.altitude).toBeCloseTo(50.1116, 1);
  });
});
