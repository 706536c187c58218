import fc from 'fast-check';
import { BENCH_RIG } from '../../testing/rig';
import { patchStrength, seriesOfSamples } from '../../measures/strength/patchStrength';
import type { PatchSample } from '../../reading/observations';
import type { PatchStatistics, Triple } from '../../reading/patchStatistics';
import { parseKitShorthand } from '../kits/shorthand';
import { kitSchema } from '../../session/schema';
import { clearDayLux, goldenHours, polarizerHeadings, steadyWindow, sunPath } from './day';
import { evOfLux, lightNeed, readLight, shortOf, wantedExposure } from './lightBudget';
import { makePlan, planRequestSchema, WORKABLE_STOPS, type PlanRequest } from './plan';
import { planRigSchema, stepSetting, settingFor, type PlanRig } from './planRig';
import { sunPosition } from '../../formulas/sun/sun';
import { warnOf } from './warnings';

const kitOf = (words: string) => kitSchema.parse({ id: 'kit', filters: parseKitShorthand(words).filters });

const RIG = BENCH_RIG;
const REQUEST: PlanRequest = planRequestSchema.parse({
  kit: { id: 'kit', filters: parseKitShorthand('ND4 8 16 32 64 128').filters },
  rig: RIG,
  scenes: ['chart'],
  ev100: 12,
  fNumber: 2.8,
  slowest: 1,
});

describe('two darker bare pictures', () => {
  const planned = (change: Partial<PlanRequest>) => makePlan({ ...REQUEST, darkBares: true, ...change }).takes;

  test('come after the first bare one, a stop and three darker, one picture each', () => {
    const [bare, ...dark] = planned({ protocol: 'locked', ev100: 9 }).slice(0, 3);
    expect(dark.map(({ id, role, filter, repeats }) => [id, role, filter, repeats])).toEqual([
      ['chart-dark-1', 'bracket', null, 1],
      ['chart-dark-2', 'bracket', null, 1],
    ]);
    const log2 = ({ setting: { shutterSeconds, iso, fNumber } }: (typeof dark)[number]) =>
      Math.log2((shutterSeconds * iso) / fNumber ** 2);
    expect(log2(bare) - log2(dark[0])).toBeCloseTo(1, 6);
    expect(log2(bare) - log2(dark[1])).toBeCloseTo(3, 6);
    expect(dark.every(({ short }) => Math.abs(short) < 0.2)).toBe(true);
  });

  test('of a checked camera: one as a witness where the protocol is locked, none where it is matched', () => {
    const dark = (protocol: PlanRequest['protocol']) =>
      planned({ checked: true, protocol, ev100: 9 }).filter(({ role }) => role === 'bracket');
    expect(dark('matched')).toEqual([]);
    const [witness, ...more] = dark('locked');
    expect(more).toEqual([]);
    const [bare] = planned({ checked: true, protocol: 'locked', ev100: 9 });
    expect(Math.log2(bare.setting.shutterSeconds / witness.setting.shutterSeconds)).toBeCloseTo(3, 6);
  });

  test('once, in the first scene that isn’t a screen', () => {
    const kit = kitOf('CPL ND8');
    const takes = planned({ scenes: ['chart', 'flat', 'screen'], kit });
    expect(takes.filter(({ role }) => role === 'bracket').map(({ scene }) => scene)).toEqual(['chart', 'chart']);
    expect(planned({ scenes: ['screen'], kit }).some(({ role }) => role === 'bracket')).toBe(false);
    expect(planned({ darkBares: false }).some(({ role }) => role === 'bracket')).toBe(false);
  });
});

