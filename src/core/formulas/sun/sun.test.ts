/** Where the sun stands, against published examples and another way of the library. */
import { Body, Observer, SearchRiseSet } from 'astronomy-engine';
import { sunPosition } from './sun';

test('Reda & Andreas 2004 (SPA), example A.5: zenith 50.1116°, azimuth 194.3402°', () => {
  const place = { latitude: 39.742476, longitude: -105.1786, height: 1830.14 };
  const sun = sunPosition(new Date('2003-10-17T19:30:30Z'), place);
  expect(Math.abs(sun.azimuth - 194.3402)).toBeLessThan(0.01);
  // The example's air (820 mbar, 11 °C) refracts 0.004° less at this height.
  expect(Math.abs(90 - sun.altitude - 50.1116)).toBeLessThan(0.01);
});

/**
 * At sunrise the sun's upper edge is seen on the horizon: its middle stands 16′ below, as it is seen. Unrefracted it would stand 50′ below
 * (the 34′ of almanacs at the horizon; Explanatory Supplement to the Astronomical Almanac, 9.31; quoted from memory).
 */
test.each([
  ['at the equator', { latitude: 0, longitude: 0 }, '2026-03-20T00:00:00Z'],
  ['at 52° north in summer', { latitude: 52, longitude: 13 }, '2026-06-20T22:00:00Z'],
  ['at 40° south in winter', { latitude: -40, longitude: 175 }, '2026-06-20T12:00:00Z'],
])('refraction lifts the rising sun %s', (_, place, from) => {
  const observer = new Observer(place.latitude, place.longitude, 0);
  const rise = SearchRiseSet(Body.Sun, observer, +1, new Date(from), 1)!;
  const { altitude } = sunPosition(rise.date, place);
  expect(altitude).toBeGreaterThan(-0.4);
  expect(altitude).toBeLessThan(-0.1);
});

test('at an equinox the sun rises in the east, stands high at noon and sets in the west', () => {
  const place = { latitude: 0, longitude: 0 };
  const at = (hour: number) => sunPosition(new Date(Date.UTC(2026, 2, 20, hour, 8)), place);
  expect(Math.abs(at(7).azimuth - 90)).toBeLessThan(2);
  expect(at(12).altitude).toBeGreaterThan(88);
  expect(Math.abs(at(17).azimuth - 270)).toBeLessThan(2);
});
