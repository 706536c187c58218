/** The first bytes of a file, fewer where it is shorter. */
import { open } from 'node:fs/promises';

/** Descriptions lie before the pixels; cameras put a preview of some 64 kB before them. */
const SEARCHED_BYTES = 512 * 1024;

export async function readHead(path: string, bytes = SEARCHED_BYTES): Promise<Buffer> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(bytes), 0, bytes, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}
