/** What a session's pictures say of the camera's curve: places, pictures, exposures, picked out of their grids. */
import { mean } from '../../formulas/statistics/averages';
import type { Decoding } from '../decoding';
import { compressionOfCodes, stopsPerCode, type MeanSteps } from './compression';
import type { Evidence, PictureEvidence, PlaceEvidence } from './model';
import { findLocalTone, type LocalTone } from './localTone';
import { contrastAt, lumaAt, medianLight, type PlaceGrid } from './placeGrid';

/** One picture of a session with its grid. */
export interface GridShot {
  take: string;
  scene: string;
  /** Words that are equal where the same light is lost: filter and setting; `null` for bare. */
  through: string | null;
  exposureLog2: number;
  timeMs: number;
  grid: PlaceGrid;
  decoding: Decoding;
  bitDepth: number;
  /** Of a lossy file. */
  steps: MeanSteps | null;
}

/** How a scene speaks. */
export interface SpeakingScene {
  id: string;
  /** An even wall: its places are all neutral, spread over the frame. */
  wall: boolean;
  /** Square of the gray card in fractions of the frame, where there is one. */
  gray: { x: number; y: number; width: number; height: number } | null;
  /** Whether filtered pictures speak: what a filter takes is the same for all its neutral places. */
  filtered: boolean;
}

/** Places that are looked at: levels of a quarter stop, so many each; squares that aren't gray, in all. */
const PLACES = { level: 0.25, aLevel: 4, most: 40, colored: 12, wallColumns: 6, wallRows: 4 };
/** Quarters of a square may lie so far apart, stops, beside what noise explains. */
const EVEN = { stops: 0.04, ofNoise: 4 };
/** A place is gray where it is no more colored than this against the card, stops of red or blue over green. */
const GRAY = 0.085;
/** Left out of a picture: shares at the top code and at 0, mean codes of 8 bits. */
const LEFT_OUT = { top: 0.0005, zero: 0.25, darkest: 0.8, lightest: 248 };
/** Texture and veil: stray light of a filtered picture, in stops for a place as bright as the card. */
const VEIL = 0.0015;

/** All that the pictures of a session say; `null` where no scene has a usable bare picture. */
export function gatherEvidence(shots: readonly GridShot[], scenes: readonly SpeakingScene[]): Evidence | null {
  const pictures: PictureEvidence[] = [];
  const places: { scene: number; x: number; y: number }[] = [];
  const observations: PlaceEvidence[] = [];
  const strengths = new Map<string, number>();
  const found: LocalTone[] = [];
  const [start, end] = [Math.min(...shots.map((one) => one.timeMs)), Math.max(...shots.map((one) => one.timeMs))];
  scenes.forEach((scene, s) => {
    const own = shots.filter((shot) => shot.scene === scene.id && (scene.filtered || shot.through === null));
    const reference = referenceOf(own);
    if (!reference) return;
    const chosen = choosePlaces(reference, scene);
    if (chosen.length === 0) return;
    const from = places.length;
    const local = scene.wall
      ? null
      : findLocalTone(reference.grid, evenGrays(reference, scene), (square) => contrastAt(reference.grid, square));
    if (local) found.push(local);
    for (const { square } of chosen) places.push({ scene: s, ...placeOf(square, reference.grid) });
    const card = Math.log2(reference.grid.light[3 * chosen[0].card + 1]);
    // Pictures of one take count as one, unless their exposures differ.
    const nameOf = ({ take, exposureLog2 }: GridShot) => `${take} ${exposureLog2.toFixed(3)}`;
    for (const name of new Set(own.map(nameOf))) {
      const repeats = own.filter((shot) => nameOf(shot) === name && sameGrid(shot.grid, reference.grid));
      if (repeats.length === 0) continue;
      const [first] = repeats;
      const seen = chosen.flatMap(({ square, gray }, i) => {
        if (!gray && first.through !== null) return [];
        const usable = repeats.filter((shot) => isUsable(shot, square));
        return usable.length === 0 ? [] : [observed(usable, square, from + i, pictures.length, card)];
      });
      if (seen.length === 0) continue;
      let strength: number | null = null;
      if (first.through !== null) {
        // By scene: at the long end of a zoom a filter's rim darkens less, and corners would pull at the curve.
        const key = `${s} ${first.through}`;
        strength = strengths.get(key) ?? strengths.size;
        strengths.set(key, strength);
      }
      observations.push(...seen);
      pictures.push({
        take: first.take,
        scene: s,
        strength,
        exposure: mean(repeats.map((shot) => shot.exposureLog2)) - reference.exposureLog2,
        moment: end > start ? (mean(repeats.map((shot) => shot.timeMs)) - start) / (end - start) : 0.5,
        median: medianLight(first.grid),
      });
    }
  });
  if (observations.length === 0) return null;
  const local = found.sort((a, b) => a.u - b.u)[0];
  return {
    pictures,
    places,
    observations,
    scenes: scenes.length,
    strengths: strengths.size,
    ...(local ? { local } : {}),
  };
}

