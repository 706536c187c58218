/** Writes a mosaic as a DNG (Adobe DNG specification 1.4, TIFF 6.0): the stand-in camera's raw stills. */
import { writeFile } from 'node:fs/promises';

export interface Mosaic {
  width: number;
  height: number;
  /** Codes row by row; even rows are R G R G …, odd rows G B G B …. */
  codes: Uint16Array;
  black: number;
  white: number;
}

export interface RawExposure {
  shutterSeconds: number;
  iso: number;
  fNumber: number;
  /** `2026:05:14 09:02:00`. */
  capturedAt: string;
  orientation?: number;
}

/** Value types of TIFF: bytes, text, 16 and 32 bit, fractions. */
const SIZES = { byte: 1, ascii: 1, short: 2, long: 4, rational: 8, srational: 8 } as const;
const CODES = { byte: 1, ascii: 2, short: 3, long: 4, rational: 5, srational: 10 } as const;

type Field = [tag: number, type: keyof typeof SIZES, values: readonly number[] | string];

/** XYZ → camera of a camera whose channels are sRGB's own. */
const COLOR_MATRIX = [3.2406, -1.5372, -0.4986, -0.9689, 1.8758, 0.0415, 0.0557, -0.204, 1.057];

/** Writes the file. */
export async function writeDng(mosaic: Mosaic, exposure: RawExposure, path: string): Promise<void> {
  const pixels = Buffer.from(mosaic.codes.buffer, mosaic.codes.byteOffset, mosaic.codes.byteLength);
  const exif: Field[] = [
    [33434, 'rational', fraction(exposure.shutterSeconds)],
    [33437, 'rational', fraction(exposure.fNumber)],
    [34855, 'short', [exposure.iso]],
    [36867, 'ascii', exposure.capturedAt],
  ];
  const main = (exifAt: number, pixelsAt: number): Field[] => [
    [254, 'long', [0]],
    [256, 'long', [mosaic.width]],
    [257, 'long', [mosaic.height]],
    [258, 'short', [16]],
    [259, 'short', [1]],
    [262, 'short', [32803]],
    [271, 'ascii', 'Ashwick'],
    [272, 'ascii', 'Bench rig'],
    [273, 'long', [pixelsAt]],
    [274, 'short', [exposure.orientation ?? 1]],
    [277, 'short', [1]],
    [278, 'long', [mosaic.height]],
    [279, 'long', [pixels.length]],
    [284, 'short', [1]],
    [33421, 'short', [2, 2]],
    [33422, 'byte', [0, 1, 1, 2]],
    [34665, 'long', [exifAt]],
    [50706, 'byte', [1, 4, 0, 0]],
    [50708, 'ascii', 'Ashwick Bench rig'],
    [50714, 'long', [mosaic.black]],
    [50717, 'long', [mosaic.white]],
    [50721, 'srational', COLOR_MATRIX.flatMap((value) => [Math.round(value * 10000), 10000])],
    [50728, 'rational', [1, 1, 1, 1, 1, 1]],
    [50778, 'short', [21]],
  ];
  const header = 8;
  const mainBytes = encodeIfd(main(0, 0), header).length;
  const exifAt = header + mainBytes;
  const pixelsAt = exifAt + encodeIfd(exif, exifAt).length;
  const head = Buffer.from([0x49, 0x49, 42, 0, header, 0, 0, 0]);
  await writeFile(
    path,
    Buffer.concat([head, encodeIfd(main(exifAt, pixelsAt), header), encodeIfd(exif, exifAt), pixels]),
  );
}

function fraction(value: number): [number, number] {
  return value < 1 ? [1_000_000, Math.round(1_000_000 / value)] : [Math.round(value * 1_000_000), 1_000_000];
}

/** One directory with its values behind it, little-endian; `at` is where it stands in the file. */
function encodeIfd(fields: readonly Field[], at: number): Buffer {
  const directory = Buffer.alloc(2 + 12 * fields.length + 4);
  directory.writeUInt16LE(fields.length, 0);
  const behind: Buffer[] = [];
  let next = at + directory.length;
  fields.forEach(([tag, type, values], i) => {
    const bytes = encodeValues(type, values);
    const place = 2 + 12 * i;
    directory.writeUInt16LE(tag, place);
    directory.writeUInt16LE(CODES[type], place + 2);
    directory.writeUInt32LE(type.endsWith('rational') ? bytes.length / 8 : bytes.length / SIZES[type], place + 4);
    if (bytes.length <= 4) bytes.copy(directory, place + 8);
    else {
      directory.writeUInt32LE(next, place + 8);
      const padded = bytes.length % 2 === 0 ? bytes : Buffer.concat([bytes, Buffer.alloc(1)]);
      behind.push(padded);
      next += padded.length;
    }
  });
  return Buffer.concat([directory, ...behind]);
}

function encodeValues(type: keyof typeof SIZES, values: readonly number[] | string): Buffer {
  if (typeof values === 'string') return Buffer.from(`${values}\0`, 'latin1');
  const wide = type === 'short' ? 2 : type === 'byte' ? 1 : 4;
  const buffer = Buffer.alloc(wide * values.length);
  values.forEach((value, i) => {
    if (type === 'byte') buffer.writeUInt8(value, i);
    else if (type === 'short') buffer.writeUInt16LE(value, 2 * i);
    else if (type === 'srational') buffer.writeInt32LE(value, 4 * i);
    else buffer.writeUInt32LE(value, 4 * i);
  });
  return buffer;
}
