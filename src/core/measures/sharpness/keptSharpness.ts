/** Sharpness kept by a filter at each edge patch, or why it can't be told, and what made it soft. */
import { combine } from '../../formulas/statistics/budget';
import { byTake } from '../../reading/byTake';
import { mean } from '../../formulas/statistics/averages';
import type { EdgeReadings, Fault } from '../../session/readings';
import { sharpnessWithheld, type Softness } from '../../words/sharpness';
import type { EdgeResponse } from './edge';
import type { EdgePlace, UsableEdge } from './edgePlaces';
import { processingU } from './processing';

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
/** Blur across a shake's direction, and blur where the focus stayed, are below these shares of the other. Our own judgement. */
const ONE_WAY = 0.3;
const ONE_REGION = 0.5;

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
    {
      source: 'processing',
      u:
        front.processed || back.processed
          ? processingU(retained, Math.log2(back.codeStep / front.codeStep), back.localTone)
          : 0,
      degreesOfFreedom: Infinity,
    },
  ]);
  if (!(uncertainty.u95 <= WIDEST_U95)) {
    return { withheld: sharpnessWithheld(front.takes, place.patch, uncertainty.u95) };
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
  const meanOf = (pick: (edge: EdgeResponse) => number) => mean(edges.map((one) => pick(one.value)));
  const expected = (scatter * Math.sqrt(edges.reduce((sum, one) => sum + one.value.u ** 2, 0))) / n;
  const u = Math.max(expected, strayed(edges, expected));
  const takes = [...byTake(edges)].map(([take, repeats]) => ({
    take,
    mtf50: mean(repeats.map((one) => one.value.mtf50)),
    variance: (scatter ** 2 * repeats.reduce((sum, one) => sum + one.value.u ** 2, 0)) / repeats.length ** 2,
  }));
  const mtf50 = meanOf((edge) => edge.mtf50);
  return {
    mtf50,
    mtf20: meanOf((edge) => edge.mtf20),
    u,
    between: betweenTakes(takes),
    codeStep: Math.max(1, mean(edges.map((one) => one.codeStep))),
    processed: edges.some((one) => one.processed),
    localTone: mean(edges.map((one) => one.localTone)),
    curve: edges[0].value.curve.map((_, i) => Math.round(1e4 * meanOf((edge) => edge.curve[i])) / 1e4),
    angleDegrees: meanOf((edge) => edge.angleDegrees),
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
  const middle = mean(edges.map((one) => one.value.mtf50));
  const spread = Math.sqrt(edges.reduce((sum, one) => sum + (one.value.mtf50 - middle) ** 2, 0) / (n - 1) / n);
  return spread > 3 * expected ? 1.5 * spread : 0;
}

/** Standard deviation between takes beyond what their noise explains: a focus that crept leaves this at any one moment. */
function betweenTakes(takes: readonly { mtf50: number; variance: number }[]): number {
  if (takes.length < 2) return 0;
  const middle = mean(takes.map((one) => one.mtf50));
  const seen = takes.reduce((sum, one) => sum + (one.mtf50 - middle) ** 2, 0) / (takes.length - 1);
  const noise = mean(takes.map((one) => one.variance));
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

/**
 * Why a filter's pictures are soft, as far as its edges can tell. A filter blurs center and corners, and both directions, alike, and
 * never sharpens; a shift of focus moves center and corners apart, a shake blurs one direction.
 */
export function whySoft(edges: readonly EdgeReadings[]): Softness {
  const sharper = edges.filter(({ retained }) => retained.value - retained.u95 > SHARPER_ABOVE);
  // Of many edges one strays by chance; two, or one by twice its ±, don't.
  const surely = sharper.some(({ retained }) => retained.value - 2 * retained.u95 > SHARPER_ABOVE);
  if (sharper.length > 1 || surely) return { cause: 'sharper than bare', patches: sharper.map((one) => one.patch) };
  if (!edges.some(({ retained }) => retained.value < SOFT_BELOW)) return { cause: 'none' };
  const part = (pick: (one: EdgeReadings) => boolean) => addedBlur(edges.filter(pick));
  const [upright, level] = [part((one) => one.runs === 'upright'), part((one) => one.runs === 'level')];
  if (upright && level && isUneven(upright, level, ONE_WAY))
    return { cause: 'shake', way: upright.value > level.value ? 'sideways' : 'up and down' };
  const [center, corner] = [part((one) => one.region === 'center'), part((one) => one.region === 'corner')];
  if (!center || !corner) return { cause: 'untold' };
  const kept = (region: EdgeReadings['region']) =>
    mean(edges.filter((one) => one.region === region).map((one) => one.retained.value));
  return {
    cause: isUneven(center, corner, ONE_REGION) ? 'focus' : 'filter',
    kept: { center: kept('center'), corner: kept('corner') },
  };
}

/** Whether one blur is surely, and by this factor, less than the other. */
function isUneven(a: AddedBlur, b: AddedBlur, share: number): boolean {
  const isApart = Math.abs(a.value - b.value) > 4 * Math.hypot(a.u, b.u);
  return isApart && Math.min(a.value, b.value) < share * Math.max(a.value, b.value);
}
