import { parseKitShorthand } from '../kits/shorthand';
import { kitSchema } from '../../session/schema';
import { makePlan, planRequestSchema, type PlanRequest } from './plan';
import { warnOf, warnOfHeading } from './warnings';
import { reachOf, slowestOf, targetSchema, targetSeconds } from './target';

const { filters } = kitSchema.parse({ filters: parseKitShorthand('ND4 8 16 32 64').filters });

/** A half-open shutter at 25 frames a second is open for 1/50 s (common practice, no source). */
test('a target’s shutter: 180° at 25 is 1/50 s, 90° of a 4 s interval is 1 s', () => {
  expect(targetSeconds(targetSchema.parse({ kind: 'clips', frameRate: 25 }))).toBeCloseTo(1 / 50, 12);
  expect(targetSeconds(targetSchema.parse({ kind: 'clips', frameRate: 24, angle: 172.8 }))).toBeCloseTo(1 / 50, 12);
  expect(targetSeconds(targetSchema.parse({ kind: 'hyperlapse', intervalSeconds: 4, angle: 90 }))).toBeCloseTo(1, 12);
  expect(targetSeconds(targetSchema.parse({ kind: 'long exposure', seconds: 30 }))).toBe(30);
  expect(targetSeconds({ kind: 'stills' })).toBeNull();
  expect(targetSchema.safeParse({ kind: 'clips', frameRate: 25, angle: 400 }).success).toBe(false);
});

test('what limits a test’s shutter: a frame, the time between pictures, the rig', () => {
  expect(slowestOf(targetSchema.parse({ kind: 'clips', frameRate: 25 }), 1)).toBeCloseTo(1 / 25, 12);
  expect(slowestOf(targetSchema.parse({ kind: 'hyperlapse', intervalSeconds: 4 }), 30)).toBeCloseTo(3.5, 12);
  expect(slowestOf(targetSchema.parse({ kind: 'long exposure', seconds: 60 }), 30)).toBe(30);
  expect(slowestOf({ kind: 'stills' }, 30)).toBe(30);
});

/** Bare 1/1600 s through ND32 is 1/50 s: five stops are 32 times (arithmetic). */
test('which filter reaches the target: 1/1600 s bare takes five stops to 1/50 s', () => {
  const ev100 = Math.log2(1600 * 2.8 ** 2);
  const reach = reachOf(targetSchema.parse({ kind: 'clips', frameRate: 25 }), filters, ev100, 2.8, 100);
  expect(reach[0].filter).toBe('nd32');
  expect(reach[0].off).toBeCloseTo(0, 9);
  expect(reach[0].seconds).toBeCloseTo(1 / 50, 9);
  expect(reach.find((one) => one.filter === null)?.off).toBeCloseTo(-5, 9);
});

const request = (more: Record<string, unknown>): PlanRequest =>
  planRequestSchema.parse({
    kit: { id: 'kit', filters },
    rig: { widest: 2.8, baseIso: 100, highestIso: 100, fastest: 1 / 8000, slowest: 1, step: 1 / 3 },
    scenes: ['chart', 'flat'],
    ev100: 12,
    fNumber: 2.8,
    slowest: 1,
    ...more,
  });

test('schools of exposure: darker is two thirds less, for the brightest part one third; neither is called too dark for it', () => {
  const shutter = (exposeFor: string) =>
    makePlan(request({ exposeFor, rig: { ...request({}).rig, step: 0 } })).takes[0].setting.shutterSeconds;
  expect(Math.log2(shutter('middle') / shutter('darker'))).toBeCloseTo(2 / 3, 9);
  expect(Math.log2(shutter('middle') / shutter('brightest'))).toBeCloseTo(1 / 3, 9);
  const { outlook } = makePlan(request({ exposeFor: 'darker' }));
  expect(outlook.every((one) => one.cannot === null)).toBe(true);
});

test('each scene is planned through its own lens', () => {
  const { takes } = makePlan(
    request({
      lenses: {
        chart: { name: 'Normal', widest: 2, fNumber: 4 },
        flat: { name: 'Wide', widest: 2.8, fixedAperture: true, fNumber: 8 },
      },
    }),
  );
  const apertures = (scene: string) =>
    new Set(takes.filter((one) => one.scene === scene).map((one) => one.setting.fNumber));
  expect(apertures('chart')).toEqual(new Set([4]));
  expect(apertures('flat')).toEqual(new Set([2.8]));
});

test('wide views behind thick mounts, mass, long exposures out of reach and views into the sun are warned of', () => {
  const codes = (more: Record<string, unknown>) => {
    const wanted = request(more);
    return warnOf(wanted, makePlan(wanted)).map((one) => one.code);
  };
  const thick = { id: 'kit', filters: parseKitShorthand('ND4 CPL').filters };
  const wide = { chart: { name: 'Wide', widest: 2.8, fNumber: 2.8, fieldOfViewDegrees: 90 } };
  expect(codes({ kit: thick, lenses: wide })).toContain('thick-mount');
  expect(codes({ lenses: wide })).not.toContain('thick-mount');
  const heavy = { id: 'kit', filters: [{ ...filters[0], massGrams: 3 }] };
  expect(codes({ kit: heavy, aircraft: { massGrams: 247, limitGrams: 249 } })).toContain('too-heavy');
  expect(codes({ kit: heavy, aircraft: { massGrams: 240, limitGrams: 249 } })).not.toContain('too-heavy');
  expect(codes({ aircraft: { massGrams: 240, limitGrams: 249 } })).toContain('not-weighed');
  expect(codes({ target: { kind: 'long exposure', seconds: 30 } })).toContain('shorter-than-target');
  expect(warnOfHeading(200, { azimuth: 180, altitude: 40 })?.code).toBe('faces-sun');
  expect(warnOfHeading(350, { azimuth: 10, altitude: 40 })?.code).toBe('faces-sun');
  expect(warnOfHeading(90, { azimuth: 180, altitude: 40 })).toBeNull();
  expect(warnOfHeading(180, { azimuth: 180, altitude: -5 })).toBeNull();
});
