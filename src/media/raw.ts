/**
 * Raw stills through Debian's LibRaw tools: the mosaic's own codes, no white balance, no camera matrix. Black is taken off by the
 * response, not here: codes below black stay, so that dark frames keep their mean.
 */
import { mkdtemp, readdir, readFile, rm, symlink } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import exifr from 'exifr';
import { lookOf } from '@/core/sitting/intake/look';
import type { Picture, PixelRect } from '@/core/reading/window';
import { previewOf, type Preview } from '@/core/laying/preview';
import type { OpenPicture } from '@/core/reading/source';
import { UnreadablePicture, type PictureFacts } from '@/core/reading/facts';
import { ChildFailed, runChild } from './children';
import { readExif } from './exif';
import type { Inspected } from './stills';
import { exchangesSides, storedRect, upright } from './orientation';

const ENDINGS = /\.(dng|raw|cr2|cr3|nef|arw|raf|orf|rw2|pef|srw)$/i;
const LIMITS = { seconds: 60, memory: 4_000_000_000 } as const;
const TOP = 65535;
const MOST_PIXELS = 250_000_000;

/** Channel (0 R, 1 G, 2 B) of the four places of the mosaic's cell, row by row. */
type Cell = readonly [number, number, number, number];

interface Mosaic {
  width: number;
  height: number;
  codes: Uint16Array;
  cell: Cell;
  white: number;
}

export function isRaw(name: string): boolean {
  return ENDINGS.test(name);
}

/** Facts and look of a raw still that was read to its end. Throws UnreadablePicture. */
export async function inspectRaw(path: string, name: string): Promise<Inspected> {
  const { facts, mosaic, orientation } = await readMosaic(path, name);
  return { facts, look: lookOf(upright(cellsOf(mosaic), orientation)) };
}

/** Opens a raw still, upright, colors between the mosaic's samples by straight lines. Rejects with UnreadablePicture. */
export async function openRaw(path: string, name: string, signal?: AbortSignal): Promise<OpenPicture> {
  const read = await readMosaic(path, name, signal);
  const { facts, orientation } = read;
  let mosaic: Mosaic | null = read.mosaic;
  return {
    facts,
    preview: greenPreview(mosaic, orientation),
    windows: async (rects) => {
      const { width, height } = mosaic!;
      return rects.map((rect) => upright(demosaic(mosaic!, storedRect(orientation, rect, width, height)), orientation));
    },
    close: () => (mosaic = null),
  };
}

async function readMosaic(
  path: string,
  name: string,
  signal?: AbortSignal,
): Promise<{ facts: PictureFacts; mosaic: Mosaic; orientation: number }> {
  const { cell, black, orientation: flip } = await identify(path, name);
  const [exif, white] = [await readExif(path), await whiteLevel(path)];
  const orientation = exif.orientation !== 1 ? exif.orientation : flip;
  const mosaic = { ...(await unpack(path, name, signal)), cell, white };
  const { width, height } = mosaic;
  const facts: PictureFacts = {
    width: exchangesSides(orientation) ? height : width,
    height: exchangesSides(orientation) ? width : height,
    channels: 3,
    bitDepth: 16,
    encoding: { transfer: { black, white }, source: 'raw file', toXyz: null, profile: null },
    exposure: exif.exposure,
    capturedAt: exif.capturedAt,
    // A raw file's codes come before any white balance.
    whiteBalance: null,
    ...(exif.lens === null ? {} : { lens: exif.lens }),
    raw: true,
  };
  return { facts, mosaic, orientation };
}

/** Cells looked at across, at most. */
const LOOK_CELLS = 1000;

/** One pixel for every nth cell of the mosaic: its own red, green and blue samples; a full well is the top code. */
function cellsOf({ width, height, codes, cell, white }: Mosaic): Picture {
  const step = Math.max(1, Math.ceil((width >> 1) / LOOK_CELLS));
  const [columns, rows] = [Math.floor((width >> 1) / step), Math.floor((height >> 1) / step)];
  const places = [0, 1, 2].map((color) => cell.indexOf(color as 0 | 1 | 2));
  const data = new Uint16Array(columns * rows * 3);
  for (let y = 0, out = 0; y < rows; y++)
    for (let x = 0; x < columns; x++)
      for (const place of places) {
        const code = codes[(2 * step * y + (place >> 1)) * width + 2 * step * x + (place & 1)];
        data[out++] = code >= white ? TOP : Math.min(TOP - 1, code);
      }
  return { width: columns, height: rows, channels: 3, bitDepth: 16, data };
}

/** Pattern, black level and flip, as LibRaw tells them. */
async function identify(path: string, name: string) {
  const text = await run('raw-identify', ['-v', path], { output: 1_000_000, name, reads: path }).then((output) =>
    output.toString('latin1'),
  );
  const letters = /Filter pattern: ([A-Z]{4})/.exec(text)?.[1];
  if (!letters) throw new UnreadablePicture(name, 'it is no raw still that can be read here, or it is damaged.');
  const cell = [...letters].map((letter) => 'RGB'.indexOf(letter));
  if (cell.length !== 4 || cell.filter((one) => one === 1).length !== 2 || cell.includes(-1))
    throw new UnreadablePicture(name, 'its mosaic isn’t made of red, two greens and blue, which alone can be read.');
  // LibRaw's flips: 3 upside down, 5 a quarter counter-clockwise, 6 a quarter clockwise.
  const flip = Number(/Image flip: (\d+)/.exec(text)?.[1] ?? 0);
  return {
    cell: cell as unknown as Cell,
    black: Number(/^black: (\d+)/m.exec(text)?.[1] ?? 0),
    orientation: { 3: 3, 5: 8, 6: 6 }[flip] ?? 1,
  };
}

