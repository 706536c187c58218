import { parseSubRip, type Cue } from '../session/subrip';
import { inStep, momentInStep, trackOf } from './route';

const cue = (from: number, latitude: number, longitude: number, height = 10): Cue => ({
  from,
  to: from + 0.1,
  exposure: {},
  ev: null,
  colorTemperature: null,
  place: { latitude, longitude, relativeAltitude: height, absoluteAltitude: null },
});
/** A walk to the north, `speed` in ten-thousandths of a degree (11.1 m) a second, from a start in seconds on. */
const walk = (speed: number, start: number, seconds = 10) =>
  Array.from({ length: seconds * 10 }, (_, i) => cue(i / 10, 47 + 1e-4 * Math.max(0, i / 10 - start) * speed, 8));

test('a degree of latitude is 111.2 km, one of longitude as much by the cosine', () => {
  const { points } = trackOf([cue(0, 60, 10), cue(1, 61, 11)]);
  // Common practice: 111.2 km a degree of a great circle.
  expect(points[1].north).toBeCloseTo(111_195, -1);
  expect(points[1].east).toBeCloseTo(111_195 / 2, -1);
});

test('the same route at another pace: each moment is where the other one was', () => {
  const own = trackOf(walk(1, 0));
  const other = trackOf(walk(2, 3), own.origin);
  const steps = inStep(own.points, other.points)!;
  for (const seconds of [1, 4.05, 8]) {
    const { other: found, apart } = momentInStep(steps, seconds);
    expect(found).toBeCloseTo(3 + seconds / 2, 1);
    expect(apart).toBeLessThan(0.01);
  }
});

test('a way out and back along itself, told by a receiver that wanders: time never runs back', () => {
  const out = walk(1, 0);
  const back = out.map(({ place }, i) => cue(10 + i / 10, 47 + 1e-3 - (place!.latitude - 47), 8));
  const wander = [...out, ...back].map((one, i) => ({
    ...one,
    place: { ...one.place!, latitude: one.place!.latitude + 1e-5 * Math.sin(7 * i), longitude: 8 + 1e-5 * Math.cos(i) },
  }));
  const own = trackOf([...out, ...back]);
  const steps = inStep(own.points, trackOf(wander, own.origin).points)!;
  for (let i = 1; i < steps.length; i++) expect(steps[i].other).toBeGreaterThanOrEqual(steps[i - 1].other);
  // The same place twice: three seconds on the way out, seventeen on the way back.
  for (const seconds of [3, 6, 14, 17])
    expect(Math.abs(momentInStep(steps, seconds).other - seconds)).toBeLessThan(0.3);
});

test('a standing camera and another valley have no common route; telemetry without places has no track', () => {
  const own = trackOf(walk(1, 0)).points;
  expect(inStep(own, trackOf(walk(0, 0)).points)).toBeNull();
  const { origin } = trackOf(walk(1, 0));
  const far = trackOf(
    walk(1, 0).map((one) => ({ ...one, place: { ...one.place!, longitude: 8.01 } })),
    origin,
  );
  expect(inStep(own, far.points)).toBeNull();
  expect(trackOf(parseSubRip('1\n00:00:00,000 --> 00:00:01,000\niso: 100\n')).points).toEqual([]);
});

test('before and after the route time runs on', () => {
  const steps = [
    { seconds: 2, other: 5, apart: 1 },
    { seconds: 4, other: 9, apart: 3 },
  ];
  expect(momentInStep(steps, 1).other).toBe(4);
  expect(momentInStep(steps, 3)).toEqual({ other: 7, apart: 2 });
  expect(momentInStep(steps, 6).other).toBe(11);
});
