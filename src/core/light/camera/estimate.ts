/**
 * The response of a camera that doesn't tell its curve, from all that a session shows of it: one estimate with a posterior covariance.
 *
 * With y the log2 of the light that the declared curve makes of a code, for picture p, place t and channel c:
 *
 *     y = Λ′ + η(Λ′) + η_c(Λ′) + κ(L)·q·ℓ + ε        Λ′ = Λ·(1 + g_p + a·m_p)        Λ = A_tc + E_p + o_p + d(t_p) + w_pc − s_fc − b_f·G_t
 *
 * Places' light A is eliminated by blocks; variances of the pictures' own terms are estimated (EM) with floors, without which a lucky
 * session would claim too much.
 */
import { quantile } from 'd3-array';
import { basisAt, CURVES, etaOf, KNOTS } from './curve';
import { fromMiddle, MIDDLE_LUMA } from './localTone';
import { TELLING_STOPS, type CheckedCurve, type Evidence, type PlaceEvidence, type ResponseEstimate } from './model';
import {
  curvePrecision,
  groupByPlace,
  LEAST_SLOPE,
  placesLight,
  scenesSpan,
  strengthsSeen,
  weightOf,
} from './prepared';
import { factorise, inverseOf, solveFactorised, takeProducts } from './symmetric';
import { onesIn, PlaceTerms } from './terms';
import {
  A_STRENGTH,
  AUTOMATIC,
  GAINS,
  IN_DARK,
  IN_LIGHT,
  LOCAL,
  PICTURE_FLOOR,
  PICTURE_PRIOR,
  placesOfUnknowns,
  POWERS,
  PRIOR,
  PRIOR_COUNT,
} from './unknowns';

const ROUNDS = 22;
const EM_FROM = 14;
/**
 * When it is decided whether tone adapts, and what counts: so many times its uncertainty, so much, and such a share of local tone, which no
 * gain on contrast describes wholly. Before pictures' own offsets may grow: they would swallow it.
 */
const DECIDED_AT = 13;
const ADAPTS = { times: 4, least: 0.012, ofLocal: 0.1 };
/**
 * Uncertainty from which pictures can't tell adaptation from the curve: an even wall has one level a picture, and what adapts goes with it.
 * With a chart it is at most .006, with a wall alone .011–.032 (our own trials).
 */
const UNDECIDED = 0.009;
/** What is larger than so many times its uncertainty is neither believed nor dismissed. */
const PERHAPS = 2;
/** What is left to adaptation that wasn't found. */
const AS_GOOD_AS_FIXED = 0.0015;
/**
 * A step moves a knot about so far where nothing speaks against it, stops: all light and the curve together can be pushed aside without
 * any picture noticing, and would wander.
 */
const STAYS = 0.8;
/** In the first rounds the curve moves at most so far, stops. */
const STEP_LIMIT = 0.6;
const CAREFUL_ROUNDS = 5;
const LEAST_PACE = 0.25;
const CONVERGED = 0.05;
/** Knots by whose slopes that is judged, from the second on: white and what is darker few places reach. */
const JUDGED = 16;
/** Gain on local contrast that one picture can't exclude, and the share of what it shows that may be a surface's own. */
const LOCAL_FLOOR = 0.01;
const LOCAL_SHARE = 0.1;

/** Of a moment from the middle of the sitting: what its square is on average. */
const MEAN_SQUARE = 1 / 12;

/** What a place's own light has to do after a step of everything else. */
type Eliminated = (step: Float64Array, damped: number) => void;

/**
 * Estimates the response. Without observations the prior comes back.
 *
 * @param sigma what the curve's slope is known to before any picture spoke, stops a stop (standard deviation)
 * @param checked the curve that a check of this camera told, in place of that
 * @returns `null` where the equations can't be solved
 */
export function estimateResponse(evidence: Evidence, sigma: number, checked?: CheckedCurve): ResponseEstimate | null {
  const fit = new ResponseFit(evidence, sigma, checked);
  for (let round = 0; round < ROUNDS - 1; round++) if (!fit.step(round)) return null;
  return fit.finish();
}

