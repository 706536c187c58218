/** Fields of known light: reduction, corners, hot spot, unevenness, each against closed forms. */
import type { Picture } from '../../reading/window';
import { seededRandom } from '@/simulator/random';
import { CORNERS, reduceField, type FieldStatistics } from './field';
import { placeOf, radialFit, radialProfile } from './radial';
import type { ResponseDoubt } from '../../light/response';
import { fieldPair } from './estimateShading';
import { measureShading, strengthMap } from './shadingMap';
import { cellNoises, unevenness } from './unevenness';

const [WIDTH, HEIGHT] = [300, 200];
const LUMINANCE = [0.2126, 0.7152, 0.0722];
const LINEAR = Float64Array.from({ length: 65_536 }, (_, code) => code / 65_535);
const TABLES: [Float64Array, Float64Array, Float64Array] = [LINEAR, LINEAR, LINEAR];
const SIDE = 15;

/** A picture of light by place (half diagonals from the center), 16 bits. */
function field(light: (x: number, y: number, channel: number) => number, noise = 0, seed = 'field'): FieldStatistics {
  const random = seededRandom(seed);
  const data = new Uint16Array(WIDTH * HEIGHT * 3);
  const half = Math.hypot(WIDTH, HEIGHT) / 2;
  for (let v = 0, i = 0; v < HEIGHT; v++)
    for (let u = 0; u < WIDTH; u++)
      for (let c = 0; c < 3; c++, i++) {
        const value = light((u + 0.5 - WIDTH / 2) / half, (v + 0.5 - HEIGHT / 2) / half, c);
        data[i] = Math.round(65_535 * Math.min(1, value * (1 + noise * random.normal())));
      }
  const picture: Picture = { width: WIDTH, height: HEIGHT, channels: 3, bitDepth: 16, data };
  return reduceField(picture, TABLES, SIDE);
}
const one = (statistics: FieldStatistics) => [{ field: statistics, weight: 1 }];
const lens = (x: number, y: number) => 0.6 * 2 ** (-0.5 * (x * x + y * y));

/** Mean of a function of the place over a square of the picture whose left upper pixel is given. */
function meanOver(of: (x: number, y: number) => number, left: number, top: number): number {
  const half = Math.hypot(WIDTH, HEIGHT) / 2;
  let sum = 0;
  for (let v = top; v < top + SIDE; v++)
    for (let u = left; u < left + SIDE; u++) sum += of((u + 0.5 - WIDTH / 2) / half, (v + 0.5 - HEIGHT / 2) / half);
  return sum / SIDE ** 2;
}

describe('a field reduced', () => {
  test('squares lie in the middle and the corners, cells cover all of it', () => {
    const steps = field((x, y) => 0.2 + 0.1 * (x > 0 ? 1 : 0) + 0.3 * (y > 0 ? 1 : 0));
    const level = (square: keyof FieldStatistics['squares']) => steps.squares[square][1];
    expect(level('topLeft')).toBeCloseTo(0.2, 4);
    expect(level('topRight')).toBeCloseTo(0.3, 4);
    expect(level('bottomLeft')).toBeCloseTo(0.5, 4);
    expect(level('bottomRight')).toBeCloseTo(0.6, 4);
    expect([steps.columns, steps.rows]).toEqual([100, 65]);
    const mean = steps.cells[1].reduce((sum, light) => sum + light, 0) / steps.cells[1].length;
    expect(mean).toBeCloseTo(0.4, 2);
  });

  test('a share at the top code is counted over all channels', () => {
    const left = field((x, _y, c) => (c === 0 && x < -0.5 ? 1 : 0.4));
    const columns = Math.round(WIDTH / 2 - 0.5 * (Math.hypot(WIDTH, HEIGHT) / 2));
    expect(left.topShare).toBeCloseTo(columns / WIDTH, 2);
    expect(field(() => 0.5).topShare).toBe(0);
  });
});

