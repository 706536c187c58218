/**
 * The truth of each case is drawn by the formula of the file's head, written out a second time: no code under test makes it.
 */
import { seededRandom } from '../../../simulator/random';
import { REASONS, type RatioMap } from '../../laying/ratioMap';
import { levelCovariance, solveChannel, type Pair } from './solveChannel';

const ASPECT = 3 / 4;
const [COLUMNS, ROWS] = [24, 18];
const U = 0.01;

interface Drawn {
  levels: readonly number[];
  /** Stops at r², r⁴, r⁶, along x, along y; radii in half diagonals (4 : 3, so a half width is 0.8). */
  shade?: readonly [number, number, number, number, number];
  lens?: readonly [number, number, number];
  noise?: number;
}

const even = (terms: readonly number[], r2: number) => terms[0] * r2 + terms[1] * r2 ** 2 + terms[2] * r2 ** 3;

/** What a pair shows, the second picture's frame shifted by half widths. */
function pairOf(
  drawn: Drawn,
  [first, second]: readonly [number, number],
  { filtered = false, shift = 0, seed = 'pair' }: { filtered?: boolean; shift?: number; seed?: string } = {},
): Pair {
  const { levels, shade = [0, 0, 0, 0, 0], lens = [0, 0, 0], noise = 0 } = drawn;
  const random = seededRandom(`${seed} ${first} ${second}`);
  const size = COLUMNS * ROWS;
  const empty = () => new Float64Array(size);
  const map: RatioMap = {
    columns: COLUMNS,
    rows: ROWS,
    channels: [empty(), empty(), empty()],
    light: [empty(), empty(), empty()],
    u: empty().fill(U),
    reason: new Uint8Array(size).fill(REASONS.indexOf('used')),
    x: empty(),
    y: empty(),
  };
  for (let row = 0; row < ROWS; row++)
    for (let column = 0; column < COLUMNS; column++) {
      const cell = row * COLUMNS + column;
      const [wide, high] = [-1 + (2 * column + 1) / COLUMNS, ASPECT * (-1 + (2 * row + 1) / ROWS)];
      map.x[cell] = wide + shift;
      map.y[cell] = high;
      const [x, y] = [0.8 * wide, 0.8 * high];
      const [own, other] = [x * x + y * y, (0.8 * (wide + shift)) ** 2 + y * y];
      const glass = filtered ? even(shade, own) + shade[3] * x + shade[4] * y : 0;
      const value = levels[first] - levels[second] + glass + even(lens, own) - even(lens, other);
      for (const channel of map.channels) channel[cell] = value + noise * random.normal();
    }
  return { first, second, map, filtered };
}

const solve = (pairs: Pair[], count: number, known: [number, number][] = [[0, 0]]) =>
  solveChannel(pairs, 0, count, new Map(known), ASPECT);

describe('levels of pictures from ratios of pairs', () => {
  test('one pair, nothing but a difference', () => {
    const { levels, residual } = solve([pairOf({ levels: [0, -3] }, [1, 0], { filtered: true })], 2);
    expect(levels[1]).toBeCloseTo(-3, 5);
    expect(levels[0]).toBe(0);
    // No cell scatters; the least scale that the fit allows is what remains.
    expect(residual).toBeCloseTo(0.003, 6);
  });

  test('what is known stays as it was given, and shifts the rest', () => {
    const pairs = [pairOf({ levels: [0, -3] }, [1, 0], { filtered: true })];
    expect(solve(pairs, 2, [[0, 1.5]]).levels[1]).toBeCloseTo(-1.5, 5);
  });

  test('a chain of pairs carries from picture to picture', () => {
    const drawn = { levels: [0, 0.2, -2, -2.1] };
    const pairs = [pairOf(drawn, [1, 0]), pairOf(drawn, [2, 1], { filtered: true }), pairOf(drawn, [3, 2])];
    expect([...solve(pairs, 4).levels].map((one) => Math.round(one * 1e4) / 1e4)).toEqual([0, 0.2, -2, -2.1]);
  });

  test('a picture that no pair shows is not solved', () => {
    const { levels, leverage, sectors } = solve([pairOf({ levels: [0, -3, 9] }, [1, 0], { filtered: true })], 3);
    expect(levels[2]).toBe(0);
    expect(leverage[2]).toBe(1);
    expect([...sectors[2]].every(Number.isNaN)).toBe(true);
  });

  test('cells that are left out say nothing', () => {
    const pair = pairOf({ levels: [0, -3] }, [1, 0], { filtered: true });
    for (let cell = 0; cell < 150; cell++) {
      pair.map.channels[0][cell] = 4;
      pair.map.reason[cell] = REASONS.indexOf('clipped');
    }
    pair.map.channels[0][200] = NaN;
    expect(solve([pair], 2).levels[1]).toBeCloseTo(-3, 4);
  });
});