/** One estimate on its way: unknowns, equations, and what was decided so far. */
class ResponseFit {
  private readonly at: ReturnType<typeof placesOfUnknowns>;
  private readonly n: number;
  private readonly x: Float64Array;
  private readonly light: Float64Array;
  private readonly curvePrior: Float64Array;
  private readonly middle: number;
  private readonly normal: Float64Array;
  private readonly right: Float64Array;
  private readonly byPlace: PlaceEvidence[][];
  private readonly weights: Map<PlaceEvidence, Float64Array>;
  private readonly known: number;
  private readonly localValue: number;
  private readonly localU: number;
  private readonly localLuma: number;
  private readonly terms = new PlaceTerms();
  private variances = PICTURE_PRIOR.map((one) => one * one);
  private adaptation: number = PRIOR.automatic;
  private converged = false;
  private adapts = false;
  /** Share of a step that is taken, and the step before. */
  private pace = 1;
  private before: Float64Array = new Float64Array(JUDGED);
  private suspected = 0;
  private undecided = 0;
  /** Squares of what is left of the observations, in their uncertainties. */
  private misfit = 0;

  constructor(
    private readonly evidence: Evidence,
    private readonly sigma: number,
    private readonly checked?: CheckedCurve,
  ) {
    const { pictures, places, observations, scenes } = evidence;
    const local = evidence.local ?? checked?.local;
    this.at = placesOfUnknowns(evidence);
    this.n = this.at.scene(scenes);
    this.x = new Float64Array(this.n);
    this.curvePrior = checked ? checked.precision : curvePrecision(sigma);
    if (checked) this.x.set(checked.mean);
    this.light = placesLight(evidence, this.x);
    strengthsSeen(evidence, this.light, this.x).forEach((one, s) => this.x.set(one, this.at.strength(s)));
    this.middle = pictures.reduce((sum, one) => sum + one.median, 0) / Math.max(1, pictures.length);
    this.normal = new Float64Array(this.n * this.n);
    this.right = new Float64Array(this.n);
    this.byPlace = groupByPlace(observations, places.length);
    this.weights = new Map(observations.map((one) => [one, weightOf(one.covariance)]));
    this.known = Math.max(scenesSpan(pictures), checked?.knownStops ?? 0);
    if (checked) {
      this.suspected = checked.suspected;
      this.adaptation = AS_GOOD_AS_FIXED;
    }
    this.localValue = local?.value ?? 0;
    this.localLuma = local?.luma ?? MIDDLE_LUMA;
    this.x[IN_DARK] = PRIOR.inDark.value;
    this.x[IN_LIGHT] = PRIOR.inLight.value;
    this.localU = local ? Math.hypot(local.u, LOCAL_SHARE * local.value, LOCAL_FLOOR) : PRIOR.local;
  }

  /** One round of Gauss–Newton; false where the equations can't be solved. */
  step(round: number): boolean {
    const { n, x, normal } = this;
    const eliminated = this.equations(round);
    for (let k = 0; k < KNOTS; k++) normal[k * n + k] += 1 / STAYS ** 2;
    if (!factorise(normal, n)) return false;
    const step = Float64Array.from(this.right);
    solveFactorised(normal, n, step);
    const largest = step.subarray(0, CURVES).reduce((most, one) => Math.max(most, Math.abs(one)), 0);
    this.pace = this.turnedBack(step) ? Math.max(LEAST_PACE, this.pace / 2) : Math.min(1, 1.5 * this.pace);
    const careful = round < CAREFUL_ROUNDS ? Math.min(1, STEP_LIMIT / Math.max(largest, 1e-9)) : 1;
    const damped = careful * this.pace;
    for (let i = 0; i < n; i++) x[i] += damped * step[i];
    // Darker than any bare picture a power is no knowledge: one that grows without end toward black would undo a strong filter's pictures.
    for (const power of [IN_DARK, IN_LIGHT]) x[power] = Math.min(POWERS.most, Math.max(POWERS.least, x[power]));
    x[LOCAL] = Math.min(GAINS.most, Math.max(GAINS.least, x[LOCAL]));
    for (const one of eliminated) one(step, damped);
    // Where no exposures tell the slope, it wanders along what the prior allows.
    this.converged = this.known < TELLING_STOPS || (careful === 1 && bent(step) < CONVERGED);
    if (round >= EM_FROM) this.variances = this.reestimated();
    if (round === DECIDED_AT) this.decide();
    return true;
  }