describe('light as people tell it (ISO 2720: EV 0 at ISO 100 is 2.5 lx)', () => {
  test('lux, EV, and what the bare meter says', () => {
    expect(evOfLux(2.5)).toBeCloseTo(0, 12);
    expect(readLight('10240 lx')).toEqual({ ev100: 12 });
    expect(readLight('10.24 klux')).toEqual({ ev100: 12 });
    expect(readLight('EV 12')).toEqual({ ev100: 12 });
    const metered = readLight('1/2500 f/2.8 ISO 100') as { ev100: number };
    expect(metered.ev100).toBeCloseTo(Math.log2(2500) + 2 * Math.log2(2.8), 9);
    // Twice the ISO at the same reading is half the light.
    expect((readLight('1/2500 f/2.8 ISO 200') as { ev100: number }).ev100).toBeCloseTo(metered.ev100 - 1, 9);
    expect(readLight('bright')).toHaveProperty('problem');
    expect(readLight('12')).toHaveProperty('problem');
  });

  test('a filter of six stops needs 64 times the light of bare', () => {
    const bare = lightNeed(RIG, 12, 0, 2.8, 1 / 25);
    const dark = lightNeed(RIG, 12, 6, 2.8, 1 / 25);
    expect(dark.lux / bare.lux).toBeCloseTo(64, 9);
    // f/2.8 at 1/25 s is EV 7.61: 488 lx at ISO 100.
    expect(bare.lux).toBeCloseTo(2.5 * 2 ** (2 * Math.log2(2.8) + Math.log2(25)), 6);
    expect(bare.short).toBe(0);
  });

  test('what is short is made up cheapest first: shutter, ISO, then lamps', () => {
    const need = lightNeed({ ...RIG, highestIso: 400 }, 5, 6, 2.8, 1 / 25);
    expect(need.remedies.map((one) => one.words)).toEqual([
      expect.stringContaining('slower shutter'),
      expect.stringContaining('ISO 400'),
      expect.stringContaining('more lamps'),
    ]);
    expect(need.remedies.reduce((sum, one) => sum + one.stops, 0)).toBeCloseTo(need.short, 9);
    expect(need.impossible).toBe(true);
  });
});

describe('settings in the rig’s steps', () => {
  test('thirds of a stop, shutter first, ISO only beyond the slowest', () => {
    const at = (stops: number) => stops + Math.log2(RIG.fastest * RIG.baseIso) - 2 * Math.log2(2.8);
    const { setting, short } = settingFor(RIG, at(10), 2.8);
    expect(setting.iso).toBe(100);
    // 1/8000 is marked for 1/8192 s: ten stops from there is 1/8 s, and what the mark differs by is left over.
    expect(setting.shutterSeconds).toBeCloseTo(1 / 8, 9);
    expect(short).toBeCloseTo(Math.log2(8192 / 8000), 9);
    const beyond = settingFor(RIG, at(14), 2.8);
    expect(beyond.setting.shutterSeconds).toBeLessThanOrEqual(1 + 1e-9);
    expect(beyond.setting.iso).toBeGreaterThan(100);
  });

  test('1/1600 s bare becomes 1/25 s with an ND64 and 1/6 s with an ND256 (common practice, no source: 1/20 and 1/6)', () => {
    const ev100 = Math.log2(1600) + 2 * Math.log2(2.8);
    const at = (stops: number) =>
      settingFor({ ...RIG, step: 0 }, wantedExposure(ev100, stops), 2.8).setting.shutterSeconds;
    expect(1 / at(6)).toBeCloseTo(25, 0);
    expect(1 / at(8)).toBeCloseTo(6.25, 1);
  });
});