describe('falls of light', () => {
  test('a filter’s darkening of the corners is not taken for strength', () => {
    const drawn = { levels: [0, -6], shade: [-0.3, -0.2, 0, 0, 0] as const };
    const { levels, shade } = solve([pairOf(drawn, [1, 0], { filtered: true })], 2);
    expect(levels[1]).toBeCloseTo(-6, 3);
    // Stops at the corner (radius 1): the terms by themselves are told apart less well than their sum.
    expect(shade[0] + shade[1] + shade[2]).toBeCloseTo(-0.5, 2);
    expect(shade[3]).toBeCloseTo(0, 5);
  });

  test('a tilt within what filters do is found along its own direction', () => {
    const drawn = { levels: [0, -3], shade: [0, 0, 0, 0.03, -0.015] as const };
    const { levels, shade } = solve([pairOf(drawn, [1, 0], { filtered: true })], 2);
    expect(levels[1]).toBeCloseTo(-3, 3);
    expect(shade[3]).toBeCloseTo(0.03, 3);
    expect(shade[4]).toBeCloseTo(-0.015, 3);
  });

  test('a lens’s fall shows where the frame moved, and is not taken for light', () => {
    const drawn = { levels: [0, 0.1, -0.1], lens: [-0.8, -0.2, 0] as const };
    const pairs = [pairOf(drawn, [1, 0], { shift: 0.35 }), pairOf(drawn, [2, 0], { shift: -0.3 })];
    const { levels, lens } = solve(pairs, 3);
    expect(levels[1]).toBeCloseTo(0.1, 2);
    expect(levels[2]).toBeCloseTo(-0.1, 2);
    expect(even(lens.terms, 0.5)).toBeCloseTo(even(drawn.lens, 0.5), 2);
  });

  test('without a move the lens stays at what was known of it', () => {
    const information = [0, 1, 2].map((a) => [0, 1, 2].map((b) => (a === b ? 400 : 0)));
    const pairs = [pairOf({ levels: [0, -3] }, [1, 0], { filtered: true })];
    const told = solveChannel(pairs, 0, 2, new Map([[0, 0]]), ASPECT, { terms: [-0.7, -0.1, 0.05], information });
    expect(told.lens.terms[0]).toBeCloseTo(-0.7, 6);
    expect(told.lens.terms[1]).toBeCloseTo(-0.1, 6);
    expect(told.lens.terms[2]).toBeCloseTo(0.05, 6);
    expect(told.lens.information[0][0]).toBeCloseTo(400, 1);
    expect(told.lens.information[0][1]).toBeCloseTo(0, 3);
  });
});

describe('what does not belong to the scene', () => {
  /** A shadow 1.2 stops deep over the left columns of the one pair that there is. */
  function shadowed(columns: number) {
    const pair = pairOf({ levels: [0, -3], noise: 0.01 }, [1, 0], { filtered: true });
    for (let cell = 0; cell < COLUMNS * ROWS; cell++)
      if (cell % COLUMNS < columns) for (const channel of pair.map.channels) channel[cell] -= 1.2;
    const channels = [0, 1, 2].map((channel) => solveChannel([pair], channel, 2, new Map([[0, 0]]), ASPECT));
    return { ...channels[0], u: Math.sqrt(levelCovariance(channels, 1)[0]) };
  }

  test('a cloud’s shadow over an eighth of the frame falls out, and is said', () => {
    const { levels, outliers } = shadowed(3);
    expect(Math.abs(levels[1] + 3)).toBeLessThan(0.01);
    const out = [...outliers[0].keys()].filter((cell) => outliers[0][cell] === 1);
    expect(out.filter((cell) => cell % COLUMNS < 3)).toHaveLength(3 * ROWS);
    expect(out.length).toBeLessThan(3 * ROWS + 0.03 * COLUMNS * ROWS);
  });

  test('one over a third can’t be told from the filter’s own fall of light: the ± holds it', () => {
    const { levels, u } = shadowed(COLUMNS / 3);
    expect(Math.abs(levels[1] + 3)).toBeLessThan(2 * u);
    expect(u).toBeGreaterThan(0.05);
  });

  test('a mover is left out of its own pair alone', () => {
    const drawn = { levels: [0, -3, -3], noise: 0.01 };
    const pairs = [pairOf(drawn, [1, 0], { filtered: true }), pairOf(drawn, [2, 0], { filtered: true })];
    for (let cell = 200; cell < 208; cell++) pairs[1].map.channels[0][cell] += 0.8;
    const { outliers } = solve(pairs, 3);
    for (let cell = 200; cell < 208; cell++) {
      expect(outliers[1][cell]).toBe(1);
      expect(outliers[0][cell]).toBe(0);
    }
  });
});

