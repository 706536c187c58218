/** Where things stand on a ring's dial. Pure geometry: 0° up, clockwise; light falls towards the middle. */

export interface RingCurve {
  mean: number;
  cosine: number;
  sine: number;
}

export interface DialPoint {
  degrees: number;
  stops: number;
}

export interface Dial {
  /** Stops from the rim to the middle. */
  depth: number;
  /** Circles of whole stops under the brightest, with radius as a share of the rim's. */
  rings: { stops: number; radius: number }[];
  /** Path of the fitted curve, the rim's radius being `radius`, around 0,0. */
  path: string;
  /** Points at their angle and, since a ring repeats after half a turn, opposite. */
  dots: { x: number; y: number; echo: boolean; index: number }[];
  /** Angle of the brightest, [0, 180). */
  axisDegrees: number;
}

const LEAST_DEPTH = 2;
const MOST_DEPTH = 10;

/** Ratio at a ring angle. */
export function ratioAt({ mean, cosine, sine }: RingCurve, degrees: number): number {
  const twice = (2 * degrees * Math.PI) / 180;
  return mean + cosine * Math.cos(twice) + sine * Math.sin(twice);
}

/** A place on the dial: angle from the top, clockwise. */
export function dialPlace(degrees: number, radius: number): [number, number] {
  const angle = (degrees * Math.PI) / 180;
  return [radius * Math.sin(angle), -radius * Math.cos(angle)];
}

/** Lays a sweep out on a dial of this radius. */
export function layOutDial(curve: RingCurve, points: readonly DialPoint[], radius: number): Dial {
  const amplitude = Math.hypot(curve.cosine, curve.sine);
  const brightest = -Math.log2(curve.mean + amplitude);
  const bottom = curve.mean - amplitude;
  const extinction = bottom > 0 ? -Math.log2(bottom) - brightest : MOST_DEPTH;
  const seen = Math.max(...points.map((one) => one.stops - brightest), 0);
  const depth = Math.min(MOST_DEPTH, Math.max(LEAST_DEPTH, Math.ceil(Math.max(extinction, seen) + 0.3)));
  const radiusOf = (under: number) => radius * (1 - Math.min(depth, Math.max(0, under)) / depth);
  const steps = Array.from({ length: 361 }, (_, degrees) => {
    const ratio = Math.max(ratioAt(curve, degrees), 2 ** -40);
    return dialPlace(degrees, radiusOf(-Math.log2(ratio) - brightest));
  });
  const every = depth <= 4 ? 1 : 2;
  return {
    depth,
    rings: Array.from({ length: Math.floor((depth - 0.5) / every) + 1 }, (_, i) => ({
      stops: i * every,
      radius: radiusOf(i * every),
    })),
    path: `M${steps.map(([x, y]) => `${x.toFixed(2)} ${y.toFixed(2)}`).join('L')}Z`,
    dots: points.flatMap(({ degrees, stops }, index) =>
      [false, true].map((echo) => {
        const [x, y] = dialPlace(degrees + (echo ? 180 : 0), radiusOf(stops - brightest));
        return { x, y, echo, index };
      }),
    ),
    axisDegrees: ((((Math.atan2(curve.sine, curve.cosine) * 90) / Math.PI) % 180) + 180) % 180,
  };
}