describe('what a filter adds to the lens’s own falloff', () => {
  const passes = [0.25, 0.24, 0.22];
  const fall = (x: number, y: number) => 2 ** (-0.3 * (x * x + y * y) ** 2);
  const bare = field((x, y) => lens(x, y));
  const filtered = field((x, y, c) => passes[c] * lens(x, y) * fall(x, y));
  const found = measureShading('flat', one(filtered), one(bare), LUMINANCE);

  test('corners are ratios of means over the definition’s squares', () => {
    const square = (left: number, top: number) =>
      meanOver((x, y) => lens(x, y) * fall(x, y), left, top) / meanOver(lens, left, top);
    const truth = Math.log2(square(0, 0) / square((WIDTH - SIDE) >> 1, (HEIGHT - SIDE) >> 1));
    for (const corner of CORNERS) {
      expect(found.corners[corner]!.value).toBeCloseTo(truth, 3);
      expect(found.corners[corner]!.u95).toBeLessThan(0.003);
    }
    expect(found.worst!.value).toBe(Math.min(...CORNERS.map((corner) => found.corners[corner]!.value)));
    expect(found.withheld).toEqual([]);
  });

  test('the lens’s falloff stands apart, and the profile falls with the fourth power', () => {
    const corner = Math.log2(meanOver(lens, 0, 0) / meanOver(lens, (WIDTH - SIDE) >> 1, (HEIGHT - SIDE) >> 1));
    expect(found.lens.worst).toBeCloseTo(corner, 3);
    for (const [r, stops] of found.profile) expect(Math.abs(stops + 0.3 * r ** 4)).toBeLessThan(0.02);
    expect(found.fitResidual).toBeLessThan(0.001);
    expect(found.hotSpot.value).toBe(0);
  });

  test('a corner that noise hides is withheld, and then there is no worst', () => {
    const dark = (seed: string) => field((x, y) => 0.02 * lens(x, y), 0.9, seed);
    const lost = measureShading('flat', one(dark('a')), one(bare), LUMINANCE);
    expect(lost.withheld.length).toBeGreaterThan(0);
    expect(lost.worst).toBeUndefined();
    for (const corner of lost.withheld) expect(lost.corners[corner]).toBeUndefined();
  });

  test('a recovered response that errs between corner and center is in the ±', () => {
    const u = 0.02;
    const response = { covariance: () => new Float64Array(9).fill(u * u) };
    const told = measureShading('flat', one(filtered), one(bare), LUMINANCE, response);
    expect(told.corners.topLeft!.u95).toBeGreaterThan(1.96 * u);
    expect(told.budget[0].source).toBe('response');
  });

  test('a learned response that is uncertain by depth is in the ± of unevenness, by how deep the darkest place lies', () => {
    // A slope known to a tenth: what two lights differ by is uncertain by a tenth of it.
    const slope = 0.1;
    const covarianceOfLight: NonNullable<ResponseDoubt['covarianceOfLight']> = (sums) => {
      const [d] = sums.map((sum) => sum.reduce((total, [light, factor]) => total + factor * light, 0));
      return new Float64Array(9).fill((slope * d) ** 2);
    };
    // A cross that darkens the middle of one side by a stop, where no corner lies.
    const band = field((x, y) => lens(x, y) * 0.4 * 2 ** -Math.exp(-20 * (x - 0.5) ** 2));
    const plain = measureShading('flat', one(band), one(bare), LUMINANCE);
    const told = measureShading('flat', one(band), one(bare), LUMINANCE, { covarianceOfLight });
    expect(told.unevenness.value).toBe(plain.unevenness.value);
    expect(told.unevenness.u95).toBeCloseTo(Math.hypot(plain.unevenness.u95, 2 * slope * plain.unevenness.value), 2);
  });

  test('repeats are averaged in log light by their weights', () => {
    const twice = field((x, y) => 2 * lens(x, y) * 0.5);
    const dimmer = field((x, y) => 0.5 * lens(x, y));
    const both = [
      { field: twice, weight: 0.25 },
      { field: dimmer, weight: 0.75 },
    ];
    const map = strengthMap(one(filtered), both, LUMINANCE);
    // Channels stand for themselves: a filter without a pattern has none above its center.
    const even = strengthMap(one(dimmer), one(twice), LUMINANCE);
    expect(Math.max(...even.channels[1].map(Math.abs))).toBeLessThan(0.002);
    expect(map.channels[0][0]).toBeGreaterThan(0.05);
  });

  test('a hot spot of 8 % is found to a hundredth, one of 0.1 % is none', () => {
    const spot = (share: number) => (x: number, y: number) =>
      (1 + share * Math.exp(-(x * x + y * y) / 2 / 0.06 ** 2)) * lens(x, y);
    const height = measureShading('flat', one(field(spot(0.08))), one(bare), LUMINANCE).hotSpot;
    expect(Math.abs(height.value - Math.log2(1.08))).toBeLessThan(0.012);
    expect(measureShading('flat', one(field(spot(0.001))), one(bare), LUMINANCE).hotSpot.value).toBe(0);
  });
});

