/** Angles that come round again. */

/** Degrees in [0, period). */
export function turned(degrees: number, period = 360): number {
  return ((degrees % period) + period) % period;
}

/** The way from one angle to another, degrees in (−period/2, period/2]. */
export function wayBetween(from: number, to: number, period = 360): number {
  const way = turned(to - from, period);
  return way > period / 2 ? way - period : way;
}
