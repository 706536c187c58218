/** Draws the viewing room on a plain canvas, where a browser has no graphics to draw with: slower and coarser, but the same light. */
import { compressed } from '@/core/viewing/display';
import { TILE } from '@/core/viewing/pyramid';
import { levelFor, placeInFrame, screenScale, type Cell, type Layer, type Painter, type Room } from './scene';
import { TileStore, type PictureKey, type StandIn } from './tiles';

interface SoftTile {
  halves: Uint16Array;
  channels: 1 | 3;
}

/** Pixels of the canvas that one drawn pixel stands for. */
const STEP = 2;

/** Frames of clips kept as codes. */
const MOST_FILMS = 12;

/** All halves as numbers. */
const HALVES = Float32Array.from({ length: 0x7c00 }, (_, bits) =>
  bits < 1024 ? bits * 2 ** -24 : (1 + (bits & 1023) / 1024) * 2 ** ((bits >> 10) - 15),
);

const encode = (light: number) => {
  const x = Math.min(1, Math.max(0, light));
  return x <= 0.0031308 ? 12.92 * x : 1.055 * x ** (1 / 2.4) - 0.055;
};

export class SoftPainter implements Painter {
  private readonly context: CanvasRenderingContext2D;
  private readonly store: TileStore<SoftTile>;
  private readonly films = new Map<string, Uint8ClampedArray>();

  /**
   * @param coarse draws every picture from its one smallest tile, smoothed: what is there first
   */
  constructor(
    canvas: HTMLCanvasElement,
    onChange: () => void,
    private readonly coarse = false,
  ) {
    const context = canvas.getContext('2d', { alpha: false });
    if (!context) throw new Error('This browser can’t draw.');
    this.context = context;
    this.store = new TileStore<SoftTile>(
      (halves, channels) => ({ halves, channels }),
      () => undefined,
      onChange,
    );
  }

  /** Reads a layer's light at points of a cell; `null` outside. The levels that may stand in are found once. */
  private reader(layer: Layer, room: Room, cell: Cell): (x: number, y: number) => [number, number, number] | null {
    const pyramid = layer.passing ? null : this.store.pyramid(layer.key);
    const small = layer.film ?? this.store.standIn(layer.key);
    const film = small && this.filmReader(layer, small);
    if (!pyramid)
      return (px, py) => {
        const [x, y] = placeInFrame(px, py, layer, room, cell);
        return film && x >= 0 && y >= 0 && x < layer.frame.width && y < layer.frame.height ? film(x, y) : null;
      };
    const coarsest = pyramid.levels.length - 1;
    const finest = this.coarse ? coarsest : levelFor(pyramid, STEP / screenScale(layer, room, cell));
    // Neighbors lie in one tile nearly always: each is asked for once.
    const known = new Map<number, SoftTile | null>();
    const tileOf = (level: number, column: number, row: number) => {
      const at = (level * 4096 + row) * 4096 + column;
      let tile = known.get(at);
      if (tile === undefined) {
        const wanted = level === coarsest ? 'first' : level === finest;
        tile = this.store.get(layer.key, { level, column, row }, pyramid.channels, wanted);
        known.set(at, tile);
      }
      return tile;
    };
    return (px, py) => {
      const [x, y] = placeInFrame(px, py, layer, room, cell);
      if (x < 0 || y < 0 || x >= layer.frame.width || y >= layer.frame.height) return null;
      for (let level = finest; level <= coarsest; level++) {
        const { width, height } = pyramid.levels[level];
        const [u, v] = [
          Math.min(width - 1, Math.floor(x / 2 ** level)),
          Math.min(height - 1, Math.floor(y / 2 ** level)),
        ];
        const tile = tileOf(level, Math.floor(u / TILE), Math.floor(v / TILE));
        if (!tile) continue;
        const at = ((v % TILE) * TILE + (u % TILE)) * tile.channels;
        const light = (c: number) => HALVES[tile.halves[at + (tile.channels === 3 ? c : 0)]];
        return [light(0), light(1), light(2)];
      }
      return film ? film(x, y) : null;
    };
  }

  /** Light of a clip's small frame at places of the layer's own frame. */
  private filmReader(
    { frame }: Layer,
    { id, picture, curves }: StandIn,
  ): (x: number, y: number) => [number, number, number] {
    const { width, height } = picture;
    let codes = this.films.get(id);
    if (!codes) {
      const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
      context.drawImage(picture, 0, 0);
      codes = context.getImageData(0, 0, width, height).data;
      for (const old of this.films.keys()) {
        if (this.films.size < MOST_FILMS) break;
        this.films.delete(old);
      }
      this.films.set(id, codes);
    }
    const read = codes;
    return (x, y) => {
      const at = 4 * (Math.floor((y / frame.height) * height) * width + Math.floor((x / frame.width) * width));
      return [curves[0][read[at]], curves[1][read[at + 1]], curves[2][read[at + 2]]];
    };
  }

