import type { DatedSitting } from '@/core/judging/overTime/lives';
import { productsOf } from '@/core/judging/overTime/samples';
import { benchSentences, sampleSentences, shotAgainInWords, yearSentences } from './reportSentences';

test('what other benches say stands as a sentence: that all agree, or which are off and by how much', () => {
  const of = (filter: string, value: number, word: 'agrees' | 'off') => ({ filter, benches: ['Mill Lane', 'Tarn House'], off: { value, u95: 0.04 }, word }); // prettier-ignore
  expect(benchSentences([])).toEqual([]);
  expect(benchSentences([of('ND8', 0.01, 'agrees'), of('ND16', 0, 'agrees')])).toEqual([
    'Of 2 strengths that others measured too (Mill Lane and Tarn House) all agree with theirs within the ±.',
  ]);
  expect(benchSentences([of('ND8', 0.01, 'agrees'), of('ND16', -0.33, 'off')])).toEqual([
    'Of 2 strengths that others measured too (Mill Lane and Tarn House) these are off theirs: ND16 by −0.33 ±0.04 stop.',
  ]);
});

describe('years and samples', () => {
  const MONTH = 30.4375 * 24 * 3600 * 1000;
  const sitting = (i: number, stops: Record<string, number>, serial?: string): DatedSitting =>
    ({
      session: `${i}${serial}`,
      title: `${i}`,
      day: Date.UTC(2024, 5, 8) + 3 * i * MONTH,
      kit: {
        id: 'k',
        name: 'Kit',
        filters: Object.keys(stops).map((id) => ({
          id,
          name: id,
          kind: 'nd',
          nominal: {},
          ...(serial ? { serial } : {}),
        })),
      },
      readings: Object.entries(stops).map(([filter, value]) => ({ filter, density: { stops: { value, u95: 0.01 } } })),
    }) as unknown as DatedSitting;

  test('what changed beside the others is named, and how much can be excluded where nothing did', () => {
    // All read 0.05 darker from the third sitting on: the bench did that.
    const bench = (i: number) => (i >= 2 ? 0.05 : 0);
    const fading = [0, 1, 2, 3, 4].map((i) => sitting(i, { ND4: 2 + bench(i), ND8: 3 + bench(i), ND64: 6 + bench(i) - 0.04 * i })); // prettier-ignore
    expect(yearSentences(fading, 'k Kit')).toEqual([
      expect.stringMatching(
        /^Over 5 sittings since Jun 2024 strengths have changed: ND64 by −0\.1[567] ±0\.0\d stop, with what the bench did by itself taken out\.$/,
      ),
    ]);
    const steady = [0, 1, 2].map((i) => sitting(i, { ND4: 2, ND8: 3 }));
    expect(yearSentences(steady, 'k Kit')).toEqual([
      expect.stringMatching(/^Over 3 sittings since Jun 2024 no strength has changed by more than 0\.0\d stop\.$/),
    ]);
    expect(yearSentences([sitting(0, { ND4: 2 })], 'k Kit')).toEqual([]);
    expect(yearSentences(steady, 'another')).toEqual([]);
  });

  test('samples are told where they differ by more than their sittings', () => {
    const two = [sitting(0, { ND4: 2 }, 'A'), sitting(1, { ND4: 2.01 }, 'A'), sitting(2, { ND4: 2.2 }, 'B'), sitting(3, { ND4: 2.21 }, 'B')]; // prettier-ignore
    expect(sampleSentences(productsOf(two, 'Kit', 'strength'))).toEqual([
      expect.stringMatching(/^2 samples of ND4 differ by 0\.14 stop \(0\.0\d to \d\.\d+\) as a standard deviation/),
    ]);
    expect(sampleSentences(productsOf(two.slice(1, 3), 'Kit', 'strength'))).toEqual([]);
  });
});

test('takes that were shot again are told once each', () => {
  const out = (take: string) => ({ take, files: [], message: '', at: '' });
  expect(shotAgainInWords([])).toEqual([]);
  expect(shotAgainInWords([out('chart-nd4'), out('chart-nd8'), out('chart-nd4')])).toEqual([
    'spoiled while shooting, left out and shot again: chart-nd4 and chart-nd8',
  ]);
});