describe('the plan', () => {
  test('lightest first, bare at both ends and after every third', () => {
    const { takes, minutes } = makePlan(REQUEST);
    expect(takes.map((one) => one.filter)).toEqual([null, 'nd4', 'nd8', 'nd16', null, 'nd32', 'nd64', 'nd128', null]);
    expect(minutes).toBeCloseTo(13.5, 9);
    for (const take of takes) expect(Math.abs(take.short)).toBeLessThan(0.17);
    expect(new Set(takes.map((one) => one.id)).size).toBe(takes.length);
  });

  test('polarizers get their ring angles, variable filters their marks', () => {
    const kit = kitOf('CPL VND 2-5 UV');
    const { takes } = makePlan({ ...REQUEST, kit, scenes: ['chart', 'flat', 'screen'], ringAngles: 7 });
    const sweep = takes.filter((one) => one.scene === 'screen' && one.filter === 'cpl');
    expect(sweep.map((one) => one.ringDegrees)).toEqual([0, 26, 51, 77, 103, 129, 154]);
    const marks = takes.filter((one) => one.scene === 'flat' && one.mark !== undefined);
    expect(marks.map((one) => one.mark)).toEqual([2, 3, 4, 5]);
    expect(takes.some((one) => one.scene === 'screen' && one.filter === 'uv')).toBe(false);
  });

  test('a graduated filter is exposed for its clear half, which takes nothing: as bare', () => {
    const { takes } = makePlan({ ...REQUEST, kit: kitOf('ND8 GND0.9'), scenes: ['chart', 'flat'] });
    const of = (scene: string, filter: string | null) => takes.find((one) => one.scene === scene && one.filter === filter && one.role === 'measure')!.setting; // prettier-ignore
    for (const scene of ['chart', 'flat']) {
      const grad = takes.find((one) => one.scene === scene && one.filter?.startsWith('gnd'))!;
      expect(grad.setting).toEqual(of(scene, null));
      // ND8 takes three stops: eight times as long.
      expect(of(scene, 'nd8').shutterSeconds / of(scene, null).shutterSeconds).toBeCloseTo(8, 1);
    }
  });

  test('what can’t be shot is named before anyone sets up', () => {
    const dim = makePlan({ ...REQUEST, ev100: 3, rig: { ...RIG, highestIso: 200 }, slowest: 1 / 25 });
    expect(dim.outlook.find((one) => one.filter === 'nd128')!.cannot).toContain('too dark');
    const locked = makePlan({ ...REQUEST, protocol: 'locked' });
    expect(locked.outlook.find((one) => one.filter === 'nd128')!.cannot).toContain('under the noise');
    expect(locked.outlook.find((one) => one.filter === 'nd4')!.cannot).toBeNull();
    expect(warnOf({ ...REQUEST, protocol: 'locked' }, locked).map((one) => one.code)).toContain('locked-too-dark');
  });

  test('every planned take is exposable or its filter is named as not (property)', () => {
    fc.assert(
      fc.property(
        fc.subarray(['ND2', 'ND4', 'ND8', 'ND64', 'ND1000', 'CPL', 'GND0.9', 'VND 2-5', 'UV', 'unmarked'], {
          minLength: 1,
        }),
        fc.double({ min: -2, max: 17, noNaN: true }),
        fc.constantFrom(0 as const, (1 / 3) as 0.3333333333333333, 0.5 as const, 1 as const),
        fc.constantFrom(100, 400, 6400),
        fc.constantFrom(1 / 25, 1 / 3, 1),
        fc.constantFrom('lightest' as const, 'darkest' as const, 'mirrored' as const),
        (words, ev100, step, highestIso, slowest, order) => {
          const kit = kitOf(words.join(' '));
          const rig: PlanRig = { ...RIG, step, highestIso, widest: 2, fixedAperture: false };
          const request: PlanRequest = { ...REQUEST, kit, rig, ev100, slowest, order, scenes: ['chart', 'flat'] };
          const { takes, outlook, bareCannot } = makePlan(request);
          for (const take of takes) {
            const named = take.filter === null ? bareCannot : outlook.find((one) => one.filter === take.filter)!.cannot;
            if (Math.abs(take.short) > WORKABLE_STOPS + 1e-9) expect(named).not.toBeNull();
            expect(take.setting.shutterSeconds).toBeLessThanOrEqual(slowest * (1 + 1e-9));
            expect(take.setting.iso).toBeLessThanOrEqual(highestIso * (1 + 1e-9));
            expect(shortOf(take.setting, ev100, 0)).toBeLessThan(40);
          }
        },
      ),
    );
  });

  test('a mirrored row cancels a linear drift exactly in the core’s own density arithmetic', () => {
    const drift = 0.31;
    const { takes } = makePlan({ ...REQUEST, order: 'mirrored', bareEvery: 6, protocol: 'locked', repeats: 1 });
    const last = takes[takes.length - 1].minute;
    const stops = (id: string | null) => (id === null ? 0 : Math.log2(Number(id.slice(2))));
    // The middle bare take alone: interpolation can't help, only the order can.
    const bares = takes.filter((one) => one.filter === null);
    expect(bares).toHaveLength(3);
    const samples = takes
      .filter((one) => one.filter !== null || one === bares[1])
      .map(({ id, filter, minute }): PatchSample => ({
        take: id,
        file: id,
        filter,
        timeMs: minute * 60_000,
        exposureLog2: 0,
        statistics: flat(2 ** ((drift * minute) / last - stops(filter))),
      }));
    const series = seriesOfSamples(samples, false)!;
    for (const id of ['nd4', 'nd16', 'nd128']) {
      const found = patchStrength(series, id, { scene: 'chart', patch: 'gray', role: 'neutral' })!;
      expect(found.channels[1]).toBeCloseTo(stops(id), 9);
    }
  });
});