  /** Whether a step of the curve undoes the one before: about a knee steps overshoot, and would go to and fro for ever. */
  private turnedBack(step: Float64Array): boolean {
    let along = 0;
    for (let k = 0; k < JUDGED; k++) along += step[k] * this.before[k];
    this.before = step.slice(0, JUDGED);
    return along < 0;
  }

  /** The last round, for the covariance alone. */
  finish(): ResponseEstimate | null {
    const { n, x, normal, evidence, variances } = this;
    this.equations(ROUNDS);
    if (!factorise(normal, n)) return null;
    const { leading, diagonal } = inverseOf(normal, n, CURVES);
    return {
      knots: x.slice(0, CURVES),
      covariance: leading,
      automatic: { value: x[AUTOMATIC], u: Math.sqrt(diagonal[AUTOMATIC]) },
      local: {
        value: x[LOCAL],
        u: Math.sqrt(diagonal[LOCAL]),
        luma: this.localLuma,
        inDark: x[IN_DARK],
        inLight: x[IN_LIGHT],
      },
      localSeen: evidence.local ?? this.checked?.local ?? null,
      adapts: this.adapts,
      suspected: this.suspected,
      undecided: this.undecided,
      middle: this.middle,
      slopeOf: new Map(evidence.pictures.map(({ take }, p) => [take, x[this.at.picture(p) + 3]])),
      offsets: Math.sqrt(variances[0]),
      balance: Math.sqrt(variances[1]),
      slopes: Math.sqrt(variances[2]),
      drifts: Array.from({ length: evidence.scenes }, (_, s) => x[this.at.scene(s)]),
      knownStops: this.known,
      darkest: this.darkest(),
      sigma: this.sigma,
      misfit: this.misfit,
      converged: this.converged,
    };
  }

  /** Fills in the equations of a round: what is known beforehand, then place by place what was seen. */
  private equations(round: number): Eliminated[] {
    this.misfit = 0;
    this.normal.fill(0);
    this.right.fill(0);
    this.addPriors(round);
    return this.byPlace.map((own, place) => this.addPlace(own, place));
  }

  private addPriors(round: number): void {
    const mean = this.checked?.mean;
    for (let a = 0; a < CURVES; a++)
      for (let b = 0; b < CURVES; b++) {
        const precision = this.curvePrior[a * CURVES + b];
        if (precision === 0) continue;
        this.normal[a * this.n + b] += precision;
        this.right[a] += precision * ((mean?.[b] ?? 0) - this.x[b]);
      }
    const single = (i: number, deviation: number, expected = 0) => {
      const precision = 1 / (deviation * deviation);
      this.normal[i * this.n + i] += precision;
      this.right[i] += precision * (expected - this.x[i]);
    };
    single(AUTOMATIC, this.adaptation);
    single(LOCAL, this.localU, this.localValue);
    single(IN_DARK, PRIOR.inDark.u, PRIOR.inDark.value);
    single(IN_LIGHT, PRIOR.inLight.u, PRIOR.inLight.value);
    // Wide at first, so that a wrong curve isn't taken for what pictures do by themselves.
    const [offset, balance, slope] = this.variances.map((one) => Math.sqrt(round < 2 ? Math.max(one, 1e-4) : one));
    this.evidence.pictures.forEach((_, p) => {
      single(this.at.picture(p), offset);
      single(this.at.picture(p) + 1, balance);
      single(this.at.picture(p) + 2, balance);
      single(this.at.picture(p) + 3, slope);
    });
    for (let s = 0; s < this.evidence.strengths; s++)
      for (let k = 0; k < A_STRENGTH; k++)
        single(this.at.strength(s) + k, k < 3 ? PRIOR.strength : k < 5 ? PRIOR.falloff : PRIOR.tilt);
    for (let s = 0; s < this.evidence.scenes; s++) {
      single(this.at.scene(s), PRIOR.drift);
      single(this.at.scene(s) + 1, PRIOR.bend);
    }
  }

