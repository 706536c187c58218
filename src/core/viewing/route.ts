/** Clips of one route in step: which moment of a clip was where another one was. */
import type { Cue } from '../session/subrip';

/** Where the camera was, meters from a common origin. */
export interface TrackPoint {
  seconds: number;
  east: number;
  north: number;
  up: number;
}

/** A moment of one clip, the moment of the other that was nearest to its place, and how far apart they were, meters. */
export interface InStep {
  seconds: number;
  other: number;
  apart: number;
}

/** Mean radius of the Earth, meters (IUGG, from memory); over a route the sphere's error is a part in three hundred. */
const EARTH_METERS = 6_371_009;
/** What moves less than this, meters, has no route: places of a standing camera wander as much. */
const SHORTEST_ROUTE = 4;
/** Places further apart than this, meters, are other routes. */
const FURTHEST_APART = 50;

/**
 * Places that telemetry tells, in order of time, on a plane around `origin`; heights count where all cues tell them. Nothing where
 * fewer than two are told.
 */
export function trackOf(cues: readonly Cue[], origin: { latitude: number; longitude: number } | null = null) {
  const told = cues.flatMap(({ from, place }) => (place ? [{ from, place }] : []));
  const first = origin ?? told[0]?.place ?? { latitude: 0, longitude: 0 };
  const meters = (degrees: number) => ((degrees * Math.PI) / 180) * EARTH_METERS;
  const heights = told.every(({ place }) => place.relativeAltitude !== null);
  const points = told.map(({ from, place }): TrackPoint => ({
    seconds: from,
    east: meters(place.longitude - first.longitude) * Math.cos((first.latitude * Math.PI) / 180),
    north: meters(place.latitude - first.latitude),
    up: heights ? place.relativeAltitude! : 0,
  }));
  // A receiver that tells its place once a second repeats it in between: only where it changes is it known.
  const changed = points.filter((point, i) => i === 0 || distance(point, points[i - 1]) > 1e-3);
  return { origin: first, points: changed.length > 1 ? changed : [] };
}

const distance = (a: TrackPoint, b: TrackPoint) => Math.hypot(a.east - b.east, a.north - b.north, a.up - b.up);

/**
 * Moments of another clip that was flown or walked along the same route; `null` where one of them doesn't move, or they are other
 * routes. Time never runs back, so that a way out and back along itself is told apart: of all such rows of moments the one whose places
 * lie nearest together, by dynamic programming over the points (time warping; Sakoe & Chiba, IEEE Trans. ASSP 1978), then between points.
 */
export function inStep(own: readonly TrackPoint[], other: readonly TrackPoint[]): InStep[] | null {
  if (lengthOf(own) < SHORTEST_ROUTE || lengthOf(other) < SHORTEST_ROUTE) return null;
  const [points, others] = [thinned(own), thinned(other)];
  const nodes = warped(points, others);
  let latest = -Infinity;
  const steps = points.map((point, i): InStep => {
    const near = nearestOn(others.slice(Math.max(0, nodes[i] - 1), nodes[i] + 2), point);
    latest = Math.max(latest, near.other);
    return { seconds: point.seconds, other: latest, apart: near.apart };
  });
  const apart = steps.map((one) => one.apart).sort((a, b) => a - b);
  return apart[apart.length >> 1] > FURTHEST_APART ? null : steps;
}

/** Points of a track that are compared at most. */
const MOST_POINTS = 1200;

function thinned(track: readonly TrackPoint[]): readonly TrackPoint[] {
  const step = Math.ceil(track.length / MOST_POINTS);
  return track.filter((_, i) => i % step === 0 || i === track.length - 1);
}

/** For each point an index of the other track, never falling, of the least sum of squared distances. */
function warped(own: readonly TrackPoint[], other: readonly TrackPoint[]): number[] {
  // What the best row that ends here has cost, and where it was one point before.
  let costs = new Float64Array(other.length);
  const came: Int32Array[] = [];
  for (const point of own) {
    const next = new Float64Array(other.length);
    const from = new Int32Array(other.length);
    let best = 0;
    for (let j = 0; j < other.length; j++) {
      if (costs[j] < costs[best]) best = j;
      from[j] = best;
      next[j] = costs[best] + distance(point, other[j]) ** 2;
    }
    came.push(from);
    costs = next;
  }
  const row = new Array<number>(own.length);
  let at = costs.indexOf(Math.min(...costs));
  for (let i = own.length - 1; i >= 0; i--) {
    row[i] = at;
    at = came[i][at];
  }
  return row;
}

function lengthOf(track: readonly TrackPoint[]): number {
  // From end to end of its extent, not along it: the wander of a standing receiver adds up.
  const spread = (of: (point: TrackPoint) => number) => {
    const all = track.map(of);
    return all.length === 0 ? 0 : Math.max(...all) - Math.min(...all);
  };
  return Math.hypot(
    spread((one) => one.east),
    spread((one) => one.north),
    spread((one) => one.up),
  );
}

/** The place on a track, between its points too, that is nearest to a point. */
function nearestOn(track: readonly TrackPoint[], point: TrackPoint): { other: number; apart: number } {
  let best = { other: track[0].seconds, apart: Infinity };
  for (let i = 1; i < track.length; i++) {
    const [a, b] = [track[i - 1], track[i]];
    const [x, y, z] = [b.east - a.east, b.north - a.north, b.up - a.up];
    const along = (point.east - a.east) * x + (point.north - a.north) * y + (point.up - a.up) * z;
    const part = Math.min(1, Math.max(0, along / (x * x + y * y + z * z)));
    const apart = Math.hypot(
      point.east - a.east - part * x,
      point.north - a.north - part * y,
      point.up - a.up - part * z,
    );
    if (apart < best.apart) best = { other: a.seconds + part * (b.seconds - a.seconds), apart };
  }
  return best;
}

/** The other clip's moment at a moment of this one; before and after the route time runs on. */
export function momentInStep(steps: readonly InStep[], seconds: number): { other: number; apart: number } {
  const [first, last] = [steps[0], steps[steps.length - 1]];
  if (seconds <= first.seconds) return { other: first.other + seconds - first.seconds, apart: first.apart };
  if (seconds >= last.seconds) return { other: last.other + seconds - last.seconds, apart: last.apart };
  const after = steps.findIndex((one) => one.seconds > seconds);
  const [a, b] = [steps[after - 1], steps[after]];
  const part = (seconds - a.seconds) / (b.seconds - a.seconds);
  return { other: a.other + part * (b.other - a.other), apart: a.apart + part * (b.apart - a.apart) };
}