  draw(room: Room): void {
    this.store.beginDrawing();
    const grayCode = Math.round(255 * room.gray);
    this.context.fillStyle = `rgb(${grayCode},${grayCode},${grayCode})`;
    this.context.fillRect(0, 0, room.width, room.height);
    for (const cell of room.cells) this.drawCell(cell, room, grayCode);
    this.store.endDrawing();
  }

  private drawCell(cell: Cell, room: Room, gray: number): void {
    const [width, height] = [Math.ceil(cell.width / STEP), Math.ceil(cell.height / STEP)];
    const image = new ImageData(width, height, { colorSpace: room.gamut });
    const readA = this.reader(cell.a, room, cell);
    const readB = cell.b ? this.reader(cell.b, room, cell) : readA;
    const radians = (room.wipe.angle * Math.PI) / 180;
    const [nx, ny] = [Math.cos(radians), Math.sin(radians)];
    for (let j = 0; j < height; j++)
      for (let i = 0; i < width; i++) {
        const [x, y] = [STEP * (i + 0.5), STEP * (j + 0.5)];
        const second =
          cell.b !== null &&
          cell.mode === 'wipe' &&
          (x - room.wipe.x * cell.width) * nx + (y - room.wipe.y * cell.height) * ny >= 0;
        const color =
          cell.b && (cell.mode === 'difference' || cell.mode === 'ratio')
            ? compareAt(readA(x, y), readB(x, y), cell)
            : shownOf((second ? readB : readA)(x, y), second ? cell.b! : cell.a);
        const at = 4 * (j * width + i);
        for (let c = 0; c < 3; c++) image.data[at + c] = color ? Math.round(255 * color[c]) : gray;
        image.data[at + 3] = 255;
      }
    const small = new OffscreenCanvas(width, height);
    small.getContext('2d')!.putImageData(image, 0, 0);
    this.context.imageSmoothingEnabled = this.coarse;
    this.context.drawImage(small, cell.x, cell.y, cell.width, cell.height);
  }

  probe(room: Room, index: number, which: 'a' | 'b', x: number, y: number, halfSide: number) {
    const cell = room.cells[index];
    const layer = cell?.[which];
    if (!layer) return null;
    const read = this.reader(layer, room, cell);
    const sum = [0, 0, 0];
    let count = 0;
    for (let dy = -halfSide; dy <= halfSide; dy++)
      for (let dx = -halfSide; dx <= halfSide; dx++) {
        const light = read(x + dx, y + dy);
        if (!light) continue;
        light.forEach((value, c) => (sum[c] += value));
        count++;
      }
    return count === 0 ? null : ([sum[0] / count, sum[1] / count, sum[2] / count] as [number, number, number]);
  }

  sample(room: Room, index: number, which: 'a' | 'b'): Float32Array {
    const cell = room.cells[index];
    const layer = cell?.[which];
    if (!layer) return new Float32Array(0);
    const read = this.reader(layer, room, cell);
    const step = Math.max(1, Math.max(cell.width, cell.height) / 128);
    const light: number[] = [];
    for (let y = step / 2; y < cell.height; y += step)
      for (let x = step / 2; x < cell.width; x += step) light.push(...(read(x, y) ?? []));
    return Float32Array.from(light);
  }

  problem(key: PictureKey): string | null {
    return this.store.problem(key);
  }

  get begun(): boolean {
    return this.store.begun;
  }

  get settled(): boolean {
    return this.store.settled;
  }

  dispose(): void {
    this.store.leave();
  }
}

type Color = [number, number, number];

function shownOf(light: Color | null, layer: Layer): Color | null {
  if (!light) return null;
  const m = layer.toScreen;
  const raised = light.map((value, c) => value * layer.gains[c]);
  const out = [0, 3, 6].map(
    (row) => (m[row] * raised[0] + m[row + 1] * raised[1] + m[row + 2] * raised[2]) / layer.white,
  );
  return out.map((value) => encode(layer.white < 1 ? compressed(Math.max(0, value)) : value)) as Color;
}

function compareAt(a: Color | null, b: Color | null, cell: Cell): Color | null {
  if (!a || !b) return null;
  if (cell.mode === 'difference') {
    const [first, second] = [shownOf(a, cell.a)!, shownOf(b, cell.b!)!];
    return first.map((value, c) => Math.min(1, Math.max(0, 0.5 + 4 * (second[c] - value)))) as Color;
  }
  const of = (light: Color, layer: Layer) =>
    light.reduce((sum, value, c) => sum + value * layer.gains[c] * layer.luminance[c], 0);
  const [la, lb] = [of(a, cell.a), of(b, cell.b!)];
  if (!(la > 1e-6 && lb > 1e-6)) return [0, 0, 0];
  const s = Math.min(1, Math.max(-1, Math.round(10 * Math.log2(lb / la)) / 10));
  const end = s < 0 ? [0.1, 0.28, 0.62] : [0.86, 0.42, 0.05];
  return end.map((value) => 0.78 + (value - 0.78) * Math.abs(s)) as Color;
}
