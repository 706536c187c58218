/** Sharpness kept by a filter at each edge patch, or why it can't be told, and what made it soft. */
import { fault } from '../../words/faults';
import type { Fault, EdgeReadings } from '../../session/readings';
import type { EdgeResponse } from './edge';
import { combine } from '../../formulas/statistics/budget';
import type { EdgePlace, UsableEdge } from './edgePlaces';
import { byTake, meanOf } from '../../reading/byTake';

/** A ratio less certain than this is withheld (formats.md). */
const WIDEST_U95 = 0.12;
/** Rounding of an edge over n codes moves its MTF50 by about this share over n: simulated edges without dither. */
const ROUNDING = 0.25;
/** The estimator against closed forms. */
const METHOD_U = 0.001;
/** MTF50 · σ of a Gaussian blur in pixels (closed form). */
const GAUSSIAN = 0.18739;
/** Kept less than this is soft enough to ask why; our own judgement, as is how much sharper than bare is no longer chance. */
const SOFT_BELOW = 0.97;
const SHARPER_ABOVE = 1.02;

/**
 * The reading of one filter at a prepared edge; a fault where it is withheld; `null` where the filter wasn't seen.
 *
 * @param takes that may speak for the filter; all when left out
 */
export function keptSharpness(
  place: EdgePlace,
  filter: string,
  takes?: ReadonlySet<string>,
): { kept: EdgeReadings } | { withheld: Fault } | null {
  const front = summary(
    place.usable.filter((one) => one.filter === filter && (!takes || takes.has(one.take))),
    place.scatter,
  );
  const back = summary(
    place.usable.filter((one) => one.filter === null),
    place.scatter,
  );
  if (!front || !back) return null;
  const retained = front.mtf50 / back.mtf50;
  const uncertainty = combine([
    {
      source: 'rounding',
      u: retained * ROUNDING * Math.hypot(1 / front.codeStep, 1 / back.codeStep),
      degreesOfFreedom: Infinity,
    },
    { source: 'noise of the filtered edge', u: (retained * front.u) / front.mtf50, degreesOfFreedom: Infinity },
    { source: 'noise of the bare edge', u: (retained * back.u) / back.mtf50, degreesOfFreedom: Infinity },
    {
      source: 'bare takes differ',
      u: (retained * back.between) / back.mtf50,
      degreesOfFreedom: Math.max(1, back.takes.length - 1),
    },
    { source: 'method', u: METHOD_U, degreesOfFreedom: Infinity },
  ]);
  if (!(uncertainty.u95 <= WIDEST_U95)) {
    const words = `Sharpness at “${place.patch}” would be uncertain by ${uncertainty.u95.toFixed(2)}; it is withheld.`;
    return { withheld: fault('edge-unusable', 'error', front.takes, words) };
  }
  const [frontPicture, backPicture] = [pictureOf(front.shown), pictureOf(back.shown)];
  const kept = {
    patch: place.patch,
    scene: place.scene,
    region: place.region,
    runs: back.shown.value.runs,
    baselineMtf50: { value: back.mtf50, u95: 2 * back.u },
    mtf50: { value: front.mtf50, u95: 2 * front.u },
    mtf20: { bare: back.mtf20, filtered: front.mtf20 },
    retained: { value: retained, u95: uncertainty.u95 },
    budget: uncertainty.lines,
    curves: { bare: back.curve, filtered: front.curve },
    angleDegrees: back.angleDegrees,
    pictures: { bare: backPicture, filtered: frontPicture },
  };
  return { kept };
}

function pictureOf({ file, pixels }: UsableEdge) {
  return { file, ...pixels };
}

function summary(edges: UsableEdge[], scatter: number) {
  const n = edges.length;
  if (n === 0) return null;
  const mean = (pick: (edge: EdgeResponse) => number) => meanOf(edges.map((one) => pick(one.value)));
  const expected = (scatter * Math.sqrt(edges.reduce((sum, one) => sum + one.value.u ** 2, 0))) / n;
  const u = Math.max(expected, strayed(edges, expected));
  const takes = [...byTake(edges)].map(([take, repeats]) => ({
    take,
    mtf50: meanOf(repeats.map((one) => one.value.mtf50)),
    variance: (scatter ** 2 * repeats.reduce((sum, one) => sum + one.value.u ** 2, 0)) / repeats.length ** 2,
  }));
  const mtf50 = mean((edge) => edge.mtf50);
  return {
    mtf50,
    mtf20: mean((edge) => edge.mtf20),
    u,
    between: betweenTakes(takes),
    codeStep: Math.max(1, meanOf(edges.map((one) => one.codeStep))),
    curve: edges[0].value.curve.map((_, i) => Math.round(1e4 * mean((edge) => edge.curve[i])) / 1e4),
    angleDegrees: mean((edge) => edge.angleDegrees),
    takes: takes.map((one) => one.take),
    shown: [...edges].sort((a, b) => Math.abs(a.value.mtf50 - mtf50) - Math.abs(b.value.mtf50 - mtf50))[0],
  };
}

