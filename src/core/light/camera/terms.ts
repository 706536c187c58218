/** What one place in one picture adds to the equations of a response: derivatives of its three channels, dense over what they depend on. */
import { KNOTS, type Basis } from './curve';

/** Unknowns that a place in a picture depends on, at most: knots of the common curve, each channel's own, and 17 others. */
const MOST = KNOTS + 3 * 4 + 17;

/** Sums over the places: a lower triangle and its right side; of the place at hand also how it hangs on its own light. */
export interface Sums {
  normal: Float64Array;
  right: Float64Array;
  /** Unknown by unknown, three channels each. */
  cross: Float64Array;
  touched: Uint8Array;
  rest: Float64Array;
  block: Float64Array;
}

/** Filled anew for each place in each picture, unknowns in rising order. */
export class PlaceTerms {
  readonly residual = new Float64Array(3);
  /** Light, and how steep the curve is there: of what is drawn, and of what the unknowns of light are multiplied by. */
  readonly lambda = new Float64Array(3);
  readonly steep = new Float64Array(3);
  readonly slopes = new Float64Array(3);
  /** What local tone adds, before its gain. */
  readonly weighted = new Float64Array(3);
  readonly bases: Basis[] = [];
  private readonly columns = new Int32Array(MOST);
  private readonly byChannel = [0, 1, 2].map(() => new Float64Array(MOST));
  private count = 0;

  /** Begins with the knots of the curves. */
  addCurves(): void {
    const { bases, columns, byChannel } = this;
    const from = Math.min(bases[0].first, bases[1].first, bases[2].first);
    const past = Math.max(bases[0].first, bases[1].first, bases[2].first) + 4;
    this.count = past - from;
    for (let u = 0; u < this.count; u++) columns[u] = from + u;
    for (let c = 0; c < 3; c++) {
      byChannel[c].fill(0, 0, this.count);
      for (let k = 0; k < 4; k++) byChannel[c][bases[c].first - from + k] = bases[c].values[k];
    }
    for (let c = 0; c < 3; c++)
      for (let k = 0; k < 4; k++) this.addOne((c + 1) * KNOTS + bases[c].first + k, c, bases[c].values[k]);
  }

  /** An unknown that all channels depend on. */
  addAll(column: number, of: (channel: number) => number): void {
    const u = this.count++;
    this.columns[u] = column;
    for (let c = 0; c < 3; c++) this.byChannel[c][u] = of(c);
  }

  /** An unknown of one channel. */
  addOne(column: number, channel: number, value: number): void {
    const u = this.count++;
    this.columns[u] = column;
    for (let c = 0; c < 3; c++) this.byChannel[c][u] = c === channel ? value : 0;
  }

  /**
   * Adds all to the sums.
   *
   * @param weight inverse covariance of the channels, 3 × 3
   * @param n unknowns
   * @returns the square of what is left, in its uncertainty
   */
  add(weight: Float64Array, n: number, { normal, right, cross, touched, rest, block }: Sums): number {
    const { columns, count, residual, slopes } = this;
    const [red, green, blue] = this.byChannel;
    const [rr, rg, rb, gg, gb, bb] = [weight[0], weight[1], weight[2], weight[4], weight[5], weight[8]];
    const pulled = [
      rr * residual[0] + rg * residual[1] + rb * residual[2],
      rg * residual[0] + gg * residual[1] + gb * residual[2],
      rb * residual[0] + gb * residual[1] + bb * residual[2],
    ];
    const [p0, p1, p2] = pulled;
    for (let u = 0; u < count; u++) {
      const [r, g, b] = [red[u], green[u], blue[u]];
      const wr = rr * r + rg * g + rb * b;
      const wg = rg * r + gg * g + gb * b;
      const wb = rb * r + gb * g + bb * b;
      const i = columns[u];
      touched[i] = 1;
      right[i] += r * p0 + g * p1 + b * p2;
      cross[3 * i] += wr * slopes[0];
      cross[3 * i + 1] += wg * slopes[1];
      cross[3 * i + 2] += wb * slopes[2];
      const row = i * n;
      for (let v = 0; v <= u; v++) normal[row + columns[v]] += wr * red[v] + wg * green[v] + wb * blue[v];
    }
    for (let a = 0; a < 3; a++) {
      rest[a] += slopes[a] * pulled[a];
      for (let b = 0; b < 3; b++) block[3 * a + b] += slopes[a] * weight[3 * a + b] * slopes[b];
    }
    return residual[0] * p0 + residual[1] * p1 + residual[2] * p2;
  }
}

/** Indices that are set, rising. */
export function onesIn(flags: Uint8Array): Int32Array {
  const found = new Int32Array(flags.length);
  let count = 0;
  for (let i = 0; i < flags.length; i++) if (flags[i] === 1) found[count++] = i;
  return found.slice(0, count);
}
