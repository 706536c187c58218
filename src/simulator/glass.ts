/** What light a filter lets through at a place of the frame, at a setting of its ring. */
import type { Setting, TrueFilter } from './truth';

const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** Share of unpolarized and of polarized light that passes, per channel; polarized light swings along a ring angle. */
export interface Passing {
  plain: [number, number, number];
  polarized: [number, number, number];
}

/** Stops of a variable filter at a mark, between its marks by a straight line. */
export function stopsAtMark(filter: TrueFilter, mark: number): number {
  const { marks } = filter.variable!;
  const row = [...marks].sort((a, b) => a.mark - b.mark);
  const at = row.findIndex((one) => one.mark >= mark);
  if (at <= 0) return row[at < 0 ? row.length - 1 : 0].stops;
  const [before, after] = [row[at - 1], row[at]];
  return before.stops + ((mark - before.mark) / (after.mark - before.mark)) * (after.stops - before.stops);
}

/** Stops that crossed polarizers add or take at a place (half heights from the center): a cos 2φ pattern that grows with r². */
export function crossStops(filter: TrueFilter, mark: number, x: number, y: number): number {
  const cross = filter.variable?.cross;
  if (!cross || mark <= cross.from) return 0;
  const strength = cross.stopsPerMark * (mark - cross.from);
  return -strength * (x * x + y * y) * Math.cos(2 * (Math.atan2(y, x) - radians(cross.axisDegrees)));
}

/** Share of dense (0–1) of a graduated filter at a place: heights from the center, right and down. */
export function denseShare(
  { midline, width, angleDegrees }: NonNullable<TrueFilter['graduation']>,
  x: number,
  y: number,
): number {
  const angle = radians(angleDegrees);
  const offset = (0.5 - midline) * Math.cos(angle);
  const distance = x * Math.sin(angle) - y * Math.cos(angle) - offset;
  return 1 / (1 + Math.exp((-distance * 2 * Math.log(9)) / width));
}

/**
 * A function of the place (heights from the frame's center, right and down) that fills in what passes there.
 *
 * @param lightDegrees ring angle along which the scene's polarized light swings
 */
export function passingThrough(
  filter: TrueFilter | null,
  setting: Setting | undefined,
  lightDegrees: number,
): (x: number, y: number, into: Passing) => void {
  const stops = filter?.stops ?? [0, 0, 0];
  const base = stops.map((one) => 2 ** -one);
  let gain = 1;
  if (filter?.polarizer) {
    const { axisDegrees, extinctionStops } = filter.polarizer;
    const leak = 2 ** -extinctionStops;
    const cos2 = Math.cos(radians((setting?.ringDegrees ?? 0) - axisDegrees - lightDegrees)) ** 2;
    gain = (2 * (cos2 + leak * (1 - cos2))) / (1 + leak);
  }
  const { variable, graduation } = filter ?? {};
  const mark = setting?.mark ?? 0;
  const marked = variable
    ? 2 ** -(stopsAtMark(filter!, mark) + (setting?.fromAbove ? (variable.backlashStops ?? 0) : 0))
    : 1;
  return (x, y, { plain, polarized }) => {
    const share = graduation ? denseShare(graduation, x, y) : 0;
    const pattern = variable ? marked * 2 ** -crossStops(filter!, mark, 2 * x, 2 * y) : 1;
    for (let c = 0; c < 3; c++) {
      const dense = graduation ? 2 ** -(share * (graduation.denseStops[c] - stops[c])) : 1;
      plain[c] = base[c] * pattern * dense;
      polarized[c] = plain[c] * gain;
    }
  };
}
