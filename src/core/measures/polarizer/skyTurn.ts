/** A polarizer on a camera that turns about: how far the sky darkens, heading by heading. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import type { TurnMoment } from './turns';
import { turned, wayBetween } from '../../formulas/geometry/angles';
import { sunPosition } from '../../formulas/sun/sun';
import { skyRose } from '../../formulas/optics/rayleigh';
import { fault } from '../../words/faults';
import type { FilterReadings, SkyTurn } from '../../session/readings';
import type { Session } from '../../session/schema';
import { CLIPPED_SHARE } from '../../reading/byTake';

/** Bare headings farther than this from a filtered one say nothing of it, degrees. */
const NEAR_DEGREES = 30;

/** Light of sky and reference at one heading, R, G, B. */
interface Level {
  heading: number;
  sky: readonly number[];
  reference: readonly number[];
  /** Relative standard uncertainty of their ratio. */
  u: number;
}

/** Adds the darkening by heading from the first scene that was turned about in with the filter and bare. */
export function addSkyTurn(
  result: FilterReadings,
  moments: readonly TurnMoment[],
  session: Session,
  space: ColorSpace,
): void {
  const luminance = luminanceRow(space);
  for (const scene of session.scenes) {
    const here = moments.filter((one) => one.scene === scene.id);
    const own = here.filter((one) => one.filter === result.filter);
    if (own.length === 0) continue;
    const takes = own.map((one) => one.take);
    const bare = here
      .filter((one) => one.filter === null)
      .filter(isUsable)
      .map(levelOf);
    if (bare.length === 0) {
      const words = `The turn of “${scene.id}” has no usable bare turn to compare with.`;
      result.faults.push(fault('bare-missing', 'error', takes, words));
      continue;
    }
    const usable = own.filter(isUsable);
    if (usable.length < own.length) {
      const words = `${own.length - usable.length} of ${own.length} headings of the turn are clipped at the sky or its reference; they are left out.`;
      result.faults.push(fault('clipped', 'warning', takes, words));
    }
    const points = usable
      .map(levelOf)
      .flatMap((level) => {
        const base = bareAt(bare, level.heading);
        return base ? [darkening(level, base, luminance)] : [];
      })
      .sort((a, b) => a.heading - b.heading);
    if (points.length < 3) continue;
    result.polarizer = { ...result.polarizer, turn: turnReadings(scene.id, points, session) };
    return;
  }
}

function isUsable({ sky, reference }: TurnMoment): boolean {
  const levels = [sky, reference];
  return levels.every(({ topShare, mean }) => Math.max(...topShare) <= CLIPPED_SHARE && mean.every((one) => one > 0));
}

function levelOf({ heading, sky, reference }: TurnMoment): Level {
  const relative = ({ pixelSpread, pixelCount, rounding }: TurnMoment['sky']) =>
    Math.hypot(pixelSpread[1] / Math.sqrt(pixelCount), rounding[1]);
  return { heading, sky: sky.mean, reference: reference.mean, u: Math.hypot(relative(sky), relative(reference)) };
}

/** Bare light at a heading: between its neighbors around the compass, in log light. */
function bareAt(bare: readonly Level[], heading: number): Level | null {
  const away = (one: Level) => wayBetween(heading, one.heading);
  const sorted = [...bare].sort((a, b) => away(a) - away(b));
  const after = sorted.find((one) => away(one) >= 0);
  const before = sorted.findLast((one) => away(one) <= 0);
  const ends = [before, after].filter((one): one is Level => one !== undefined && Math.abs(away(one)) <= NEAR_DEGREES);
  if (ends.length === 0) return null;
  if (ends.length === 1 || ends[0] === ends[1]) return ends[0];
  const [a, b] = ends;
  const share = -away(a) / (away(b) - away(a) || 1);
  const mix = (x: readonly number[], y: readonly number[]) => x.map((one, c) => one ** (1 - share) * y[c] ** share);
  return {
    heading,
    sky: mix(a.sky, b.sky),
    reference: mix(a.reference, b.reference),
    u: Math.hypot((1 - share) * a.u, share * b.u),
  };
}

/** Luminous stops of the sky less those of the reference (formats.md, "skyDarkening"); exposure and light cancel. */
function darkening(filtered: Level, bare: Level, luminance: readonly number[]) {
  const ratio = (part: 'sky' | 'reference') =>
    luminance.reduce((sum, weight, c) => sum + (weight * filtered[part][c]) / bare[part][c], 0);
  return {
    heading: turned(filtered.heading),
    stops: {
      value: Math.log2(ratio('reference') / ratio('sky')),
      u95: (2 * Math.hypot(filtered.u, bare.u)) / Math.LN2,
    },
  };
}

function turnReadings(scene: string, points: SkyTurn['points'], session: Session): SkyTurn {
  const { optics } = session.scenes.find((one) => one.id === scene)!;
  const times = session.takes.flatMap((take) => (take.scene === scene && take.capturedAt ? [take.capturedAt] : []));
  const sun = optics?.place && times.length > 0 ? sunPosition(new Date(times[0]), optics.place) : null;
  const [darkest] = [...points].sort((a, b) => b.stops.value - a.stops.value);
  const [lightest] = [...points].sort((a, b) => a.stops.value - b.stops.value);
  const found = `The sky darkens most at ${darkest.heading.toFixed(0)}°, by ${darkest.stops.value.toFixed(2)} stops, and least at ${lightest.heading.toFixed(0)}°, by ${lightest.stops.value.toFixed(2)}.`;
  const aside = sun && Math.abs(wayBetween(sun.azimuth, darkest.heading));
  return {
    scene,
    points,
    ...(sun
      ? { sun, expected: skyRose(sun, optics?.view?.altitude ?? 20).map(({ azimuth, stops }) => [azimuth, stops]) }
      : {}),
    sentence:
      aside === null
        ? `${found} Enter the place, and the sun stands beside it.`
        : `${found} That is ${aside.toFixed(0)}° from the sun’s heading; a clear sky polarizes most at right angles to it.`,
  };
}