  /** A camera whose tone stays as it is tells more: only what is found beyond doubt counts as adapting. */
  private decide(): void {
    if (this.checked) return;
    const u = Math.sqrt(inverseOf(this.normal, this.n, 0).diagonal[AUTOMATIC]);
    const found = Math.abs(this.x[AUTOMATIC]);
    this.suspected = found + u;
    const told = u <= UNDECIDED;
    const large = found > Math.max(ADAPTS.least, ADAPTS.ofLocal * Math.abs(this.localValue));
    this.adapts = told && large && this.known >= TELLING_STOPS && found > ADAPTS.times * u;
    const open = !told || (large && found > PERHAPS * u);
    if (!this.adapts && open && this.known >= TELLING_STOPS) this.undecided = Math.hypot(found, u);
    if (!this.adapts && this.known >= TELLING_STOPS) this.adaptation = AS_GOOD_AS_FIXED;
  }

  /** Green light that a fiftieth of the observations lie below, or that a check reached; −∞ where nothing was seen. */
  private darkest(): number {
    const { observations } = this.evidence;
    const lights = observations.map((one) => this.light[3 * one.place + 1] + this.lightOf(one, 1));
    const told = [quantile(lights, 0.02), this.checked?.darkest].flatMap((one) => one ?? []);
    return told.length > 0 ? Math.min(...told) : -Infinity;
  }

  /** Light of a place in a picture, less the place's own. */
  private lightOf({ picture: p, place: t }: PlaceEvidence, c: number): number {
    const picture = this.evidence.pictures[p];
    const place = this.evidence.places[t];
    const moment = picture.moment - 0.5;
    let value =
      picture.exposure +
      this.x[this.at.picture(p)] +
      this.x[this.at.scene(picture.scene)] * moment +
      this.x[this.at.scene(picture.scene) + 1] * (moment * moment - MEAN_SQUARE);
    if (c !== 1) value += this.x[this.at.picture(p) + (c === 0 ? 1 : 2)];
    if (picture.strength !== null) {
      const s = this.at.strength(picture.strength);
      const r2 = place.x * place.x + place.y * place.y;
      value -=
        this.x[s + c] +
        this.x[s + 3] * r2 +
        this.x[s + 4] * r2 * r2 +
        this.x[s + 5] * place.x +
        this.x[s + 6] * place.y;
    }
    return value;
  }

  /** Adds what one place says (lower triangle); gives what its own light has to do after the step. */
  private addPlace(own: readonly PlaceEvidence[], place: number): Eliminated {
    const { n, terms, normal, right } = this;
    const cross = new Float64Array(3 * n);
    const block = new Float64Array(9);
    const rest = new Float64Array(3);
    const touched = new Uint8Array(n);
    for (const one of own) {
      this.fillTerms(one, place);
      this.misfit += terms.add(this.weights.get(one)!, n, { normal, right, cross, touched, rest, block });
    }
    if (own.length === 0 || !factorise(block, 3)) return () => undefined;
    // Schur's complement: the place's light is whatever fits best.
    const list = onesIn(touched);
    const crossed = new Float64Array(3 * list.length);
    list.forEach((i, a) => crossed.set(cross.subarray(3 * i, 3 * i + 3), 3 * a));
    const solved = crossed.slice();
    for (let a = 0; a < list.length; a++) solveFactorised(block, 3, solved.subarray(3 * a, 3 * a + 3));
    for (let a = 0; a < list.length; a++)
      right[list[a]] -= solved[3 * a] * rest[0] + solved[3 * a + 1] * rest[1] + solved[3 * a + 2] * rest[2];
    takeProducts(normal, n, list, solved, crossed);
    const alone = rest.slice();
    solveFactorised(block, 3, alone);
    return (step: Float64Array, damped: number) => {
      for (let c = 0; c < 3; c++) {
        let change = alone[c];
        for (let a = 0; a < list.length; a++) change -= solved[3 * a + c] * step[list[a]];
        this.light[3 * place + c] += damped * change;
      }
    };
  }

