import { measuredOf } from './across';

const dayOf = (date: string | undefined, capturedAt?: string) =>
  measuredOf({
    id: 's',
    session: { title: 'Sitting', date, kits: [], takes: [{}, { capturedAt }] },
    readings: { createdAt: '2026-11-30T00:00:00Z', filters: [] },
    stale: null,
  } as never).day;

test.each([
  ['the day that the session names', '2026-05-14', '2026-05-20T09:00:00Z', Date.UTC(2026, 4, 14)],
  ['the first picture’s', undefined, '2026-05-20T23:30:00+02:00', Date.UTC(2026, 4, 20)],
  ['the picture’s where the date is words', '14 May 2026', '2026-05-20T09:00:00Z', Date.UTC(2026, 4, 20)],
  ['the picture’s where there is no such day', '2026-13-40', '2026-05-20T09:00:00Z', Date.UTC(2026, 4, 20)],
  ['none where neither says', '14 May 2026', undefined, null],
])('a sitting’s day is %s', (_, date, capturedAt, day) => {
  expect(dayOf(date, capturedAt)).toBe(day);
});
