import { promiseInWords, promiseOf } from './cameraCheck';

const tells = [0.01, 0.0401, 0.09, 0.3].map((u95, i) => ({ stops: i + 1, u95 }));

test('a check promises the most stops that are told to a twentieth, rounded up', () => {
  expect(promiseOf({ tells })).toEqual({ stops: 2, u95: 0.0401 });
  expect(promiseInWords({ tells })).toBe('Tells stops to ±0.041 over 2 stops');
  expect(promiseInWords({ tells: tells.slice(2) })).toBe('Tells stops to ±0.090 over 3 stops');
  expect(promiseInWords({ tells: [] })).toBe('Tells less than a stop');
});
