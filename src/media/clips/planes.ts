/**
 * From the planes of a decoded frame to exact R′G′B′ codes or luma codes, 16 bits: the matrix of the clip's tags, chroma between its
 * samples by straight lines, nothing else. Sources: ITU-R BT.601-7, BT.709-6, BT.2020-2 (matrices, quantization).
 */
import type { Picture, PixelRect } from '@/core/patches';
import { previewOf, type Preview } from '@/core/registration';
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

/** Splits raw output into planes. */
export function planesOf(raw: Buffer, layout: FrameLayout): Planes {
  const { width, height, format } = layout;
  const chroma = Math.ceil(width / format.across) * Math.ceil(height / format.down);
  const samples =
    format.bits > 8
      ? new Uint16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + frameBytes(layout)))
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

const clamped = (value: number) => (value <= 0 ? 0 : value >= 1 ? TOP : Math.round(value * TOP));

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
  for (let y = 0, out = 0; y < rect.height; y++) {
    const at = Math.max(0, Math.min(rows - 1, (rect.y + y - chromaAt.y) / format.down));
    const upper = Math.floor(at) * columns;
    const lower = Math.min(rows - 1, Math.floor(at) + 1) * columns;
    const below = at - Math.floor(at);
    const between = (plane: Planes['cb'], x: number) => {
      const above = plane[upper + left[x]] + share[x] * (plane[upper + right[x]] - plane[upper + left[x]]);
      const under = plane[lower + left[x]] + share[x] * (plane[lower + right[x]] - plane[lower + left[x]]);
      return (above + below * (under - above) - gray) / chromaSpan;
    };
    const row = (rect.y + y) * width + rect.x;
    for (let x = 0; x < rect.width; x++, out += 3) {
      const luma = (planes.luma[row + x] - black) / span;
      const red = luma + 2 * (1 - kr) * between(planes.cr, x);
      const blue = luma + 2 * (1 - kb) * between(planes.cb, x);
      data[out] = clamped(red);
      data[out + 1] = clamped((luma - kr * red - kb * blue) / kg);
      data[out + 2] = clamped(blue);
    }
  }
  const one = TOP / chromaSpan;
  const [ofRed, ofBlue] = [2 * (1 - kr) * one, 2 * (1 - kb) * one];
  const chromaStep = [ofRed, Math.hypot(kr * ofRed, kb * ofBlue) / kg, ofBlue] as const;
  return { width: rect.width, height: rect.height, channels: 3, bitDepth: 16, step: TOP / span, chromaStep, data };
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
