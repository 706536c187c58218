/** Agreement between benches: worked by hand, and over many drawn ones. */
import { seededNormals } from '../../formulas/statistics/seededNormals';
import { consensusOf, MOST_MORE, type BenchResult } from './consensus';
import { patternOf, type FilterOff } from './pattern';
import { youdenOf } from './youden';

const bench = (name: string, value: number, u95: number): BenchResult => ({ bench: name, reading: { value, u95 } });
describe('consensus', () => {
  test('E_n of two benches is their distance over the root of both ± squared (by hand: 0.03/√(0.02² + 0.02²) = 1.06)', () => {
    const { scores } = consensusOf([bench('a', 10.03, 0.02), bench('b', 10, 0.02)], 0.1, 0.05)!;
    expect(scores[0].en).toBeCloseTo(1.0607, 4);
    expect(scores[1].en).toBeCloseTo(-1.0607, 4);
    expect(scores[0].off).toEqual({ value: expect.closeTo(0.03, 12), u95: expect.closeTo(0.02 * Math.SQRT2, 12) });
    // Nobody would notice 0.03 stop: the benches agree but their ± are too narrow.
    expect(scores.map(({ word }) => word)).toEqual(['narrow', 'narrow']);
  });

  test('the weighted mean, by hand: 5.00 ± .02, 5.04 ± .02, 5.02 ± .04', () => {
    const found = consensusOf([bench('a', 5, 0.02), bench('b', 5.04, 0.02), bench('c', 5.02, 0.04)], 0.1, 0.05)!;
    // Weights 4 : 4 : 1; u = 1/√(1e4 + 1e4 + 2500) = .006667; χ² = 4 + 4 + 0 of 2 degrees of freedom.
    expect(found.weighted.value).toBeCloseTo(5.02, 12);
    expect(found.birgeRatio).toBeCloseTo(2, 10);
    // Student's t of 95.45 % at two degrees of freedom, JCGM 100:2008 table G.2: 4.53.
    expect(found.weighted.u95).toBeCloseTo(2 * 4.53 * 0.0066667, 3);
  });

  test('who is off is told against the others, not against a mean it has a part in', () => {
    const found = consensusOf(
      [bench('a', 5, 0.02), bench('b', 5.01, 0.02), bench('c', 4.99, 0.02), bench('d', 5.4, 0.02)],
      0.1,
      0.05,
    )!;
    const d = found.scores[3];
    expect(d.off.value).toBeCloseTo(0.4, 12);
    expect(d.word).toBe('off');
    expect(found.scores.slice(0, 3).map(({ word }) => word)).toEqual(['agrees', 'agrees', 'agrees']);
    expect(Math.abs(found.robust.value - 5)).toBeLessThan(0.03);
    // The one that is off has no part in the mean.
    expect(found.leftOut).toEqual(['d']);
    expect(found.weighted.value).toBeCloseTo(5, 10);
  });

  test('a difference that somebody would notice is doubtful, one and a half times it is off', () => {
    const around = [4.97, 5, 5.03, 5, 5.01, 4.99].map((value, i) => bench(`b${i}`, value, 0.04));
    const of = (value: number) => consensusOf([...around, bench('x', value, 0.04)], 0.1, 0.05)!.scores[6].word;
    expect(of(5.03)).toBe('agrees');
    expect(of(5.12)).toBe('doubtful');
    expect(of(5.2)).toBe('off');
  });

  test('of two that are far apart both are off, however few they are; with wide ± they agree', () => {
    const words = (u95: number) => consensusOf([bench('a', 5, u95), bench('b', 5.4, u95)], 0.1, 0.05)!.scores.map(({ word }) => word); // prettier-ignore
    expect(words(0.02)).toEqual(['off', 'off']);
    expect(words(0.5)).toEqual(['agrees', 'agrees']);
  });

  test('how many more would settle it, against t·s/√n by hand', () => {
    // s = .1 of two benches .0707 to each side: with n benches t(n − 1)·.1/√n ≤ .1 needs n = 7 (2.52·.1/√7 = .095; six: 2.65·.1/√6 = .108).
    const two = [bench('a', 5 - 0.0707107, 0.01), bench('b', 5 + 0.0707107, 0.01)];
    expect(consensusOf(two, 0.1, 0.1)!.more).toBe(5);
    expect(consensusOf(two, 0.1, 0.001)!.more).toBeNull();
    expect(consensusOf([bench('a', 5, 0.02), bench('b', 5, 0.02)], 0.1, 0.05)!.more).toBe(0);
    expect(MOST_MORE).toBe(50);
  });

  test('one bench is no consensus, and a ± of nothing doesn’t divide by it', () => {
    expect(consensusOf([bench('a', 5, 0.02)], 0.1, 0.05)).toBeNull();
    const none = consensusOf([bench('a', 5, 0), bench('b', 5, 0)], 0.1, 0.05)!;
    expect(none.scores.every(({ en, z }) => en === 0 && z === 0)).toBe(true);
  });

  test('of 2,000 benches with honest ± about 95 % have an E_n within one, and hardly any is called off', () => {
    const next = seededNormals(4);
    const words = new Map<string, number>();
    let within = 0;
    for (let i = 0; i < 400; i++) {
      const results = [0.02, 0.03, 0.02, 0.04, 0.03].map((u95, k) => bench(`b${k}`, 5 + (u95 / 2) * next(), u95));
      for (const { en, word } of consensusOf(results, 0.1, 0.05)!.scores) {
        if (Math.abs(en) <= 1) within++;
        words.set(word, (words.get(word) ?? 0) + 1);
      }
    }
    // Widened where they scatter by chance, so a little more than 95.45 %.
    expect(within / 2000).toBeGreaterThan(0.94);
    expect(within / 2000).toBeLessThan(0.99);
    expect((words.get('off') ?? 0) + (words.get('doubtful') ?? 0)).toBe(0);
  });
});