describe('a radial fit', () => {
  const shape = field(() => 0.5);
  const { columns, rows } = shape;
  const mapOf = (of: (x: number, y: number) => number) =>
    Float64Array.from({ length: columns * rows }, (_, i) => of(...placeOf(i, columns, rows, shape)));

  test('gives back its own polynomial, a tilt included', () => {
    const truth = (x: number, y: number) => {
      const r2 = x * x + y * y;
      return 0.01 + 0.05 * x - 0.02 * y - 0.1 * r2 + 0.2 * r2 ** 2 - 0.3 * r2 ** 3;
    };
    const { at, residual } = radialFit(mapOf(truth), columns, rows, shape, 0);
    for (const [x, y] of [[0, 0], [0.5, 0.3], [-0.7, 0.4]]) expect(at(x, y)).toBeCloseTo(truth(x, y), 9); // prettier-ignore
    expect(residual).toBeLessThan(1e-9);
  });

  test('keeps clear of the middle where it is told to', () => {
    const spiked = mapOf((x, y) => (Math.hypot(x, y) < 0.15 ? 1 : 0));
    expect(Math.abs(radialFit(spiked, columns, rows, shape, 0.2).at(0, 0))).toBeLessThan(1e-9);
    expect(radialFit(spiked, columns, rows, shape, 0).at(0, 0)).toBeGreaterThan(0.05);
  });

  test('a profile is medians over rings a twentieth wide, by the middle of the ring', () => {
    const profile = radialProfile(
      mapOf((x, y) => Math.hypot(x, y)),
      columns,
      rows,
      shape,
    );
    for (const [r, value] of profile.slice(1, -1)) expect(Math.abs(value - r)).toBeLessThan(0.01);
    expect(profile[2][0]).toBeCloseTo(0.125, 9);
  });
});