  /** Residuals of a place in a picture, and their derivatives by all unknowns that it depends on. */
  private fillTerms(one: PlaceEvidence, place: number): void {
    const { x, terms, at } = this;
    const picture = this.evidence.pictures[one.picture];
    const p = at.picture(one.picture);
    const bright = picture.median - this.middle;
    const pull = x[p + 3] + x[AUTOMATIC] * bright;
    const [inDark, inLight] = fromMiddle(one.luma, this.localLuma);
    const powers = Math.exp(x[IN_DARK] * inDark + x[IN_LIGHT] * inLight);
    const { lambda, steep, slopes, weighted, bases } = terms;
    for (let c = 0; c < 3; c++) {
      lambda[c] = this.light[3 * place + c] + this.lightOf(one, c);
      // What adapts comes before the style, which draws whatever it is given.
      const drawn = lambda[c] * (1 + pull);
      const basis = basisAt(drawn);
      const common = etaOf(x, basis);
      const channel = etaOf(x, basis, (c + 1) * KNOTS);
      weighted[c] = one.contrast * one.gain[c] * powers;
      terms.residual[c] = one.y[c] - (drawn + common.value + channel.value + x[LOCAL] * weighted[c]);
      steep[c] = Math.max(LEAST_SLOPE, 1 + common.slope + channel.slope);
      slopes[c] = Math.max(LEAST_SLOPE, steep[c] * (1 + pull));
      bases[c] = basis;
    }
    terms.addCurves();
    const by = x[LOCAL];
    terms.addAll(AUTOMATIC, (c) => bright * lambda[c] * steep[c]);
    terms.addAll(LOCAL, (c) => weighted[c]);
    terms.addAll(IN_DARK, (c) => by * inDark * weighted[c]);
    terms.addAll(IN_LIGHT, (c) => by * inLight * weighted[c]);
    terms.addAll(p, (c) => slopes[c]);
    terms.addOne(p + 1, 0, slopes[0]);
    terms.addOne(p + 2, 2, slopes[2]);
    terms.addAll(p + 3, (c) => lambda[c] * steep[c]);
    if (picture.strength !== null) {
      const s = at.strength(picture.strength);
      const { x: px, y: py } = this.evidence.places[place];
      const r2 = px * px + py * py;
      for (let c = 0; c < 3; c++) terms.addOne(s + c, c, -slopes[c]);
      terms.addAll(s + 3, (c) => -slopes[c] * r2);
      terms.addAll(s + 4, (c) => -slopes[c] * r2 * r2);
      terms.addAll(s + 5, (c) => -slopes[c] * px);
      terms.addAll(s + 6, (c) => -slopes[c] * py);
    }
    const moment = picture.moment - 0.5;
    const scene = at.scene(picture.scene);
    terms.addAll(scene, (c) => slopes[c] * moment);
    terms.addAll(scene + 1, (c) => slopes[c] * (moment * moment - MEAN_SQUARE));
  }

  /** Variances of the pictures' terms from their estimates and what is uncertain in them. */
  private reestimated(): number[] {
    const { diagonal } = inverseOf(this.normal, this.n, 0);
    const sums = [0, 0, 0];
    this.evidence.pictures.forEach((_, p) => {
      const i = this.at.picture(p);
      const square = (k: number) => this.x[i + k] ** 2 + diagonal[i + k];
      sums[0] += square(0);
      sums[1] += (square(1) + square(2)) / 2;
      sums[2] += square(3);
    });
    return sums.map((sum, k) =>
      Math.max(
        PICTURE_FLOOR[k] ** 2,
        (sum + PRIOR_COUNT * PICTURE_PRIOR[k] ** 2) / (this.evidence.pictures.length + PRIOR_COUNT),
      ),
    );
  }
}

/** How much a step changes the slope between knots, as stops a knot: an offset of all light is no change. */
function bent(step: Float64Array): number {
  let most = 0;
  for (let k = 2; k < JUDGED; k++) most = Math.max(most, Math.abs(step[k] - step[k - 1]));
  return most;
}
