import { benchSentences, shotInWords } from './reportFigures';

test.each([
  // A zone that the files tell: times as they were on the wall.
  [['2026-05-14T09:02:00+02:00', '2026-05-14T09:40:10+02:00'], 'shot 2026-05-14 09:02 to 09:40, local time, UTC+02:00'],
  [['2026-05-14T18:02:00-07:00'], 'shot 2026-05-14 18:02 to 18:02, local time, UTC−07:00'],
  // None: nobody knows whose clock it was.
  [['2026-05-14T09:40:00Z', '2026-05-14T09:02:00Z'], 'shot 2026-05-14 09:02 to 09:40, by the camera’s clock'],
  [
    ['2026-05-14T23:50:00Z', '2026-05-15T00:10:00Z'],
    'shot 2026-05-14 23:50 to 2026-05-15 00:10, by the camera’s clock',
  ],
  [[], null],
])('%j: %s', (times, words) => expect(shotInWords(times)).toBe(words));

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
