/** Draws the viewing room with WebGL2: tiles into a layer of half floats a picture, layers into the canvas. */
import * as twgl from 'twgl.js';
import { TILE, type Pyramid } from '@/core/viewing/pyramid';
import {
  levelFor,
  placeInCell,
  screenScale,
  tilesInView,
  type Cell,
  type Layer,
  type Painter,
  type PlacedTile,
  type Room,
} from './scene';
import { cellFragment, CELL_VERTEX, FILM_FRAGMENT, TILE_FRAGMENT, TILE_VERTEX, type CellKind } from './shaders';
import { TileStore, type PictureKey, type StandIn } from './tiles';

/** Side of the coarse layer that histograms are made of. */
const SAMPLES = 128;

interface Target {
  framebuffer: twgl.FramebufferInfo;
  width: number;
  height: number;
  /** Whether there is a picture in it. */
  drawn: boolean;
}

/** Three hundredths of full scale, as of the pictures' own codes. */
const DARK_FILM_CODE = 8;
/** Frames of clips kept on the graphics side. */
const MOST_FILM_TEXTURES = 24;

const clipSpace = ([x, y]: readonly [number, number], cell: Cell) => [
  (2 * x) / cell.width - 1,
  1 - (2 * y) / cell.height,
];

const columnsFirst = (m: readonly number[]) => [m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8]];

/** Throws where the browser has no WebGL2 that can draw into half floats. */
export class GlPainter implements Painter {
  private readonly gl: WebGL2RenderingContext;
  private readonly programs = new Map<string, twgl.ProgramInfo>();
  private readonly store: TileStore<WebGLTexture>;
  private readonly targets: Target[] = [];
  private readonly films = new Map<string, WebGLTexture>();
  private readonly curves = new WeakMap<readonly Float32Array[], WebGLTexture>();

  constructor(canvas: HTMLCanvasElement | OffscreenCanvas, onChange: () => void) {
    const gl = canvas.getContext('webgl2', { alpha: false, antialias: false, preserveDrawingBuffer: true });
    if (!gl || !(gl as WebGL2RenderingContext).getExtension('EXT_color_buffer_float'))
      throw new Error('This browser has no WebGL2 that can draw into floats.');
    this.gl = gl as WebGL2RenderingContext;
    this.store = new TileStore<WebGLTexture>(
      (halves, channels) => this.textureOf(halves, channels),
      (texture) => this.gl.deleteTexture(texture),
      onChange,
    );
  }

  /** A program, made when it is first drawn with. */
  private program(vertex: string, fragment: string): twgl.ProgramInfo {
    let found = this.programs.get(fragment);
    if (!found) {
      found = twgl.createProgramInfo(this.gl, [vertex, fragment]);
      this.programs.set(fragment, found);
    }
    return found;
  }

  private cellProgram(kind: CellKind): twgl.ProgramInfo {
    return this.program(CELL_VERTEX, cellFragment(kind));
  }

