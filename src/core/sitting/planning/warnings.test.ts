/** Each rule by a plan that breaks it and one that just doesn't. */
import { BENCH_RIG } from '../../testing/rig';
import { parseKitShorthand } from '../kits/shorthand';
import { makePlan, planRequestSchema, type PlanRequest } from './plan';
import { CHECKLIST, SCHOOLS, warnOf, warnOfHeading } from './warnings';

const kitOf = (words: string) => ({ id: 'kit', filters: parseKitShorthand(words).filters });

function requestOf(changes: Record<string, unknown> = {}): PlanRequest {
  return planRequestSchema.parse({
    kit: kitOf('ND4 8'),
    rig: BENCH_RIG,
    scenes: ['chart'],
    ev100: 12,
    fNumber: 2.8,
    slowest: 1,
    protocol: 'matched',
    whiteBalance: 'locked',
    repeats: 3,
    ...changes,
  });
}

const codesOf = (changes: Record<string, unknown> = {}) => {
  const request = requestOf(changes);
  return warnOf(request, makePlan(request)).map((one) => one.code);
};
const saidOf = (code: string, changes: Record<string, unknown>) => {
  const request = requestOf(changes);
  return warnOf(request, makePlan(request)).find((one) => one.code === code)?.message;
};

test('a plain sitting warns of nothing', () => expect(codesOf()).toEqual([]));

describe.each([
  ['white-balance', { whiteBalance: 'automatic' }, {}],
  ['automatic-exposure', { protocol: 'automatic' }, {}],
  ['few-repeats', { repeats: 1 }, { repeats: 2 }],
  ['ring-not-swept', { kit: kitOf('CPL') }, { kit: kitOf('CPL'), scenes: ['chart', 'screen'] }],
  ['no-flat', { kit: kitOf('VND2-5') }, { kit: kitOf('VND2-5'), scenes: ['chart', 'flat'] }],
  ['locked-too-dark', { protocol: 'locked', kit: kitOf('ND1000') }, { protocol: 'locked', kit: kitOf('ND4') }],
] as const)('%s', (code, breaking, keeping) => {
  test('is told where the plan breaks it', () => expect(codesOf(breaking)).toContain(code));
  test('and only there', () => expect(codesOf(keeping)).not.toContain(code));
  test('says what to do instead', () => {
    const request = requestOf(breaking);
    const warning = warnOf(request, makePlan(request)).find((one) => one.code === code)!;
    expect(warning.message).toMatch(/^[A-Z“].*\.$/);
    expect(warning.advice).toMatch(/^[A-Z].*\.$/);
  });
});

describe('a wide lens with turning rings', () => {
  const lenses = (degrees: number) => ({
    chart: { name: 'Wide 12', widest: 2.8, fNumber: 2.8, fieldOfViewDegrees: degrees },
  });
  const kit = kitOf('CPL ND8');

  test('from 75° on, naming lens and filter; thin filters alone don’t matter', () => {
    expect(codesOf({ kit, lenses: lenses(75) })).not.toContain('thick-mount');
    expect(codesOf({ kit, lenses: lenses(84) })).toContain('thick-mount');
    expect(codesOf({ lenses: lenses(110) })).not.toContain('thick-mount');
    expect(saidOf('thick-mount', { kit, lenses: lenses(84) })).toMatch(/^Wide 12 sees 84° wide: .*CPL/);
  });
});

describe('a view towards the sun', () => {
  const sun = { azimuth: 350, altitude: 20 };

  test.each([
    [350, true],
    [20, true],
    [24.9, true],
    [25.1, false],
    [315.1, true],
    [314.9, false],
    [170, false],
  ])('heading %p°, the sun at 350°: warned %p', (heading, warned) =>
    expect(warnOfHeading(heading, sun) !== null).toBe(warned),
  );

  test('the way between is told through north', () =>
    expect(warnOfHeading(10, sun)!.message).toMatch(/towards 10° faces the sun, 20° beside it/));

  test('below the horizon it flares into nothing', () =>
    expect(warnOfHeading(350, { azimuth: 350, altitude: -1 })).toBeNull());
});

test('what can hurt someone stands first on the list', () => {
  const at = (words: RegExp) => CHECKLIST.findIndex((one) => words.test(one));
  expect(at(/local rules/)).toBe(0);
  for (const words of [/propellers stopped/, /Lamps get hot/, /Never point .* at the sun/, /Not over people/]) {
    expect(at(words)).toBeGreaterThan(0);
    expect(at(words)).toBeLessThan(at(/White balance/));
  }
});

test('each school says what it buys and what it costs', () => {
  for (const school of Object.values(SCHOOLS))
    for (const words of Object.values(school)) expect(words).toMatch(/[:;].*\.$/);
});