describe('unevenness', () => {
  const [columns, rows] = [20, 13];
  const place = (i: number): [number, number] => [
    (((i % columns) + 0.5) / columns - 0.5) * 2,
    ((Math.floor(i / columns) + 0.5) / rows - 0.5) * 1.3,
  ];
  const noisy = (sigma: number, seed: string, of: (x: number, y: number) => number = () => 0) => {
    const random = seededRandom(seed);
    const values = Float64Array.from({ length: columns * rows }, (_, i) => of(...place(i)) + sigma * random.normal());
    return unevenness({ columns, rows, values }, new Float64Array(columns * rows).fill(sigma), place);
  };

  test('of a noiseless pattern: its own range and axis', () => {
    const strength = 0.2;
    const axis = 30;
    const turned = (x: number, y: number) => strength * (x * x + y * y) * Math.cos(2 * (Math.atan2(y, x) - (axis * Math.PI) / 180)); // prettier-ignore
    const values = Float64Array.from({ length: columns * rows }, (_, i) => turned(...place(i)));
    const found = unevenness({ columns, rows, values }, new Float64Array(values.length), place);
    expect(found.value).toBeCloseTo(Math.max(...values) - Math.min(...values), 9);
    expect(found.axisDegrees).toBeCloseTo(axis, 1);
  });

  test('noise alone makes a range of some six standard deviations, which is taken off', () => {
    const found = Array.from({ length: 40 }, (_, i) => noisy(0.01, `even ${i}`));
    const mean = found.reduce((sum, { value }) => sum + value, 0) / found.length;
    // The range of 260 normal numbers is 5.6 σ; the smooth copy, which fits a part of the noise, leaves less than one and a half.
    expect(mean).toBeLessThan(0.015);
    expect(found.filter(({ value, u95 }) => value <= u95).length).toBeGreaterThanOrEqual(36);
  });

  test('of a noisy slope the truth lies inside the ± in nineteen of twenty, and the ± is no wider than four noises', () => {
    const truth = 0.3 * (place(columns * rows - 1)[0] - place(0)[0]);
    const found = Array.from({ length: 60 }, (_, i) => noisy(0.01, `slope ${i}`, (x) => 0.3 * x));
    const held = found.filter(({ value, u95 }) => Math.abs(value - truth) <= u95).length;
    expect(held).toBeGreaterThanOrEqual(54);
    const widths = found.map(({ u95 }) => u95).sort((a, b) => a - b);
    expect(widths[30]).toBeGreaterThan(0.01);
    expect(widths[30]).toBeLessThan(0.04);
  });

  test('a quarter of what is taken off for noise is in the standard uncertainty', () => {
    const { u95 } = noisy(0.02, 'share');
    // Some four σ are taken off: a quarter of that and the range’s own spread of nearly half a σ, doubled.
    expect(u95).toBeGreaterThan(2 * 0.02);
    expect(u95).toBeLessThan(2.4 * 0.02);
  });

  test('noise of cells from second differences: a fifth of that of the fine cells, a slope leaves none', () => {
    const [fineColumns, fineRows] = [100, 65];
    const random = seededRandom('cells');
    const white = Float64Array.from({ length: fineColumns * fineRows }, () => 0.05 * random.normal());
    const noises = cellNoises(white, fineColumns, fineRows);
    expect(noises).toHaveLength(260);
    expect(noises[130]).toBeGreaterThan(0.009);
    expect(noises[130]).toBeLessThan(0.011);
    const slope = Float64Array.from({ length: fineColumns * fineRows }, (_, i) => 0.01 * (i % fineColumns));
    expect(Math.max(...cellNoises(slope, fineColumns, fineRows))).toBeLessThan(1e-9);
  });
});

test('a field of fewer pixels than places to read is withheld, with what it is', () => {
  const tables = [0, 1, 2].map(() => Float64Array.from({ length: 256 }, (_, code) => code / 255)) as unknown as [Float64Array, Float64Array, Float64Array]; // prettier-ignore
  const picture = (width: number, height: number) => ({ width, height, channels: 3 as const, bitDepth: 8 as const, data: new Uint8Array(3 * width * height).fill(90) }); // prettier-ignore
  const pairOf = (width: number, height: number) => {
    const value = reduceField(picture(width, height), tables, 20);
    const seen = (filter: string | null, take: string) => ({ filter, take, file: take, timeMs: 0, value });
    const field = { patch: { id: 'wall' }, fields: [seen(null, 'bare'), seen('nd4', 'nd4')] };
    return fieldPair(field as never, { series: { takes: [], times: [] } } as never, 'nd4');
  };
  for (const [width, height] of [
    [96, 80],
    [99, 400],
    [1, 1],
  ])
    expect(pairOf(width, height)).toMatchObject({
      withheld: { code: 'field-missing', message: expect.stringContaining(`${width} × ${height} pixels`) },
    });
  expect(reduceField(picture(96, 80), tables, 20).cells[0].some(Number.isNaN)).toBe(true);
  expect(reduceField(picture(100, 80), tables, 20).cells[0].some(Number.isNaN)).toBe(false);
});