/**
 * Standard uncertainty of a mean whose pictures lie farther apart than chance allows: in the noise of a coarse, dark edge the
 * first fall to one half can be a false one. 0 where they don't.
 */
function strayed(edges: readonly UsableEdge[], expected: number): number {
  const n = edges.length;
  if (n < 2) return 0;
  const mean = meanOf(edges.map((one) => one.value.mtf50));
  const spread = Math.sqrt(edges.reduce((sum, one) => sum + (one.value.mtf50 - mean) ** 2, 0) / (n - 1) / n);
  return spread > 3 * expected ? 1.5 * spread : 0;
}

/** Standard deviation between takes beyond what their noise explains: a focus that crept leaves this at any one moment. */
function betweenTakes(takes: readonly { mtf50: number; variance: number }[]): number {
  if (takes.length < 2) return 0;
  const mean = meanOf(takes.map((one) => one.mtf50));
  const seen = takes.reduce((sum, one) => sum + (one.mtf50 - mean) ** 2, 0) / (takes.length - 1);
  const noise = meanOf(takes.map((one) => one.variance));
  // Few takes scatter by chance: only what is well beyond noise counts.
  return seen > 4 * noise ? Math.sqrt(seen - noise) : 0;
}

/** A filter's blur at some edges, from the ratio of Gaussian widths: the same everywhere for a filter's own softness. */
interface AddedBlur {
  /** σ² in pixels², negative where the filtered picture is the sharper one. */
  value: number;
  u: number;
}

function addedBlur(edges: readonly EdgeReadings[]): AddedBlur | null {
  if (edges.length === 0) return null;
  const each = edges.map(({ mtf50, baselineMtf50, retained }) => {
    const width2 = (mtf: number) => (GAUSSIAN / mtf) ** 2;
    const relative = retained.u95 / 2 / Math.max(1e-3, retained.value);
    return { value: width2(mtf50.value) - width2(baselineMtf50.value), u: 2 * width2(mtf50.value) * relative };
  });
  const weight = each.reduce((sum, one) => sum + 1 / one.u ** 2, 0);
  return { value: each.reduce((sum, one) => sum + one.value / one.u ** 2, 0) / weight, u: 1 / Math.sqrt(weight) };
}

const apart = (a: AddedBlur, b: AddedBlur) => Math.abs(a.value - b.value) > 4 * Math.hypot(a.u, b.u);

/**
 * Why a filter's pictures are soft, as far as its edges can tell. A filter blurs center and corners, and both directions, alike, and
 * never sharpens; a shift of focus moves center and corners apart, a shake blurs one direction.
 *
 * @returns a sentence where the softness is worth one, a fault where it isn't the filter's
 */
export function whySoft(
  edges: readonly EdgeReadings[],
  filter: string,
  takes: readonly string[],
): { sentence: string | null; faults: Fault[] } {
  const softest = Math.min(...edges.map((one) => one.retained.value));
  const sharper = edges.filter(({ retained }) => retained.value - retained.u95 > SHARPER_ABOVE);
  const part = (pick: (one: EdgeReadings) => boolean) => addedBlur(edges.filter(pick));
  const kept = (region: string) =>
    meanOf(edges.filter((one) => one.region === region).map((one) => one.retained.value));
  const [center, corner] = [part((one) => one.region === 'center'), part((one) => one.region === 'corner')];
  const both = `${kept('center').toFixed(2)} in the center, ${kept('corner').toFixed(2)} in the corners`;
  // Of many edges one strays by chance; two, or one by twice its ±, don't.
  const surely = sharper.some(({ retained }) => retained.value - 2 * retained.u95 > SHARPER_ABOVE);
  if (sharper.length > 1 || surely) {
    const names = sharper.map((one) => `“${one.patch}”`).join(', ');
    const words = `${filter}: sharper than bare at ${names}, which no filter does: the focus moved between the takes.`;
    return { sentence: words, faults: [fault('focus-moved', 'warning', takes, words)] };
  }
  if (!(softest < SOFT_BELOW)) return { sentence: null, faults: [] };
  const [upright, level] = [part((one) => one.runs === 'upright'), part((one) => one.runs === 'level')];
  if (
    upright &&
    level &&
    apart(upright, level) &&
    Math.min(upright.value, level.value) < 0.3 * Math.max(upright.value, level.value)
  ) {
    const way = upright.value > level.value ? 'sideways' : 'up and down';
    const words = `${filter}: blurred ${way} only, as by a shake, rarely by a filter.`;
    return { sentence: words, faults: [fault('soft-by-motion', 'warning', takes, words)] };
  }
  if (!center || !corner)
    return {
      sentence: `A shift of focus between the takes would look the same; edges in center and corners tell them apart.`,
      faults: [],
    };
  if (apart(center, corner) && Math.min(center.value, corner.value) < 0.5 * Math.max(center.value, corner.value)) {
    const words = `${filter}: it keeps ${both}. A filter blurs alike all over, so a shift of focus between the takes has a part in it.`;
    return { sentence: words, faults: [fault('focus-moved', 'warning', takes, words)] };
  }
  return { sentence: `Center and corners are blurred alike, as by the filter itself (${both}).`, faults: [] };
}
