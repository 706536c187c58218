/**
 * From the planes of a decoded frame to exact R′G′B′ codes or luma codes, 16 bits: the matrix of the clip's tags, chroma between its
 * samples by straight lines, nothing else. Sources: ITU-R BT.601-7, BT.709-6, BT.2020-2 (matrices, quantization).
 */
import type { Picture, PixelRect } from '@/core/reading/window';
import { previewOf, type Preview } from '@/core/laying/preview';
import { upright } from '../orientation';
import type { ClipFacts } from './probe';

/** One frame's samples as they were decoded. */
export interface Planes {
  luma: Uint8Array | Uint16Array;
  cb: Uint8Array | Uint16Array;
  cr: Uint8Array | Uint16Array;
}

export type FrameLayout = Pick<ClipFacts, 'width' | 'height' | 'format' | 'range' | 'matrix' | 'chromaAt'>;

const TOP = 65535;

/** Bytes of one frame as the decoder writes it. */
export function frameBytes({ width, height, format }: FrameLayout): number {
  const chroma = Math.ceil(width / format.across) * Math.ceil(height / format.down);
  return (width * height + 2 * chroma) * (format.bits > 8 ? 2 : 1);
}

/** Splits a frame's raw output into planes, which share its memory; of deep ones it begins at an even byte. */
export function planesOf(raw: Buffer, layout: FrameLayout): Planes {
  const { width, height, format } = layout;
  const chroma = Math.ceil(width / format.across) * Math.ceil(height / format.down);
  const samples =
    format.bits > 8
      ? new Uint16Array(raw.buffer, raw.byteOffset, frameBytes(layout) / 2)
      : new Uint8Array(raw.buffer, raw.byteOffset, frameBytes(layout));
  const luma = width * height;
  return {
    luma: samples.subarray(0, luma),
    cb: samples.subarray(luma, luma + chroma),
    cr: samples.subarray(luma + chroma, luma + 2 * chroma),
  };
}

/** Offsets and spans of the quantization (BT.2100-2 table 9 for any bit depth). */
function quantization({ range, format }: FrameLayout) {
  const scale = 2 ** (format.bits - 8);
  return range === 'full'
    ? { black: 0, span: 2 ** format.bits - 1, gray: 2 ** (format.bits - 1), chromaSpan: 2 ** format.bits - 1 }
    : { black: 16 * scale, span: 219 * scale, gray: 128 * scale, chromaSpan: 224 * scale };
}

const clamped = (value: number) => (value <= 0 ? 0 : value >= 1 ? TOP : (value * TOP + 0.5) | 0);

/** Luma codes of a window, as a gray picture: edges stay clean of chroma's coarser grid. */
export function lumaWindow(planes: Planes, layout: FrameLayout, rect: PixelRect): Picture {
  const { black, span } = quantization(layout);
  const data = new Uint16Array(rect.width * rect.height);
  for (let y = 0, at = 0; y < rect.height; y++) {
    const row = (rect.y + y) * layout.width + rect.x;
    for (let x = 0; x < rect.width; x++, at++) data[at] = clamped((planes.luma[row + x] - black) / span);
  }
  return { width: rect.width, height: rect.height, channels: 1, bitDepth: 16, step: TOP / span, data };
}

/** A small view of the luma plane, upright, as shares of its range; only the samples that it needs are looked at. */
export function lumaPreview({ luma }: Planes, layout: FrameLayout & { orientation: number }): Preview {
  const { width, height, format, orientation } = layout;
  const { black, span } = quantization(layout);
  const deep = format.bits > 8;
  const plane: Picture = { width, height, channels: 1, bitDepth: deep ? 16 : 8, data: luma };
  const view = previewOf(upright(plane, orientation));
  const top = deep ? TOP : 255;
  return { ...view, data: view.data.map((value) => Math.min(1, Math.max(0, (value * top - black) / span))) };
}

/** R′G′B′ codes of a window. */
export function colorWindow(planes: Planes, layout: FrameLayout, rect: PixelRect): Picture {
  const { width, height, format, matrix, chromaAt } = layout;
  const { black, span, gray, chromaSpan } = quantization(layout);
  const { kr, kb } = matrix;
  const kg = 1 - kr - kb;
  const [columns, rows] = [Math.ceil(width / format.across), Math.ceil(height / format.down)];
  const data = new Uint16Array(rect.width * rect.height * 3);
  // Where each column of the window lies between two chroma samples.
  const left = new Int32Array(rect.width);
  const right = new Int32Array(rect.width);
  const share = new Float64Array(rect.width);
  for (let x = 0; x < rect.width; x++) {
    const at = Math.max(0, Math.min(columns - 1, (rect.x + x - chromaAt.x) / format.across));
    left[x] = Math.floor(at);
    right[x] = Math.min(columns - 1, left[x] + 1);
    share[x] = at - left[x];
  }
  // Chroma is brought to the row first, then to each of its pixels.
  const [cb, cr] = [new Float64Array(columns), new Float64Array(columns)];
  const [ofRed, ofBlue] = [2 * (1 - kr), 2 * (1 - kb)];
  for (let y = 0, out = 0; y < rect.height; y++) {
    const at = Math.max(0, Math.min(rows - 1, (rect.y + y - chromaAt.y) / format.down));
    const upper = Math.floor(at) * columns;
    const lower = Math.min(rows - 1, Math.floor(at) + 1) * columns;
    mixRows(cb, planes.cb, upper, lower, at - Math.floor(at), gray, ofBlue / chromaSpan);
    mixRows(cr, planes.cr, upper, lower, at - Math.floor(at), gray, ofRed / chromaSpan);
    const row = (rect.y + y) * width + rect.x;
    for (let x = 0; x < rect.width; x++, out += 3) {
      const [from, to, part] = [left[x], right[x], share[x]];
      const luma = (planes.luma[row + x] - black) / span;
      const red = luma + cr[from] + part * (cr[to] - cr[from]);
      const blue = luma + cb[from] + part * (cb[to] - cb[from]);
      data[out] = clamped(red);
      data[out + 1] = clamped((luma - kr * red - kb * blue) / kg);
      data[out + 2] = clamped(blue);
    }
  }
  const one = TOP / chromaSpan;
  const [redStep, blueStep] = [ofRed * one, ofBlue * one];
  const chromaStep = [redStep, Math.hypot(kr * redStep, kb * blueStep) / kg, blueStep] as const;
  return { width: rect.width, height: rect.height, channels: 3, bitDepth: 16, step: TOP / span, chromaStep, data };
}

/** A row between two of a chroma plane's, less gray, scaled. */
function mixRows(
  into: Float64Array,
  plane: Planes['cb'],
  upper: number,
  lower: number,
  below: number,
  gray: number,
  scale: number,
): void {
  for (let x = 0; x < into.length; x++)
    into[x] = (plane[upper + x] + below * (plane[lower + x] - plane[upper + x]) - gray) * scale;
}

/** R′G′B′ codes of every `step`th pixel of every `step`th row. */
export function sampledWindow(planes: Planes, layout: FrameLayout, step: number): Picture {
  const [width, height] = [Math.floor(layout.width / step), Math.floor(layout.height / step)];
  const data = new Uint16Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    const row = colorWindow(planes, layout, { x: 0, y: y * step, width: layout.width, height: 1 });
    for (let x = 0, out = y * width * 3; x < width; x++)
      for (let c = 0; c < 3; c++) data[out++] = row.data[3 * x * step + c];
  }
  return { width, height, channels: 3, bitDepth: 16, step: TOP / quantization(layout).span, data };
}
