import { writeFNumber, writeIso } from '../../formulas/optics/exposure';
import { evOfMeter } from '../../sitting/planning/lightBudget';
import { pickFilters, turnedTo, type PickAsk, type PickFilter } from './pick';
import { ROUGH_LIGHT } from './roughLight';

const filter = (id: string, stops: number | null, u95: number | null = 0.03): PickFilter => ({
  id,
  name: id.toUpperCase(),
  stops,
  u95,
});
const rig = {
  baseIso: 100,
  highestIso: 1600,
  fastest: 1 / 8000,
  slowest: 1 / 25,
  widest: 2.8,
  fixedAperture: true,
  step: 1 / 3,
} as const;
/** A bare meter at f/2.8 and ISO 100. */
const ask = (metered: number, wanted: number, more: Partial<PickAsk> = {}): PickAsk => ({
  ev100: evOfMeter({ shutterSeconds: metered, iso: 100, fNumber: 2.8 }),
  wanted,
  iso: 100,
  fNumber: 2.8,
  school: 'nearest',
  brightest: 0,
  rig: { ...rig, slowest: 30 },
  stack: false,
  ...more,
});

describe('exposure', () => {
  // Common practice, no source: 1/1600 s became 1/20 s with six and a third stops, 1/800 s became 1/120 s with an ND8.
  test('1/1600 s to 1/20 s takes six and a third stops', () => {
    const [best] = pickFilters(ask(1 / 1600, 1 / 20), [
      filter('nd64', 6),
      filter('six', 6 + 1 / 3),
      filter('nd128', 7),
    ]);
    expect(best.name).toBe('SIX');
    expect(Math.abs(best.left)).toBeLessThan(0.02);
    expect(best.words).toBe('Right as it is.');
  });

  test('1/800 s through an ND8 is 1/100 s; 1/120 s of it is a quarter stop dark', () => {
    const [best] = pickFilters(ask(1 / 800, 1 / 120), [filter('nd8', 3), filter('nd64', 6)]);
    expect(best.name).toBe('ND8');
    expect(best.rightSeconds).toBeCloseTo(1 / 100, 9);
    expect(best.left).toBeCloseTo(-Math.log2(1.2), 9);
    expect(best.workable).toBe(true);
  });

  test('ISO closes what is too dark, the aperture what is too bright, and what is left over is told', () => {
    const open = { ...rig, fixedAperture: false };
    const dark = pickFilters(ask(1 / 800, 1 / 50, { rig: open }), [filter('nd64', 6)]).find((one) => one.stops === 6)!;
    expect(dark.settings.iso).toBeCloseTo(400, 6);
    expect(dark.over).toBeCloseTo(0, 9);
    expect(dark.words).toBe('2.0 EV too dark, ISO 400 makes it right.');
    const bright = pickFilters(ask(1 / 800, 1 / 50, { rig: open }), [filter('nd4', 2)]).find((one) => one.stops === 2)!;
    expect(bright.settings.fNumber).toBeCloseTo(5.6, 6);
    expect(bright.settings.iso).toBe(100);
    const fixed = pickFilters(ask(1 / 800, 1 / 50), [filter('nd4', 2)]).find((one) => one.stops === 2)!;
    expect(fixed.words).toBe('2.0 EV too bright.');
    expect(fixed.workable).toBe(false);
  });

  test.each([
    ['darker', 2.4],
    ['darker', 5.45],
    ['brightest', 3.1],
    ['nearest', 4.9],
  ] as const)('settings are marks of the dial, and what is left errs as “%s” asks, %d stops', (school, stops) => {
    // Thirds of a stop from ISO 100, as dials have them (common practice, no source).
    const dial = [100, 125, 160, 200, 250, 320, 400, 500, 640, 800, 1000, 1250, 1600];
    const asked = ask(1 / 1600, 1 / 50, { school, rig: { ...rig, fixedAperture: false } });
    const one = pickFilters(asked, [filter('x', stops)]).find((found) => found.stops === stops)!;
    const written = Number(writeIso(one.settings.iso));
    expect(dial).toContain(written);
    expect(['2.8', '3.2', '3.5', '4.0', '4.5', '5.0', '5.6', '6.3', '7.1', '8.0']).toContain(
      writeFNumber(one.settings.fNumber),
    );
    expect(Math.abs(one.over)).toBeLessThan(school === 'nearest' ? 1 / 6 + 0.01 : 1 / 3 + 0.01);
    if (school !== 'nearest') expect(one.over).toBeLessThan(0.01);
  });

  test('a shutter that the camera hasn’t is cut to what it has', () => {
    const [one] = pickFilters(ask(1 / 50, 60, { rig }), [filter('nd1000', 10)]);
    expect(one.settings.seconds).toBe(1 / 25);
    expect(one.words).toContain('as far as the camera goes');
  });
});

describe('schools', () => {
  const two = [filter('nd8', 3), filter('nd16', 4)];
  const need = (stops: number, more: Partial<PickAsk>) => pickFilters(ask(2 ** -stops / 50, 1 / 50, more), two)[0].name;
  test('darker by preference takes the stronger one, nearest the nearer one', () => {
    expect(need(3.3, { school: 'darker' })).toBe('ND16');
    expect(need(3.3, { school: 'nearest' })).toBe('ND8');
    expect(need(2.98, { school: 'darker' })).toBe('ND8');
  });
  test('for the brightest part the picture is darker by what that lies above', () => {
    expect(need(2.5, { school: 'brightest', brightest: 1.4 })).toBe('ND16');
    expect(need(2.5, { school: 'brightest', brightest: 0.4 })).toBe('ND8');
  });
});

describe('filters', () => {
  test('a variable filter is turned to the mark; its ends are as far as it goes', () => {
    const curve = [
      [1, 2],
      [2, 3.5],
      [3, 5],
    ] as const;
    const [best] = pickFilters(ask(2 ** -4.25 / 50, 1 / 50), [{ ...filter('vnd', 2), curve }]);
    expect(best.mark).toBeCloseTo(2.5, 6);
    expect(best.left).toBeCloseTo(0, 6);
    expect(turnedTo(curve, 9)).toEqual({ mark: 3, stops: 5 });
    expect(turnedTo(curve, 0)).toEqual({ mark: 1, stops: 2 });
  });

  test('two on each other only where that is allowed; a measured one before one of which the label alone is known', () => {
    const some = [filter('nd8', 3), filter('nd16', 4, null), filter('unmarked', null)];
    const seven = ask(2 ** -7 / 50, 1 / 50);
    expect(pickFilters(seven, some)[0].filters).toEqual(['nd16']);
    expect(pickFilters({ ...seven, stack: true }, some)[0]).toMatchObject({ filters: ['nd8', 'nd16'], u95: null });
    expect(pickFilters(seven, some).every((one) => !one.filters.includes('unmarked'))).toBe(true);
    expect(pickFilters(ask(1 / 400, 1 / 50), [filter('a', 3, null), filter('b', 3)])[0].name).toBe('B');
  });

  test('bright sun is sunny sixteen: f/16 and 1/ISO', () => {
    // Common practice, no source: within a third of a stop of EV 15 at ISO 100.
    const sun = ROUGH_LIGHT.find((one) => one.words.startsWith('bright sun'))!;
    expect(Math.abs(sun.ev100 - evOfMeter({ shutterSeconds: 1 / 100, iso: 100, fNumber: 16 }))).toBeLessThan(0.4);
  });
});
