import { shotInWords } from './reportFigures';

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
