/** What the viewing room draws: one immutable description, whoever draws it. */
import { TILE, type Pyramid, type PyramidLevel } from '@/core/viewing/pyramid';
import type { Frame, View, Wipe } from './viewport';
import type { Gamut } from '@/core/viewing/display';
import type { Pose } from '@/core/laying/align';
import type { PictureKey, StandIn, Tile } from './tiles';

export interface Layer {
  key: PictureKey;
  /** A small frame of a clip that stands in, or `null`. */
  film: StandIn | null;
  /** It is only passing by: its own pixels aren't asked for. */
  passing: boolean;
  frame: Frame;
  /** From the bare frame to this one. */
  pose: Pose;
  gains: readonly [number, number, number];
  /** Linear light that is white; below 1 it is HDR, and compressed. */
  white: number;
  /** Its rig's linear RGB to linear RGB of the screen, row-major, and weights of luminance. */
  toScreen: readonly number[];
  luminance: readonly number[];
}

export type CellMode = 'single' | 'wipe' | 'difference' | 'ratio';

export interface Cell {
  /** Pixels of the canvas, from its left upper corner. */
  x: number;
  y: number;
  width: number;
  height: number;
  mode: CellMode;
  a: Layer;
  b: Layer | null;
  /** Its own view: a loupe's. */
  view?: View;
}

export interface Room {
  width: number;
  height: number;
  cells: Cell[];
  view: View;
  /** Frame that the view counts in. */
  frame: Frame;
  wipe: Wipe;
  /** Lightness of the room, linear 0–1. */
  gray: number;
  /** Primaries that the canvas is handed over in. */
  gamut: Gamut;
  /** Marks what is clipped or too dark. */
  marks: boolean;
}

/** Draws rooms on a canvas and reads light back from them. */
export interface Painter {
  draw(room: Room): void;
  /** Mean linear camera RGB of a square around a point of a cell's layer, before any gain; `null` outside the picture. */
  probe(
    room: Room,
    cell: number,
    layer: 'a' | 'b',
    x: number,
    y: number,
    halfSide: number,
  ): [number, number, number] | null;
  /** Linear camera RGB of what a cell's layer shows, coarsely: three numbers a sample. */
  sample(room: Room, cell: number, layer: 'a' | 'b'): Float32Array;
  /** Why a picture can't be shown. */
  problem(key: PictureKey): string | null;
  /** Whether anything of any picture has come. */
  readonly begun: boolean;
  /** Whether all tiles in view have come. */
  readonly settled: boolean;
  dispose(): void;
}

/** The level whose pixels are no larger than the screen's, as far as there is one. */
export function levelFor({ levels }: Pyramid, pixelsPerScreen: number): number {
  return Math.max(0, Math.min(levels.length - 1, Math.floor(Math.log2(Math.max(1, pixelsPerScreen)) + 0.01)));
}

type Posed = Pick<Layer, 'pose' | 'frame'>;
type Seen = Pick<Room, 'view' | 'frame'>;
type Sight = Frame & { view?: View };

/** Where a point of a layer's frame (its pixels) lies in a cell, pixels from the cell's left upper corner. */
export function placeInCell(
  x: number,
  y: number,
  { pose: { dx, dy, a, b }, frame: own }: Posed,
  { view: common, frame }: Seen,
  cell: Sight,
): [number, number] {
  const view = cell.view ?? common;
  // Frames of other sizes (another camera beside) are laid on by their width.
  const size = frame.width / own.width;
  const [u, v] = [(x - own.width / 2) * size - dx, (y - own.height / 2) * size - dy];
  const norm = (1 + a) ** 2 + b ** 2;
  const bx = ((1 + a) * u + b * v) / norm + frame.width / 2;
  const by = (-b * u + (1 + a) * v) / norm + frame.height / 2;
  return [(bx - view.x) * view.scale + cell.width / 2, (by - view.y) * view.scale + cell.height / 2];
}

/** Where a point of a cell lies in a layer's frame: the way back. */
export function placeInFrame(
  px: number,
  py: number,
  { pose: { dx, dy, a, b }, frame: own }: Posed,
  { view: common, frame }: Seen,
  cell: Sight,
): [number, number] {
  const view = cell.view ?? common;
  const size = frame.width / own.width;
  const x = (px - cell.width / 2) / view.scale + view.x - frame.width / 2;
  const y = (py - cell.height / 2) / view.scale + view.y - frame.height / 2;
  return [((1 + a) * x - b * y + dx) / size + own.width / 2, (b * x + (1 + a) * y + dy) / size + own.height / 2];
}

export interface PlacedTile extends Tile {
  /** Corners in the cell: left upper, right upper, left lower, right lower. */
  corners: [number, number][];
  /** Share of the tile that holds picture. */
  u: number;
  v: number;
}

/** Tiles of one level that a cell sees. */
export function tilesInView(
  level: number,
  { width, height, columns, rows }: PyramidLevel,
  layer: Layer,
  room: Room,
  cell: Cell,
): PlacedTile[] {
  const step = 2 ** level;
  const corner = ([px, py]: readonly [number, number]) => placeInFrame(px, py, layer, room, cell);
  const seen = (
    [
      [0, 0],
      [cell.width, 0],
      [0, cell.height],
      [cell.width, cell.height],
    ] as const
  ).map(corner);
  const range = (axis: 0 | 1, count: number) => {
    const values = seen.map((one) => one[axis] / step / TILE);
    return [Math.max(0, Math.floor(Math.min(...values))), Math.min(count - 1, Math.floor(Math.max(...values)))];
  };
  const [[left, right], [top, bottom]] = [range(0, columns), range(1, rows)];
  const found: PlacedTile[] = [];
  for (let row = top; row <= bottom; row++)
    for (let column = left; column <= right; column++) {
      const [w, h] = [Math.min(TILE, width - column * TILE), Math.min(TILE, height - row * TILE)];
      const at = (u: number, v: number) =>
        placeInCell(
          Math.min(layer.frame.width, (column * TILE + u) * step),
          Math.min(layer.frame.height, (row * TILE + v) * step),
          layer,
          room,
          cell,
        );
      found.push({
        level,
        column,
        row,
        corners: [at(0, 0), at(w, 0), at(0, h), at(w, h)],
        u: w / TILE,
        v: h / TILE,
      });
    }
  return found;
}

/** Screen pixels that one pixel of the layer covers. */
export function screenScale({ frame: own }: Layer, { view, frame }: Room, cell: Cell): number {
  return ((cell.view ?? view).scale * frame.width) / own.width;
}