function flat(light: number): PatchStatistics {
  const triple = (value: number): Triple => [value, value, value];
  return {
    pixelCount: 1000,
    mean: triple(light),
    zeroCorrection: triple(0),
    topShare: triple(0),
    zeroShare: triple(0),
    pixelSpread: triple(0.01),
    meanCode: triple(0.5),
    rounding: triple(0),
    cells: { columns: 1, rows: 1, values: [0, 1, 2].map(() => Float64Array.of(light)) as never },
  };
}

describe('the day', () => {
  const place = { latitude: 47, longitude: 8 };
  const path = sunPath(Date.parse('2026-06-21T00:00:00Z'), place);
  test('at the summer solstice the sun stands 90° − latitude + 23.4° high at noon (published obliquity)', () => {
    expect(Math.max(...path.map((one) => one.altitude))).toBeCloseTo(90 - 47 + 23.44, 0);
  });
  test('the longest steady window lies around noon, golden hours at both ends', () => {
    const window = steadyWindow(path)!;
    const noon = path.reduce((a, b) => (b.altitude > a.altitude ? b : a)).timeMs;
    expect(window.fromMs).toBeLessThan(noon);
    expect(window.toMs).toBeGreaterThan(noon);
    expect(goldenHours(path)).toHaveLength(2);
    expect(steadyWindow(sunPath(Date.parse('2026-12-21T00:00:00Z'), { latitude: 80, longitude: 0 }))).toBeNull();
  });
  test('a clear noon gives some 100 000 lx (common practice, no source), night none', () => {
    expect(clearDayLux(65)).toBeGreaterThan(80_000);
    expect(clearDayLux(65)).toBeLessThan(130_000);
    expect(clearDayLux(-3)).toBe(0);
  });
  test('a polarizer works across the sun', () => {
    const sun = sunPosition(new Date('2026-06-21T11:00:00Z'), place);
    const [a, b] = polarizerHeadings(sun);
    expect(Math.abs(((a - b + 540) % 360) - 180)).toBeCloseTo(180, 6);
  });
});

describe('the dials of a rig', () => {
  const rig = planRigSchema.parse({
    widest: 2.8,
    baseIso: 100,
    highestIso: 400,
    fastest: 1 / 8000,
    slowest: 1 / 30,
    step: 1 / 3,
    shutterMarks: 'exact',
  });
  const at = { shutterSeconds: 1 / 60, iso: 100, fNumber: 2.8 };

  /** 1/60, 1/50, 1/40, 1/30: the engraved row of thirds (common practice, no source). */
  test('step in the row of engraved shutters and stop at the limits', () => {
    const row = [at];
    for (let i = 0; i < 4; i++) row.push(stepSetting(rig, row[row.length - 1], 'shutterSeconds', 1));
    expect(row.map((one) => Math.round(1 / one.shutterSeconds))).toEqual([60, 50, 40, 30, 30]);
    expect(stepSetting(rig, at, 'iso', 1).iso).toBeCloseTo(126, 0);
    expect(stepSetting(rig, { ...at, iso: 400 }, 'iso', 1).iso).toBe(400);
    expect(stepSetting(rig, at, 'fNumber', -1).fNumber).toBe(2.8);
    expect(stepSetting({ ...rig, step: 1 }, at, 'fNumber', 1).fNumber).toBeCloseTo(3.96, 2);
  });

  test('a fixed aperture stays, a half-stop rig steps in halves', () => {
    expect(stepSetting({ ...rig, fixedAperture: true }, at, 'fNumber', 1).fNumber).toBe(2.8);
    expect(stepSetting({ ...rig, step: 0.5 }, at, 'iso', 1).iso).toBeCloseTo(141.4, 1);
  });
});
