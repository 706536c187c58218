/** Which bare pictures show most of what a picture shows. */
import type { LayView } from './lay';
import { cueAt } from '../session/subrip';
import type { Shot } from '../reading/shots';
import type { Load, Loaded } from './ordinaryTypes';

/** Bare pictures that one is tried on, the likeliest first. */
const TRIES = 3;
/** Meters that count as much as pictures that look half as alike; a degree of latitude (sphere of the Earth’s mean radius). */
const FAR_METERS = 40;
const METERS_PER_DEGREE = 111_195;

/** Meters between the places that telemetry tells of two pictures; `null` where it tells none. */
function metersApart(one: Shot, other: Shot): number | null {
  const [a, b] = [one, other].map(({ cues, seconds }) => cueAt(cues, seconds ?? 0)?.place ?? null);
  if (!a || !b) return null;
  const meters = (degrees: number) => degrees * METERS_PER_DEGREE;
  const east = meters(a.longitude - b.longitude) * Math.cos((a.latitude * Math.PI) / 180);
  const up = a.relativeAltitude === null || b.relativeAltitude === null ? 0 : a.relativeAltitude - b.relativeAltitude;
  return Math.hypot(east, meters(a.latitude - b.latitude), up);
}

/** The pictures of a take that look most like one and were taken nearest to it, a few of them. */
export async function likeliest(
  shot: Shot,
  { lay }: Loaded,
  own: readonly Shot[],
  others: readonly Shot[],
  load: Load,
): Promise<Shot[]> {
  const share = own.length > 1 ? own.indexOf(shot) / (own.length - 1) : 0.5;
  const rated = [];
  for (const [i, other] of others.entries()) {
    const loaded = await load(other.file);
    // Of equals the one at the same share of its take: each has a partner of its own.
    const place = others.length > 1 ? i / (others.length - 1) : 0.5;
    // Along a route the nearest place shows most of the same.
    const away = Math.min(0.5, (metersApart(shot, other) ?? 0) / FAR_METERS);
    rated.push({ other, like: likeness(lay, loaded.lay) - 0.02 * Math.abs(place - share) - away });
  }
  return rated
    .sort((a, b) => b.like - a.like)
    .slice(0, TRIES)
    .map(({ other }) => other);
}

/** Correlation of local contrast in the coarse, at the best shift, less for a far one: it leaves less in common. */
function likeness(first: LayView, second: LayView): number {
  const [a, b] = [first.levels.at(-1), second.levels.at(-1)];
  if (!a || !b || a.width !== b.width || a.height !== b.height) return -1;
  const { width, height } = a;
  const [reachX, reachY] = [Math.floor(width / 4), Math.floor(height / 4)];
  let best = -1;
  for (let dy = -reachY; dy <= reachY; dy += 2)
    for (let dx = -reachX; dx <= reachX; dx += 2) {
      let [aa, bb, ab] = [0, 0, 0];
      for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y += 2)
        for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x += 2) {
          const [p, q] = [a.data[y * width + x], b.data[(y + dy) * width + x + dx]];
          aa += p * p;
          bb += q * q;
          ab += p * q;
        }
      const like =
        aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) - 0.3 * (Math.abs(dx) / width + Math.abs(dy) / height) : -1;
      if (like > best) best = like;
    }
  return best;
}
