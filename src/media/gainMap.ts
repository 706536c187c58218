/** Pictures that a second one in the same file brightens for bright screens (ISO 21496-1, and what came before it). */
import { open } from 'node:fs/promises';

/** The words stand in the first picture's description. */
const SEARCHED_BYTES = 512 * 1024;
const WORDS = /hdr-gain-map\/1\.0|HDRGainMap|urn:iso:std:iso:ts:21496/;

/** Whether a JPEG carries a gain map. */
export async function carriesGainMap(path: string): Promise<boolean> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(SEARCHED_BYTES), 0, SEARCHED_BYTES, 0);
    return WORDS.test(buffer.toString('latin1', 0, bytesRead));
  } finally {
    await file.close();
  }
}
