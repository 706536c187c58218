/** The quantization tables that a JPEG carries: how coarsely the means of its blocks are kept (ITU-T T.81, B.2.4.1). */
import type { MeanSteps } from '@/core/light/camera/compression';
import { readHead } from './head';

/** Steps of a JPEG's block means in codes of 8 bits; `null` where its head can't be read. */
export async function readMeanSteps(path: string): Promise<MeanSteps | null> {
  return meanStepsOf(await readHead(path));
}

/** The same of a file's first bytes. */
export function meanStepsOf(head: Buffer): MeanSteps | null {
  const constants = new Map<number, number>();
  let tableOf: number[] = [];
  let at = 2;
  while (at + 4 <= head.length && head[at] === 0xff) {
    const marker = head[at + 1];
    const length = head.readUInt16BE(at + 2);
    const end = Math.min(head.length, at + 2 + length);
    if (marker === 0xdb) readTables(head.subarray(at + 4, end), constants);
    // Frame headers (SOF), which name each component's table; not DHT, JPG and DAC.
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)) {
      const components = head[at + 9];
      tableOf = Array.from({ length: components }, (_, i) => head[at + 12 + 3 * i]);
    }
    if (marker === 0xda) break;
    at += 2 + length;
  }
  const steps = tableOf.map((table) => (constants.get(table) ?? NaN) / 8);
  if (steps.length === 0 || steps.some((step) => !(step > 0))) return null;
  const [luma, blue = 0, red = 0] = steps;
  return { luma, blue, red };
}

/** One or more tables, of bytes or words; the first entry is the blocks' mean. */
function readTables(data: Buffer, constants: Map<number, number>): void {
  let at = 0;
  while (at < data.length) {
    const wide = data[at] >> 4 === 1;
    const size = 64 * (wide ? 2 : 1);
    if (at + 1 + size > data.length) return;
    constants.set(data[at] & 15, wide ? data.readUInt16BE(at + 1) : data[at + 1]);
    at += 1 + size;
  }
}
