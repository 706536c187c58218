/** Where things stand on the stop ladder. Pure geometry. */

/** A filter on the ladder. `found` is null before it is measured. */
export interface LadderBead {
  id: string;
  name: string;
  labelStops: number | null;
  found: { value: number; u95: number } | null;
  verdict: string | null;
  /** A filter that takes more than one strength: marks of a variable one, brightest to darkest of a polarizer, two halves of a graduated one. */
  span?: { low: number; high: number; ticks: readonly number[]; halves?: boolean } | null;
  /** Both ends of a labelled range. */
  labelSpan?: readonly [number, number] | null;
}

export interface PlacedBead extends LadderBead {
  /** Pixels: the bead, its 95 % bar, its label's tick; null where there is none. */
  x: number;
  bar: [number, number] | null;
  tickX: number | null;
  /** Ends of its span and ticks on it; the right end is open where it lies beyond the rule. */
  line: { from: number; to: number; ticks: number[]; open: boolean; halves: boolean } | null;
  /** Spans that would lie on each other step down a lane. */
  lane: number;
  /** Threads from the ends of its span to the ends of its label. */
  threads: [number, number][];
  /** Row of its name: 0 lowest; names that would collide step up. */
  row: number;
  /** Its name as far as there is room for it, and where its middle stands; `null` where names leave none. */
  written: { text: string; x: number } | null;
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
const MOST_ROWS = 2;
/** Letters of a name that are written at most; the whole is told on pointing. */
const MOST_LETTERS = 14;
const MOST_LANES = 3;
/** A polarizer's darkest may lie far off; beyond this the rule doesn't follow it. */
const MOST_SPAN = 10;

/** Stops at which a bead stands: what was found, the middle of its span or of its label. */
function placeOf({ found, span, labelStops, labelSpan }: LadderBead): number | null {
  if (found) return found.value;
  if (span) return span.halves ? span.high : (span.low + Math.min(Math.max(span.low, MOST_SPAN), span.high)) / 2;
  return labelStops ?? (labelSpan ? (labelSpan[0] + labelSpan[1]) / 2 : null);
}

/** A labelled range is tied to both ends of the span, a single label to the dense half of a graduated filter. */
function threadsOf(
  { span, labelSpan, labelStops, found }: LadderBead,
  scale: (stops: number) => number,
): [number, number][] {
  if (span && labelSpan)
    return [
      [scale(span.low), scale(labelSpan[0])],
      [scale(span.high), scale(labelSpan[1])],
    ];
  if (labelSpan)
    return labelSpan.map((end): [number, number] => [scale((labelSpan[0] + labelSpan[1]) / 2), scale(end)]);
  const at = placeOf({ span, labelSpan, labelStops, found } as LadderBead);
  return labelStops === null || at === null ? [] : [[scale(at), scale(labelStops)]];
}

/**
 * Lays beads on a ladder of this width. Unmeasured ones stand at their labels; ones with neither strength nor label are left
 * out. The scale ends at the next whole stop above the strongest.
 */
export function layOutLadder(beads: readonly LadderBead[], width: number, compact = false): LadderLayout {
  const left = compact ? 26 : 86;
  const right = Math.max(left + 50, width - (compact ? 26 : 74));
  const standing = beads
    .map((bead) => ({ ...bead, at: placeOf(bead) }))
    .filter((bead): bead is typeof bead & { at: number } => bead.at !== null);
  const strongest = Math.max(
    3,
    ...standing.flatMap((bead) => [
      bead.at,
      bead.labelStops ?? 0,
      bead.labelSpan?.[1] ?? 0,
      Math.min(MOST_SPAN, bead.span?.high ?? 0),
    ]),
  );
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
  const laneEnds: number[] = [];
  const laneOf = (from: number, to: number) => {
    let lane = 0;
    while (lane < MOST_LANES - 1 && laneEnds[lane] !== undefined && from < laneEnds[lane] + GAP_PX) lane++;
    laneEnds[lane] = Math.max(laneEnds[lane] ?? 0, to);
    return lane;
  };
  if (!compact) ends[0] = scale(0) + 18;
  const placed = [...standing]
    .sort((a, b) => a.at - b.at)
    .map((bead): PlacedBead => {
      const x = scale(bead.at);
      const { span } = bead;
      const text = bead.name.length > MOST_LETTERS ? `${bead.name.slice(0, MOST_LETTERS - 1).trimEnd()}…` : bead.name;
      const half = (text.length * NAME_PX) / 2;
      const middle = Math.max(half, Math.min(width - half, x));
      const isFree = (line: number) => ends[line] === undefined || middle - half >= ends[line] + GAP_PX;
      const free = Array.from({ length: MOST_ROWS }, (_, line) => line).find(isFree);
      const row = free ?? 0;
      if (free !== undefined) ends[row] = middle + half;
      return {
        ...bead,
        x,
        bar: bead.found
          ? [scale(Math.max(0, bead.found.value - bead.found.u95)), scale(bead.found.value + bead.found.u95)]
          : null,
        tickX: bead.labelStops === null ? null : scale(bead.labelStops),
        line: span
          ? {
              from: scale(Math.max(0, span.low)),
              to: scale(Math.min(stops, span.high)),
              ticks: span.ticks.map(scale),
              open: span.high > stops,
              halves: span.halves ?? false,
            }
          : null,
        threads: threadsOf(bead, scale),
        lane: span ? laneOf(scale(Math.max(0, span.low)), scale(Math.min(stops, span.high))) : 0,
        row,
        written: free === undefined ? null : { text, x: middle },
      };
    });
  return { beads: placed, bareX: scale(0), ticks, rows: Math.max(1, ends.length), left, right };
}