describe('in what a bench is off', () => {
  const STOPS = [1, 2, 3, 4, 5, 6];
  const filters = (off: (stops: number, i: number) => number, u95 = 0.02): FilterOff[] =>
    STOPS.map((stops, i) => ({ filter: `f${i}`, stops, off: { value: off(stops, i), u95 } }));

  test('nothing, its curve, its light', () => {
    expect(patternOf([])).toEqual({ what: 'none' });
    expect(patternOf(filters((_, i) => (i % 2 ? 0.008 : -0.008)))).toEqual({ what: 'none' });
    const response = patternOf(filters((stops) => 0.03 * stops));
    expect(response.what).toBe('response');
    expect(response.slope!.value).toBeCloseTo(0.03, 10);
    const light = patternOf(filters(() => 0.11));
    expect(light).toEqual({ what: 'light', offset: { value: expect.closeTo(0.11, 10), u95: expect.closeTo(0.02 / Math.sqrt(6), 4) } }); // prettier-ignore
  });

  test('a dial that was a third of a stop off for one filter, and a filter of its own', () => {
    expect(patternOf(filters((_, i) => (i === 3 ? -0.34 : 0)))).toMatchObject({
      what: 'marks',
      single: [{ filter: 'f3', step: 1 / 3 }],
    });
    expect(patternOf(filters((_, i) => (i === 3 ? 0.2 : 0)))).toMatchObject({
      what: 'filters',
      single: [{ filter: 'f3', step: null }],
    });
    // A ± as wide as between two steps tells none of them.
    expect(patternOf(filters((_, i) => (i === 3 ? -0.34 : 0), 0.1))).toMatchObject({ what: 'filters' });
  });

  test('without a pattern it is called scatter; of two filters no slope is told', () => {
    expect(patternOf(filters((_, i) => [0.2, -0.15, 0.3, -0.25, 0.1, -0.2][i])).what).toBe('scatter');
    const two = filters((stops) => 0.05 * stops).slice(2, 4);
    expect(patternOf(two).what).not.toBe('response');
  });

  test('of 500 benches whose ± are honest at most 4 % are said to be off, and one whose curve is 2 % off is found', () => {
    const next = seededNormals(9);
    let [alarms, found] = [0, 0];
    for (let i = 0; i < 500; i++) {
      if (patternOf(filters(() => 0.01 * next())).what !== 'none') alarms++;
      if (patternOf(filters((stops) => 0.02 * stops + 0.01 * next())).what === 'response') found++;
    }
    expect(alarms).toBeLessThan(20);
    expect(found).toBeGreaterThan(450);
  });
});

describe('Youden’s plot', () => {
  const pair = (name: string, first: number, second: number) => ({ bench: name, first, second });

  test('the cross, the circle and what lies outside, by hand', () => {
    const plot = youdenOf([
      pair('a', 3, 6),
      pair('b', 3.02, 6.02),
      pair('c', 2.98, 6),
      pair('d', 3.2, 6.2),
      pair('e', 3, 5.98),
    ])!;
    expect(plot.center).toEqual([3, 6]);
    // Differences −3, −3, −3.02, −3, −2.98: deviation .014142, over √2 .01, times 2.4477.
    expect(plot.radius).toBeCloseTo(0.024477, 5);
    const d = plot.points[3];
    expect([d.both, d.one]).toEqual([expect.closeTo(0.2, 10), expect.closeTo(0, 10)]);
    expect(plot.points.map(({ outside }) => outside)).toEqual([false, true, false, true, false]);
  });

  test('a bench that is off in one filter alone lies off the diagonal', () => {
    const plot = youdenOf([pair('a', 3, 6), pair('b', 3.01, 6), pair('c', 3, 6.01), pair('d', 3.2, 6)])!;
    expect(plot.points[3].one).toBeGreaterThan(0.09);
    expect(youdenOf([pair('a', 3, 6), pair('b', 3, 6)])).toBeNull();
  });

  test('of 1,000 benches off by chance alone about 95 % lie in the circle', () => {
    const next = seededNormals(12);
    const pairs = Array.from({ length: 1000 }, (_, i) => pair(`b${i}`, 3 + 0.02 * next(), 6 + 0.02 * next()));
    const inside = youdenOf(pairs)!.points.filter(({ outside }) => !outside).length;
    expect(inside).toBeGreaterThan(930);
    expect(inside).toBeLessThan(970);
  });
});