/** The brightest bare picture that isn't clipped over much of its frame: most places can be told there. */
function referenceOf(shots: readonly GridShot[]): GridShot | null {
  const bare = shots.filter((shot) => shot.through === null && mean([...shot.grid.top]) < 0.2);
  return bare.reduce<GridShot | null>(
    (best, shot) => (best === null || medianLight(shot.grid) > medianLight(best.grid) ? shot : best),
    null,
  );
}

const sameGrid = (a: PlaceGrid, b: PlaceGrid) => a.columns === b.columns && a.rows === b.rows;

/** Middle of a square from the frame's middle, in half diagonals. */
function placeOf(square: number, { columns, rows }: PlaceGrid): { x: number; y: number } {
  const half = Math.hypot(columns, rows) / 2;
  return {
    x: ((square % columns) + 0.5 - columns / 2) / half,
    y: (Math.floor(square / columns) + 0.5 - rows / 2) / half,
  };
}

interface ChosenPlace {
  square: number;
  gray: boolean;
  /** The square that stands for the card. */
  card: number;
}

/** Even squares of a picture, those on its card, and which are as gray as it. */
function sorted(shot: GridShot, { gray }: SpeakingScene) {
  const { grid } = shot;
  const { columns, rows } = grid;
  const even = Array.from({ length: columns * rows }, (_, square) => square).filter(
    (square) => isUsable(shot, square) && isEven(grid, square),
  );
  const onCard = gray
    ? even.filter((square) => {
        const x = ((square % columns) + 0.5) / columns;
        const y = (Math.floor(square / columns) + 0.5) / rows;
        return x > gray.x && x < gray.x + gray.width && y > gray.y && y < gray.y + gray.height;
      })
    : [];
  const card = onCard.length > 0 ? onCard[onCard.length >> 1] : even[even.length >> 1];
  const tint = (square: number, c: number) => Math.log2(grid.light[3 * square + c] / grid.light[3 * square + 1]);
  const isGray = (square: number) =>
    onCard.length > 0 && [0, 2].every((c) => Math.abs(tint(square, c) - tint(card, c)) < GRAY);
  return { even, onCard, isGray, tint, card };
}

function choosePlaces(shot: GridShot, scene: SpeakingScene): ChosenPlace[] {
  const { grid } = shot;
  const { columns, rows } = grid;
  if (scene.wall) {
    const card = Math.floor(rows / 2) * columns + Math.floor(columns / 2);
    const squares = new Set([card, 0, columns - 1, (rows - 1) * columns, rows * columns - 1]);
    for (let j = 0; j < PLACES.wallRows; j++)
      for (let i = 0; i < PLACES.wallColumns; i++)
        squares.add(
          Math.floor(((j + 0.5) * rows) / PLACES.wallRows) * columns +
            Math.floor(((i + 0.5) * columns) / PLACES.wallColumns),
        );
    return [...squares].filter((square) => isUsable(shot, square)).map((square) => ({ square, gray: true, card }));
  }
  const { even, onCard, isGray, tint, card } = sorted(shot, scene);
  if (even.length === 0) return [];
  const levels = new Map<string, number[]>();
  for (const square of even) {
    const key = `${isGray(square)} ${Math.round(Math.log2(grid.light[3 * square + 1]) / PLACES.level)} ${isGray(square) ? '' : [0, 2].map((c) => Math.round(tint(square, c) / 0.3)).join()}`;
    levels.set(key, [...(levels.get(key) ?? []), square]);
  }
  const chosen = [...levels.values()].flatMap((squares) =>
    spread(squares, PLACES.aLevel).map((square) => ({ square, gray: isGray(square), card })),
  );
  const grays = chosen.filter((one) => one.gray);
  const others = chosen.filter((one) => !one.gray);
  return [
    ...(onCard.length > 0 && !grays.some(({ square }) => square === card) ? [{ square: card, gray: true, card }] : []),
    ...spread(grays, PLACES.most),
    ...spread(others, PLACES.colored),
  ];
}