  private textureOf(halves: Uint16Array<ArrayBuffer>, channels: 1 | 3): WebGLTexture {
    const { gl } = this;
    const texture = gl.createTexture();
    gl.bindTexture(gl.TEXTURE_2D, texture);
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 2);
    const [inside, format] = channels === 3 ? [gl.RGB16F, gl.RGB] : [gl.R16F, gl.RED];
    gl.texImage2D(gl.TEXTURE_2D, 0, inside, TILE, TILE, 0, format, gl.HALF_FLOAT, halves);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_WRAP_S, gl.CLAMP_TO_EDGE);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_WRAP_T, gl.CLAMP_TO_EDGE);
    return texture;
  }

  /** A layer to draw into; layers of one size are used again. */
  private target(index: number, width: number, height: number): Target {
    const known = this.targets[index];
    if (known?.width === width && known.height === height) return known;
    const attachments = [{ internalFormat: this.gl.RGBA16F, minMag: this.gl.NEAREST, wrap: this.gl.CLAMP_TO_EDGE }];
    if (known) {
      twgl.resizeFramebufferInfo(this.gl, known.framebuffer, attachments, width, height);
      known.width = width;
      known.height = height;
      return known;
    }
    const framebuffer = twgl.createFramebufferInfo(this.gl, attachments, width, height);
    const made = { framebuffer, width, height, drawn: false };
    this.targets[index] = made;
    return made;
  }

  draw(room: Room): void {
    const { gl } = this;
    this.store.beginDrawing();
    gl.drawingBufferColorSpace = room.gamut;
    twgl.bindFramebufferInfo(gl, null);
    gl.viewport(0, 0, room.width, room.height);
    gl.disable(gl.SCISSOR_TEST);
    gl.clearColor(room.gray, room.gray, room.gray, 1);
    gl.clear(gl.COLOR_BUFFER_BIT);
    room.cells.forEach((cell) => {
      const [a, b] = [this.drawLayer(0, cell.a, cell, room), cell.b ? this.drawLayer(1, cell.b, cell, room) : null];
      // Where nothing has come yet the room's gray is there already.
      if (a.drawn || b?.drawn) this.compose(cell, room, a, b ?? a);
    });
    this.store.endDrawing();
  }

  private drawLayer(index: number, layer: Layer, cell: Cell, room: Room): Target {
    const { gl } = this;
    const target = this.target(index, cell.width, cell.height);
    twgl.bindFramebufferInfo(gl, target.framebuffer);
    gl.viewport(0, 0, cell.width, cell.height);
    gl.clearColor(0, 0, 0, 0);
    gl.clear(gl.COLOR_BUFFER_BIT);
    const film = layer.film ?? this.store.standIn(layer.key);
    target.drawn = film !== null;
    if (film) this.drawFilm(layer, film, room, cell);
    const pyramid = layer.passing ? null : this.store.pyramid(layer.key);
    if (!pyramid) return target;
    const program = this.program(TILE_VERTEX, TILE_FRAGMENT);
    gl.useProgram(program.program);
    const scale = screenScale(layer, room, cell);
    const finest = levelFor(pyramid, 1 / scale);
    const coarsest = pyramid.levels.length - 1;
    const filter = finest === 0 && scale >= 1 ? gl.NEAREST : gl.LINEAR;
    // The coarse picture stands under the fine one until all of its tiles have come; only the two ends are asked for.
    const ready = new Map<number, [PlacedTile, WebGLTexture][]>();
    for (let level = finest; level <= coarsest; level++) {
      const tiles = tilesInView(level, pyramid.levels[level], layer, room, cell);
      const there = tiles.flatMap((tile): [PlacedTile, WebGLTexture][] => {
        const wanted = level === coarsest ? 'first' : level === finest;
        const texture = this.store.get(layer.key, tile, pyramid.channels, wanted);
        return texture ? [[tile, texture]] : [];
      });
      ready.set(level, there);
      if (there.length === tiles.length) break;
    }
    for (const [level, tiles] of [...ready].reverse())
      for (const [tile, texture] of tiles) {
        this.drawTile(program, tile, texture, level === 0 ? filter : gl.LINEAR, pyramid, cell);
        target.drawn = true;
      }
    return target;
  }

  private drawFilm(layer: Layer, film: StandIn, room: Room, cell: Cell): void {
    const { gl } = this;
    const { width, height } = layer.frame;
    const corners = [
      [0, 0],
      [width, 0],
      [0, height],
      [width, height],
    ].flatMap(([x, y]) => clipSpace(placeInCell(x, y, layer, room, cell), cell));
    const program = this.program(TILE_VERTEX, FILM_FRAGMENT);
    gl.useProgram(program.program);
    twgl.setUniforms(program, {
      film: this.filmTexture(film),
      curves: this.curveTexture(film.curves),
      part: [1, 1],
      corners,
    });
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
  }

  private filmTexture({ id, picture }: StandIn): WebGLTexture {
    const { gl } = this;
    const known = this.films.get(id);
    if (known) return known;
    // A frame or two a cell: those that were drawn last go on, the others won't come again soon.
    for (const [old, texture] of this.films) {
      if (this.films.size < MOST_FILM_TEXTURES) break;
      gl.deleteTexture(texture);
      this.films.delete(old);
    }
    const texture = this.plainTexture(gl.LINEAR);
    gl.pixelStorei(gl.UNPACK_COLORSPACE_CONVERSION_WEBGL, gl.NONE);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA, gl.RGBA, gl.UNSIGNED_BYTE, picture);
    this.films.set(id, texture);
    return texture;
  }

  private curveTexture(curves: readonly Float32Array[]): WebGLTexture {
    const { gl } = this;
    const known = this.curves.get(curves);
    if (known) return known;
    const texture = this.plainTexture(gl.NEAREST);
    const data = new Float32Array(256 * 4);
    for (let code = 0; code < 256; code++) for (let c = 0; c < 3; c++) data[4 * code + c] = curves[c][code];
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, 256, 1, 0, gl.RGBA, gl.FLOAT, data);
    this.curves.set(curves, texture);
    return texture;
  }

  private plainTexture(filter: number): WebGLTexture {
    const { gl } = this;
    const texture = gl.createTexture();
    gl.bindTexture(gl.TEXTURE_2D, texture);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, filter);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, filter);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_WRAP_S, gl.CLAMP_TO_EDGE);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_WRAP_T, gl.CLAMP_TO_EDGE);
    return texture;
  }

  private drawTile(
    program: twgl.ProgramInfo,
    tile: PlacedTile,
    texture: WebGLTexture,
    filter: number,
    { channels }: Pyramid,
    cell: Cell,
  ): void {
    const { gl } = this;
    gl.bindTexture(gl.TEXTURE_2D, texture);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, filter);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, filter);
    twgl.setUniforms(program, {
      tile: texture,
      mono: channels === 1,
      part: [tile.u, tile.v],
      corners: tile.corners.flatMap((corner) => clipSpace(corner, cell)),
    });
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
  }

  private compose(cell: Cell, room: Room, a: Target, b: Target): void {
    const { gl } = this;
    twgl.bindFramebufferInfo(gl, null);
    gl.viewport(cell.x, room.height - cell.y - cell.height, cell.width, cell.height);
    const other = cell.b ?? cell.a;
    const program = this.cellProgram({
      mode: cell.b ? cell.mode : 'single',
      marks: room.marks,
      compresses: Math.min(cell.a.white, other.white) < 1,
    });
    gl.useProgram(program.program);
    const [limitsA, limitsB] = [this.limits(cell.a), this.limits(other)];
    twgl.setUniforms(program, {
      a: a.framebuffer.attachments[0],
      b: b.framebuffer.attachments[0],
      gainsA: cell.a.gains,
      gainsB: other.gains,
      whites: [cell.a.white, other.white],
      toScreenA: columnsFirst(cell.a.toScreen),
      toScreenB: columnsFirst(other.toScreen),
      luminanceA: cell.a.luminance,
      luminanceB: other.luminance,
      cell: [cell.width, cell.height],
      wipe: [room.wipe.x, room.wipe.y, (room.wipe.angle * Math.PI) / 180],
      gray: room.gray,
      topA: limitsA.top,
      topB: limitsB.top,
      darkA: limitsA.dark,
      darkB: limitsB.dark,
    });
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
  }

  private limits({ key, film, passing }: Layer): { top: number[]; dark: number[] } {
    const pyramid = passing ? null : this.store.pyramid(key);
    const three = (list: number[]) => [list[0], list[1] ?? list[0], list[2] ?? list[0]];
    if (pyramid) return { top: three(pyramid.top), dark: three(pyramid.dark) };
    const at = (code: number) => (film ? film.curves.map((curve) => curve[code]) : null);
    return { top: at(255) ?? [1, 1, 1], dark: at(DARK_FILM_CODE) ?? [0, 0, 0] };
  }

  probe(
    room: Room,
    index: number,
    which: 'a' | 'b',
    x: number,
    y: number,
    halfSide: number,
  ): [number, number, number] | null {
    const cell = room.cells[index];
    const layer = cell?.[which];
    if (!layer) return null;
    this.drawLayer(0, layer, cell, room);
    const [left, top] = [Math.max(0, Math.round(x) - halfSide), Math.max(0, Math.round(y) - halfSide)];
    const width = Math.min(cell.width, Math.round(x) + halfSide + 1) - left;
    const height = Math.min(cell.height, Math.round(y) + halfSide + 1) - top;
    if (width <= 0 || height <= 0) return null;
    const data = new Float32Array(width * height * 4);
    this.gl.readPixels(left, cell.height - top - height, width, height, this.gl.RGBA, this.gl.FLOAT, data);
    const sum = [0, 0, 0];
    let count = 0;
    for (let i = 0; i < data.length; i += 4) {
      if (data[i + 3] < 0.5) continue;
      for (let c = 0; c < 3; c++) sum[c] += data[i + c];
      count++;
    }
    return count === 0 ? null : [sum[0] / count, sum[1] / count, sum[2] / count];
  }

  sample(room: Room, index: number, which: 'a' | 'b'): Float32Array {
    const cell = room.cells[index];
    const layer = cell?.[which];
    if (!layer) return new Float32Array(0);
    // The same view in a smaller cell.
    const shrink = Math.min(1, SAMPLES / Math.max(cell.width, cell.height));
    const [width, height] = [cell.width, cell.height].map((side) => Math.max(1, Math.round(side * shrink)));
    const small = { ...cell, width, height };
    const coarse = { ...room, view: { ...room.view, scale: room.view.scale * shrink } };
    this.drawLayer(2, layer, small, coarse);
    const data = new Float32Array(width * height * 4);
    this.gl.readPixels(0, 0, width, height, this.gl.RGBA, this.gl.FLOAT, data);
    const light: number[] = [];
    for (let i = 0; i < data.length; i += 4) if (data[i + 3] >= 0.5) light.push(data[i], data[i + 1], data[i + 2]);
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
    // The context goes with its canvas; a page that is only hidden for a moment needs it again.
    this.store.leave();
  }
}
