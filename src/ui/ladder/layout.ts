/** Where things stand on the stop ladder. Pure geometry. */

/** A filter on the ladder. `found` is null before it is measured. */
export interface LadderBead {
  id: string;
  name: string;
  labelStops: number | null;
  found: { value: number; u95: number } | null;
  verdict: string | null;
}

export interface PlacedBead extends LadderBead {
  /** Pixels: the bead, its 95 % bar, its label's tick; null where there is none. */
  x: number;
  bar: [number, number] | null;
  tickX: number | null;
  /** Row of its name: 0 lowest; names that would collide step up. */
  row: number;
}

export interface LadderLayout {
  beads: PlacedBead[];
  bareX: number;
  ticks: { x: number; label: string | null }[];
  rows: number;
  left: number;
  right: number;
}

const NAME_PX = 8.2;
const GAP_PX = 8;
const MOST_ROWS = 3;

/**
 * Lays beads on a ladder of this width. Unmeasured ones stand at their labels; ones with neither strength nor label are left
 * out. The scale ends at the next whole stop above the strongest.
 */
export function layOutLadder(beads: readonly LadderBead[], width: number, compact = false): LadderLayout {
  const left = compact ? 26 : 86;
  const right = Math.max(left + 50, width - (compact ? 26 : 74));
  const standing = beads
    .map((bead) => ({ ...bead, at: bead.found?.value ?? bead.labelStops }))
    .filter((bead): bead is typeof bead & { at: number } => bead.at !== null);
  const strongest = Math.max(3, ...standing.flatMap((bead) => [bead.at, bead.labelStops ?? 0]));
  const stops = Math.ceil(strongest - 0.05);
  const scale = (value: number) => left + ((right - left) * value) / stops;
  // Whole stops are numbered as long as there is room; thirds get ticks as long as they can be told apart.
  const perStop = (right - left) / stops;
  const every = perStop >= 26 ? 1 : perStop >= 13 ? 2 : 4;
  const ticks: LadderLayout['ticks'] = [];
  for (let third = 0; third <= 3 * stops; third++) {
    const whole = third % 3 === 0;
    if (!whole && (perStop < 24 || compact)) continue;
    ticks.push({ x: scale(third / 3), label: whole && (third / 3) % every === 0 ? String(third / 3) : null });
  }
  const ends: number[] = [];
  if (!compact) ends[0] = scale(0) + 18;
  const placed = [...standing]
    .sort((a, b) => a.at - b.at)
    .map((bead): PlacedBead => {
      const x = scale(bead.at);
      const half = (bead.name.length * NAME_PX) / 2;
      let row = 0;
      while (row < MOST_ROWS - 1 && ends[row] !== undefined && x - half < ends[row] + GAP_PX) row++;
      ends[row] = x + half;
      return {
        ...bead,
        x,
        bar: bead.found
          ? [scale(Math.max(0, bead.found.value - bead.found.u95)), scale(bead.found.value + bead.found.u95)]
          : null,
        tickX: bead.labelStops === null ? null : scale(bead.labelStops),
        row,
      };
    });
  return { beads: placed, bareX: scale(0), ticks, rows: Math.max(1, ends.length), left, right };
}