/** Even squares of a picture; in an even scene all that can be used. */
export function evenSquares(shot: GridShot, scene: SpeakingScene): number[] {
  return sorted(shot, scene).even;
}

/** Even squares as gray as the card. */
function evenGrays(shot: GridShot, scene: SpeakingScene): number[] {
  const { even, isGray } = sorted(shot, scene);
  return even.filter(isGray);
}

/** At most so many of a list, evenly over it. */
function spread<T>(list: readonly T[], most: number): T[] {
  if (list.length <= most) return [...list];
  return Array.from({ length: most }, (_, i) => list[Math.floor(((i + 0.5) * list.length) / most)]);
}

function isEven({ uneven, covariance }: PlaceGrid, square: number): boolean {
  const noise = 2 * Math.sqrt(Math.max(covariance[9 * square], covariance[9 * square + 4], covariance[9 * square + 8]));
  return uneven[square] < EVEN.stops + EVEN.ofNoise * noise;
}

function isUsable({ grid: { top, zero, code, light } }: GridShot, square: number): boolean {
  if (top[square] > LEFT_OUT.top || zero[square] > LEFT_OUT.zero) return false;
  return [0, 1, 2].every((c) => {
    const eight = 255 * code[3 * square + c];
    return eight >= LEFT_OUT.darkest && eight <= LEFT_OUT.lightest && light[3 * square + c] > 0;
  });
}

/** One place in a take's pictures. */
function observed(
  repeats: readonly GridShot[],
  square: number,
  place: number,
  picture: number,
  card: number,
): PlaceEvidence {
  const n = repeats.length;
  const y = [0, 1, 2].map((c) => mean(repeats.map(({ grid }) => Math.log2(grid.light[3 * square + c]))));
  const covariance = new Float64Array(9);
  for (const { grid } of repeats)
    for (let i = 0; i < 9; i++) covariance[i] += grid.covariance[9 * square + i] / (n * n);
  const [shot] = repeats;
  const { grid, decoding, steps, bitDepth } = shot;
  const slope = [0, 1, 2].map((c) => stopsPerCode(decoding.tables[c], grid.code[3 * square + c], bitDepth));
  // Exact codes of 8 bits are rounded too, channel by channel, less what noise dithers.
  const rounding = steps
    ? compressionOfCodes(steps, grid.spread.subarray(3 * square, 3 * square + 3))
    : exactRounding(bitDepth, grid.spread[3 * square]);
  for (let a = 0; a < 3; a++)
    for (let b = 0; b < 3; b++) covariance[3 * a + b] += rounding[3 * a + b] * slope[a] * slope[b];
  if (shot.through !== null) {
    const veil = VEIL * 2 ** Math.min(6, Math.max(0, card - Math.log2(repeats[0].grid.light[3 * square + 1])));
    for (let i = 0; i < 9; i++) covariance[i] += veil * veil;
  }
  return {
    picture,
    place,
    y: y as [number, number, number],
    covariance,
    contrast: contrastAt(grid, square),
    luma: lumaAt(grid.code, square),
    gain: [0, 1, 2].map((c) => slope[c] * 255 * grid.code[3 * square + c]) as [number, number, number],
  };
}

function exactRounding(bitDepth: number, spread: number): Float64Array {
  const covariance = new Float64Array(9);
  if (bitDepth > 8) return covariance;
  const amplitude = Math.exp(-2 * (Math.PI * Math.max(spread, 0.001)) ** 2) / Math.PI / Math.SQRT2;
  for (let c = 0; c < 3; c++) covariance[4 * c] = Math.min(1 / 12, amplitude * amplitude);
  return covariance;
}
