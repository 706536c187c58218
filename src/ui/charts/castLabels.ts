/** Where names beside dots stand, so that those of near dots don't lie over each other. */

export interface NamedDot {
  x: number;
  y: number;
  name: string;
}

export interface LabelPlace {
  /** Where the text begins or, on the left of its dot, ends. */
  x: number;
  y: number;
  align: 'left' | 'right';
}

const GAP = 9;
const LINE = 14;
/** Width of a letter at the labels' size, about: names are short. */
const LETTER = 7.4;
const ROUNDS = 200;

/** A name that would stand farther from its dot is nobody's, pixels. */
const FARTHEST = 24;

/** Places as {@link placeLabels} has them; of dots that lie so close together that a name would stray from its own, `null`. */
export function labelsNear(dots: readonly NamedDot[], width: number): (LabelPlace | null)[] {
  const left = new Set(dots.keys());
  for (;;) {
    const kept = [...left];
    const places = placeLabels(
      kept.map((i) => dots[i]),
      width,
    );
    const strays = places.map(({ y }, k) => Math.abs(y - dots[kept[k]].y));
    const worst = strays.indexOf(Math.max(0, ...strays));
    if (worst < 0 || strays[worst] <= FARTHEST) {
      const found = new Map(kept.map((i, k) => [i, places[k]]));
      return dots.map((_, i) => found.get(i) ?? null);
    }
    left.delete(kept[worst]);
  }
}

/**
 * Labels on the right of their dots (on the left where the drawing ends), pushed apart up and down until none covers another.
 *
 * @param dots and `width` of the drawing, pixels
 */
export function placeLabels(dots: readonly NamedDot[], width: number): LabelPlace[] {
  const places = dots.map(({ x, y, name }) => {
    const long = LETTER * name.length;
    const fits = x + GAP + long <= width;
    return { x: fits ? x + GAP : x - GAP, y, align: fits ? ('left' as const) : ('right' as const), long };
  });
  const from = (place: (typeof places)[number]) => (place.align === 'left' ? place.x : place.x - place.long);
  // From the top down, by name where two are at one height: the order that they end in.
  const order = [...places.keys()].sort((a, b) => dots[a].y - dots[b].y || a - b);
  for (let round = 0, moved = true; moved && round < ROUNDS; round++) {
    moved = false;
    order.forEach((upper, i) => {
      for (const lower of order.slice(i + 1)) {
        const [a, b] = [places[upper], places[lower]];
        const beside = from(a) + a.long < from(b) || from(b) + b.long < from(a);
        const lacks = LINE - (b.y - a.y);
        if (beside || lacks <= 0.01) continue;
        a.y -= lacks / 2;
        b.y += lacks / 2;
        moved = true;
      }
    });
  }
  return places.map(({ x, y, align }) => ({ x, y, align }));
}
