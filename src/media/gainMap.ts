/** Pictures that a second one in the same file brightens for bright screens (ISO 21496-1, and what came before it). */
import { readHead } from './head';

const WORDS = /hdr-gain-map\/1\.0|HDRGainMap|urn:iso:std:iso:ts:21496/;

/** Whether a JPEG carries a gain map: the words stand in the first picture's description. */
export async function carriesGainMap(path: string): Promise<boolean> {
  return WORDS.test((await readHead(path)).toString('latin1'));
}
