/**
 * What a still says of its own encoding: the embedded ICC profile's curves and primaries (ICC.1:2022, 10.6 `curv`,
 * 10.18 `para`), told apart from the code values, which stay as they are.
 */
import type { FileEncoding } from '@/core/light/response';
import { multiply, type Matrix3 } from '@/core/formulas/color/spaces';

/** Bradford adaptation from the profile connection space's D50 to D65 (ICC.1:2022 annex E; Lindbloom). */
const D50_TO_D65: Matrix3 = [
  0.9555766, -0.0230393, 0.0631636, -0.0282895, 1.0099416, 0.0210077, 0.0122982, -0.020483, 1.3299098,
];

/** Encoding of an ICC profile. Profiles that aren't matrix profiles leave transfer and primaries unknown. */
export function encodingOfProfile(icc: Buffer): FileEncoding {
  const tags = readTags(icc);
  const profile = description(tags.get('desc')) ?? 'embedded profile';
  const unknown: FileEncoding = { transfer: null, source: null, toXyz: null, profile };
  const [r, g, b] = ['rXYZ', 'gXYZ', 'bXYZ'].map((tag) => xyz(tags.get(tag)));
  const curve = tags.get('rTRC') ?? tags.get('kTRC');
  const transfer = curve ? readCurve(curve) : null;
  if (transfer === null) return unknown;
  const toXyz = r && g && b ? [...multiply(D50_TO_D65, [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]])] : null;
  return { transfer, source: `ICC profile “${profile}”`, toXyz, profile };
}

function readTags(icc: Buffer): Map<string, Buffer> {
  const tags = new Map<string, Buffer>();
  if (icc.length < 132) return tags;
  const count = Math.min(icc.readUInt32BE(128), 100);
  for (let i = 0; i < count && 132 + 12 * i + 12 <= icc.length; i++) {
    const at = 132 + 12 * i;
    const offset = icc.readUInt32BE(at + 4);
    const size = icc.readUInt32BE(at + 8);
    if (offset + size <= icc.length) tags.set(icc.toString('latin1', at, at + 4), icc.subarray(offset, offset + size));
  }
  return tags;
}

function fixed(buffer: Buffer, at: number): number {
  return buffer.readInt32BE(at) / 65536;
}

function xyz(tag: Buffer | undefined): [number, number, number] | null {
  return tag && tag.length >= 20 ? [fixed(tag, 8), fixed(tag, 12), fixed(tag, 16)] : null;
}

function readCurve(tag: Buffer): FileEncoding['transfer'] {
  const type = tag.toString('latin1', 0, 4);
  if (type === 'curv' && tag.length >= 12) {
    const count = tag.readUInt32BE(8);
    if (count === 0) return 'linear';
    if (count === 1 && tag.length >= 14) return named(tag.readUInt16BE(12) / 256);
    if (tag.length < 12 + 2 * count) return null;
    const points: [number, number][] = [];
    for (let i = 0; i < count; i++) points.push([i / (count - 1), tag.readUInt16BE(12 + 2 * i) / 65535]);
    return looksLikeSrgb(points) ? 'srgb' : { points };
  }
  if (type === 'para' && tag.length >= 16) {
    const kind = tag.readUInt16BE(8);
    const parameters: number[] = [];
    for (let at = 12; at + 4 <= tag.length; at += 4) parameters.push(fixed(tag, at));
    return parametric(kind, parameters);
  }
  return null;
}

function named(gamma: number): FileEncoding['transfer'] {
  return Math.abs(gamma - 1) < 0.005 ? 'linear' : { gamma };
}

/** ICC.1:2022 table 68, function types 0–4. */
function parametric(kind: number, p: number[]): FileEncoding['transfer'] {
  const [g, a = 1, b = 0, c = 0, d = 0, e = 0, f = 0] = p;
  if (kind === 0) return named(g);
  const evaluate = (x: number): number => {
    if (kind === 1) return x >= -b / a ? (a * x + b) ** g : 0;
    if (kind === 2) return x >= -b / a ? (a * x + b) ** g + c : c;
    if (kind === 3) return x >= d ? (a * x + b) ** g : c * x;
    return x >= d ? (a * x + b) ** g + e : c * x + f;
  };
  if (kind > 4) return null;
  const points = Array.from({ length: 1025 }, (_, i): [number, number] => [i / 1024, Math.max(0, evaluate(i / 1024))]);
  return looksLikeSrgb(points) ? 'srgb' : { points };
}

function looksLikeSrgb(points: [number, number][]): boolean {
  return points.every(([code, light]) => {
    const srgb = code <= 0.04045 ? code / 12.92 : ((code + 0.055) / 1.055) ** 2.4;
    return Math.abs(srgb - light) < 0.0007;
  });
}

function description(tag: Buffer | undefined): string | null {
  if (!tag || tag.length < 16) return null;
  const type = tag.toString('latin1', 0, 4);
  if (type === 'desc') return tag.toString('latin1', 12, 12 + Math.max(0, tag.readUInt32BE(8) - 1)).trim() || null;
  if (type === 'mluc' && tag.length >= 28) {
    const length = tag.readUInt32BE(20);
    const offset = tag.readUInt32BE(24);
    if (offset + length > tag.length) return null;
    return (
      Buffer.from(tag.subarray(offset, offset + length))
        .swap16()
        .toString('utf16le')
        .trim() || null
    );
  }
  return null;
}
