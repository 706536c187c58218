/** Transfers and primaries as containers tag them (ITU-T H.273, tables 2 and 3), under the names that ffmpeg gives the numbers. */
import { resolveColorSpace } from '@/core/formulas/color/spaces';
import type { FileEncoding } from '@/core/light/response';

const TRANSFERS: Readonly<Record<string, FileEncoding['transfer']>> = {
  bt709: 'bt709',
  smpte170m: 'bt709',
  'bt2020-10': 'bt709',
  'bt2020-12': 'bt709',
  'iec61966-2-1': 'srgb',
  'arib-std-b67': 'hlg',
  smpte2084: 'pq',
  linear: 'linear',
  bt470m: { gamma: 2.2 },
  bt470bg: { gamma: 2.8 },
};
const PRIMARIES: Readonly<Record<string, 'srgb' | 'rec2020' | 'display-p3'>> = {
  bt709: 'srgb',
  bt2020: 'rec2020',
  smpte432: 'display-p3',
};

const TRANSFER_NAMES: Readonly<Record<number, string>> = {
  1: 'bt709',
  4: 'bt470m',
  5: 'bt470bg',
  6: 'smpte170m',
  8: 'linear',
  13: 'iec61966-2-1',
  14: 'bt2020-10',
  15: 'bt2020-12',
  16: 'smpte2084',
  18: 'arib-std-b67',
};
const PRIMARIES_NAMES: Readonly<Record<number, string>> = { 1: 'bt709', 9: 'bt2020', 12: 'smpte432' };

/** The encoding that tags tell; what they don't name, or name otherwise, stays unknown. @param of what carries the tags, for people */
export function encodingOfTags(transfer: string, primaries: string, of: string): FileEncoding {
  const space = PRIMARIES[primaries];
  return {
    transfer: TRANSFERS[transfer] ?? null,
    source: transfer in TRANSFERS ? `transfer tag of the ${of}` : null,
    toXyz: space ? [...resolveColorSpace(space).toXyz] : null,
    profile: space ? `primaries ${primaries}` : null,
  };
}

/** The same of H.273's numbers. */
export function encodingOfCodes(transfer: number, primaries: number, of: string): FileEncoding {
  return encodingOfTags(TRANSFER_NAMES[transfer] ?? '', PRIMARIES_NAMES[primaries] ?? '', of);
}
