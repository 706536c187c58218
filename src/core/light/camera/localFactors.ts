/** What a camera that changes contrast place by place did to each place of a picture, to be taken off again. */
import type { Tables } from '../decoding';
import { stopsPerCode } from './compression';
import { fromMiddle } from './localTone';
import type { ResponseEstimate } from './model';
import { contrastAt, lumaAt, type PlaceGrid } from './placeGrid';

/** Local tone counts as found where it is so many times its uncertainty, and larger than this. */
const FOUND = { times: 5, least: 0.01 };

/** Whether pictures show beyond doubt that contrast is changed place by place. */
export const isLocal = ({ localSeen }: Pick<ResponseEstimate, 'localSeen'>): boolean =>
  localSeen !== null && Math.abs(localSeen.value) > Math.max(FOUND.least, FOUND.times * localSeen.u);

/** Log2 of what local tone made of the declared light, for a channel, at a place in shares of the frame. */
export type LocalFactors = (channel: number, x: number, y: number) => number;

/** What a gain on contrast that was found, and taken off, may still be wrong by: a share of it. */
export const LEFT_OF_FOUND = 0.15;

/** The same gain with what isn't known of it in its place: where nothing shows it, all of it. */
export function doubtOfLocal({ local, localSeen }: Pick<ResponseEstimate, 'local' | 'localSeen'>) {
  const share = isLocal({ localSeen }) ? LEFT_OF_FOUND : 1;
  return { local: { ...local, value: Math.hypot(share * local.value, local.u) } };
}

/**
 * The same effect as {@link ResponseEstimate.local} has in the estimate: gain on contrast with the surroundings, by luma, times the stops
 * that e-fold more code is there. Between the squares' middles straight lines.
 */
export function localFactors(
  grid: PlaceGrid,
  { local }: Pick<ResponseEstimate, 'local'>,
  tables: Tables,
  bitDepth: number,
): LocalFactors {
  const { columns, rows, code } = grid;
  const drawn = new Float64Array(3 * columns * rows);
  for (let square = 0; square < columns * rows; square++) {
    const [inDark, inLight] = fromMiddle(lumaAt(code, square), local.luma);
    const gain = local.value * Math.exp(local.inDark * inDark + local.inLight * inLight);
    const contrast = gain * contrastAt(grid, square);
    for (let c = 0; c < 3; c++) {
      const share = code[3 * square + c];
      drawn[3 * square + c] = contrast * stopsPerCode(tables[c], share, bitDepth) * 255 * share;
    }
  }
  const between = (at: number, count: number) => {
    const inside = Math.min(count - 1, Math.max(0, at * count - 0.5));
    const first = Math.min(Math.max(0, count - 2), Math.floor(inside));
    return { first, share: inside - first, next: Math.min(count - 1, first + 1) };
  };
  return (channel, x, y) => {
    const across = between(x, columns);
    const down = between(y, rows);
    const of = (row: number, column: number) => drawn[3 * (row * columns + column) + channel];
    const along = (row: number) => of(row, across.first) * (1 - across.share) + of(row, across.next) * across.share;
    return along(down.first) * (1 - down.share) + along(down.next) * down.share;
  };
}