describe('how well a level is known', () => {
  /** Seeded sittings; the center's error beside its own standard deviation. Cells scatter by themselves here. */
  const errors = Array.from({ length: 60 }, (_, i) => {
    const pair = pairOf({ levels: [0, -4], noise: 0.02 }, [1, 0], { filtered: true, seed: `sitting ${i}` });
    const solved = solve([pair], 2);
    return { error: solved.levels[1] + 4, u: Math.sqrt(solved.variance[1]) };
  });

  test('the variance is that of the errors (χ² with 60 degrees of freedom, 99.9 % by R. A. Fisher’s tables: 99.6)', () => {
    const chi2 = errors.reduce((sum, { error, u }) => sum + (error / u) ** 2, 0);
    expect(chi2).toBeLessThan(99.6);
    // Not much too wide either: 0.1 % are below 31.7.
    expect(chi2).toBeGreaterThan(31.7);
  });

  test('more pairs tell it better', () => {
    const drawn = { levels: [0, -4, 0.1, 0.2], noise: 0.02 };
    const once = solve([pairOf(drawn, [1, 0], { filtered: true })], 4);
    const thrice = solve(
      [
        pairOf(drawn, [1, 0], { filtered: true }),
        pairOf(drawn, [1, 2], { filtered: true }),
        pairOf(drawn, [1, 3], { filtered: true }),
      ],
      4,
      [
        [0, 0],
        [2, 0.1],
        [3, 0.2],
      ],
    );
    expect(thrice.variance[1]).toBeLessThan(0.5 * once.variance[1]);
  });

  test('channels that err together are told so; a picture of too few parts is hardly known at all', () => {
    const random = seededRandom('together');
    const pair = pairOf({ levels: [0, -4], noise: 0.002 }, [1, 0], { filtered: true });
    // Each third of the frame is off by its own amount, red and green alike, blue the other way.
    const off = Array.from({ length: 12 }, () => 0.02 * random.normal());
    for (let cell = 0; cell < COLUMNS * ROWS; cell++) {
      const part =
        4 * Math.floor((3 * Math.floor(cell / COLUMNS)) / ROWS) + Math.floor((4 * (cell % COLUMNS)) / COLUMNS);
      [1, 1, -1].forEach((sign, channel) => (pair.map.channels[channel][cell] += sign * off[part]));
    }
    const channels = [0, 1, 2].map((channel) => solveChannel([pair], channel, 2, new Map([[0, 0]]), ASPECT));
    const covariance = levelCovariance(channels, 1);
    expect(covariance[1] / Math.sqrt(covariance[0] * covariance[4])).toBeGreaterThan(0.9);
    expect(covariance[2] / Math.sqrt(covariance[0] * covariance[8])).toBeLessThan(-0.9);
    for (const [a, b] of [
      [1, 3],
      [2, 6],
      [5, 7],
    ])
      expect(covariance[a]).toBeCloseTo(covariance[b], 12);
    // Picture 2 is in no pair: half a stop, squared.
    const unseen = channels.map((one) => ({ ...one, sectors: [...one.sectors, new Float64Array(12).fill(NaN)] }));
    expect([...levelCovariance(unseen, 2)]).toEqual([0.25, 0, 0, 0, 0.25, 0, 0, 0, 0.25]);
  });
});
