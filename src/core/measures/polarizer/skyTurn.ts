/** A polarizer on a camera that turns about: how far the sky darkens, heading by heading. */
import { luminanceRow } from '../../formulas/color/spaces';
import { turned, wayBetween } from '../../formulas/geometry/angles';
import { skyRose } from '../../formulas/optics/rayleigh';
import { sunPosition } from '../../formulas/sun/sun';
import { byOneCurve, responseUOfLight } from '../../light/response';
import { CLIPPED_SHARE } from '../../reading/byTake';
import type { Fault, SkyTurn } from '../../session/readings';
import type { Session } from '../../session/schema';
import { bareTurnMissing, headingsClipped, turnInWords } from '../../words/polarizer';
import type { Seen } from '../seen';
import type { Found } from './rings';
import type { TurnMoment } from './turns';

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

/** The darkening by heading from the first scene that was turned about in with the filter and bare. */
export function skyTurn(
  filter: string,
  { turns, session, space, response }: Pick<Seen, 'turns' | 'session' | 'space' | 'response'>,
): Found<SkyTurn | null> {
  const luminance = luminanceRow(space);
  const faults: Fault[] = [];
  for (const scene of session.scenes) {
    const here = turns.filter((one) => one.scene === scene.id);
    const own = here.filter((one) => one.filter === filter);
    if (own.length === 0) continue;
    const takes = own.map((one) => one.take);
    const bare = here.filter((one) => one.filter === null && isUsable(one)).map(levelOf);
    if (bare.length === 0) {
      faults.push(bareTurnMissing(takes, scene.id));
      continue;
    }
    const usable = own.filter(isUsable);
    if (usable.length < own.length) faults.push(headingsClipped(takes, own.length - usable.length, own.length));
    const points = usable
      .map(levelOf)
      .flatMap((level) => {
        const base = bareAt(bare, level.heading);
        return base ? [darkening(level, base, luminance, response)] : [];
      })
      .sort((a, b) => a.heading - b.heading);
    if (points.length >= 3) return { figures: turnReadings(scene.id, points, session), faults };
  }
  return { figures: null, faults };
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
function darkening(filtered: Level, bare: Level, luminance: readonly number[], response: Seen['response']) {
  const ratio = (part: 'sky' | 'reference') =>
    luminance.reduce((sum, weight, c) => sum + (weight * filtered[part][c]) / bare[part][c], 0);
  const curve = responseUOfLight(byOneCurve(response), [
    [filtered.sky[1], 1],
    [filtered.reference[1], -1],
    [bare.sky[1], -1],
    [bare.reference[1], 1],
  ]);
  return {
    heading: turned(filtered.heading),
    stops: {
      value: Math.log2(ratio('reference') / ratio('sky')),
      u95: 2 * Math.hypot(Math.hypot(filtered.u, bare.u) / Math.LN2, curve),
    },
  };
}

function turnReadings(scene: string, points: SkyTurn['points'], session: Session): SkyTurn {
  const { optics } = session.scenes.find((one) => one.id === scene)!;
  const times = session.takes.flatMap((take) => (take.scene === scene && take.capturedAt ? [take.capturedAt] : []));
  const sun = optics?.place && times.length > 0 ? sunPosition(new Date(times[0]), optics.place) : null;
  const [darkest] = [...points].sort((a, b) => b.stops.value - a.stops.value);
  const [lightest] = [...points].sort((a, b) => a.stops.value - b.stops.value);
  const aside = sun && Math.abs(wayBetween(sun.azimuth, darkest.heading));
  return {
    scene,
    points,
    ...(sun
      ? { sun, expected: skyRose(sun, optics?.view?.altitude ?? 20).map(({ azimuth, stops }) => [azimuth, stops]) }
      : {}),
    sentence: turnInWords(darkest, lightest, aside),
  };
}