/** The level where the sensor is full; the top code where the file doesn't say. */
async function whiteLevel(path: string): Promise<number> {
  const tags = (await exifr.parse(path, { reviveValues: false, translateValues: false }).catch(() => undefined)) as
    { WhiteLevel?: number | ArrayLike<number> } | undefined;
  const told = tags?.WhiteLevel;
  const level = typeof told === 'number' ? told : told?.[0];
  return level !== undefined && level > 0 && level < TOP ? level : TOP - 1;
}

/** The mosaic's codes. The tool writes beside its input: it gets a link in a folder of its own. */
async function unpack(
  path: string,
  name: string,
  signal?: AbortSignal,
): Promise<Pick<Mosaic, 'width' | 'height' | 'codes'>> {
  const folder = await mkdtemp(join(tmpdir(), 'glade-raw-'));
  try {
    const link = join(folder, 'in.raw');
    await symlink(resolve(path), link);
    await run('unprocessed_raw', ['-q', link], { output: 100_000, name, reads: link, writes: folder }, signal);
    // A link would have us read something else.
    const written = (await readdir(folder, { withFileTypes: true })).find(
      (one) => one.isFile() && one.name.endsWith('.pgm'),
    );
    const file = written === undefined ? null : await readFile(join(folder, written.name));
    const header = file && /^P5\s+(\d+)\s+(\d+)\s+(\d+)\s/.exec(file.toString('latin1', 0, 40));
    if (!file || !header) throw new UnreadablePicture(name, 'the file is cut short or damaged.');
    const [width, height] = [Number(header[1]), Number(header[2])];
    const start = header[0].length;
    if (width * height > MOST_PIXELS || file.length < start + 2 * width * height)
      throw new UnreadablePicture(name, 'the file is cut short or damaged.');
    // A copy of its own lies on an even address; the samples come with the high byte first.
    const bytes = Buffer.from(file.subarray(start, start + 2 * width * height));
    bytes.swap16();
    return {
      width,
      height,
      codes: new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length)),
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function run(
  program: string,
  words: string[],
  { output, name, reads, writes }: { output: number; name: string; reads: string; writes?: string },
  signal?: AbortSignal,
): Promise<Buffer> {
  try {
    return await runChild(program, words, { ...LIMITS, output, reads, ...(writes ? { writes } : {}) }, signal);
  } catch (error) {
    if (!(error instanceof ChildFailed)) throw error;
    const missing = error.reason.includes('not installed') || error.reason.includes('longer');
    throw new UnreadablePicture(
      name,
      missing ? `${error.reason}.` : 'the file is cut short, damaged, or no raw still.',
    );
  }
}

/** A view of the green samples, half as wide and high. */
function greenPreview({ width, height, codes, cell }: Mosaic, orientation: number): Preview {
  const [w, h] = [width >> 1, height >> 1];
  const places = cell.flatMap((channel, i) => (channel === 1 ? [(i >> 1) * width + (i & 1)] : []));
  const data = new Uint16Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const at = 2 * y * width + 2 * x;
      data[y * w + x] = (codes[at + places[0]] + codes[at + places[1]]) / 2;
    }
  const view = previewOf(upright({ width: w, height: h, channels: 1, bitDepth: 16, data }, orientation));
  return { ...view, cellPx: 2 * view.cellPx };
}

/**
 * R, G, B codes of a window: each sample where it is, the others as means of the nearest samples of their color. A full well
 * among them makes the result full, so that nothing clipped hides in a mean.
 */
function demosaic({ width, height, codes, cell, white }: Mosaic, rect: PixelRect): Picture {
  const data = new Uint16Array(rect.width * rect.height * 3);
  // For each place in the cell and each color: where its nearest samples lie.
  const nearest = [0, 1, 2, 3].map((place) =>
    [0, 1, 2].map((color) => {
      const found: { dx: number; dy: number; distance: number }[] = [];
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const at = 2 * (((place >> 1) + dy + 2) % 2) + (((place & 1) + dx + 2) % 2);
          if (cell[at] === color) found.push({ dx, dy, distance: Math.abs(dx) + Math.abs(dy) });
        }
      const least = Math.min(...found.map((one) => one.distance));
      return found.filter((one) => one.distance === least);
    }),
  );
  for (let y = 0, out = 0; y < rect.height; y++)
    for (let x = 0; x < rect.width; x++) {
      const [sx, sy] = [rect.x + x, rect.y + y];
      const colors = nearest[2 * (sy & 1) + (sx & 1)];
      for (let c = 0; c < 3; c++, out++) {
        let [sum, count, full] = [0, 0, false];
        for (const { dx, dy } of colors[c]) {
          const [px, py] = [sx + dx, sy + dy];
          if (px < 0 || py < 0 || px >= width || py >= height) continue;
          const code = codes[py * width + px];
          if (code >= white) full = true;
          sum += code;
          count++;
        }
        data[out] = full ? TOP : Math.min(TOP - 1, Math.round(sum / count));
      }
    }
  return { width: rect.width, height: rect.height, channels: 3, bitDepth: 16, data };
}
