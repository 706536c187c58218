import type { PictureFacts } from '../../reading/facts';
import type { Response } from '../../session/schema';
import { isOnlyTold, needsDarkBares } from './trust';

type Transfer = PictureFacts['encoding']['transfer'];
const file = (transfer: Transfer, lossy = false, source: string | null = 'EXIF color space') => ({
  encoding: { transfer, source: transfer === null ? null : source, toXyz: null, profile: null },
  ...(lossy ? { compression: { luma: 1, blue: 1, red: 1 } } : {}),
});
const CLIP = { ...file('bt709'), clip: { seconds: 1, framesPerSecond: 25, codec: 'h264', bits: 8 } };

test.each<[string, Parameters<typeof isOnlyTold>[0], Response, boolean]>([
  ['a raw file', file({ black: 512, white: 15000 }), { kind: 'file' }, false],
  ['a raw file where sRGB was asked for', file({ black: 512, white: 15000 }), { kind: 'srgb' }, false],
  ['a JPEG that tells sRGB', file('srgb', true), { kind: 'file' }, true],
  ['a JPEG that tells nothing', file(null, true), { kind: 'file' }, true],
  ['a TIFF that tells sRGB by its EXIF', file('srgb'), { kind: 'file' }, true],
  ['a TIFF that tells nothing', file(null), { kind: 'file' }, true],
  ['a TIFF with a profile', file('srgb', false, 'ICC profile “sRGB”'), { kind: 'file' }, false],
  ['a JPEG with a profile', file('srgb', true, 'ICC profile “sRGB”'), { kind: 'file' }, true],
  ['a JPEG where the session says sRGB', file('srgb', true), { kind: 'srgb' }, true],
  ['a TIFF where the session says sRGB', file('srgb'), { kind: 'srgb' }, false],
  ['a TIFF that tells linear light', file('linear'), { kind: 'file' }, false],
  ['a TIFF with a table in its profile', file({ points: [[0, 0], [1, 1]] }, false, 'ICC profile “table”'), { kind: 'file' }, false],
  ['a clip of BT.709', CLIP, { kind: 'file' }, true],
  ['a clip of BT.709 with a curve of its own', CLIP, { kind: 'curve', points: [[0, 0], [1, 1]] }, false],
  ['a clip in hybrid log', { ...CLIP, ...file('hlg') }, { kind: 'file' }, false],
  ['a HEIF still drawn for bright screens (PQ)', file('pq', true, 'transfer tag of the picture'), { kind: 'file' }, true],
  ['the same in hybrid log', file('hlg', true, 'transfer tag of the picture'), { kind: 'file' }, true],
  ['the same where the session says PQ', file('pq', true, 'transfer tag of the picture'), { kind: 'pq' }, false],
])('%s: only told is %s', (_, facts, response, told) => expect(isOnlyTold(facts, response)).toBe(told)); // prettier-ignore

test.each<[Response, boolean]>([
  [{ kind: 'file' }, true],
  [{ kind: 'srgb' }, true],
  [{ kind: 'bt709' }, true],
  [{ kind: 'hlg' }, false],
  [{ kind: 'linear' }, false],
  // Its own bracket tells more.
  [{ kind: 'bracket' }, false],
])('a profile with the response %j needs two darker bare pictures: %s', (response, needs) =>
  expect(needsDarkBares(response)).toBe(needs),
);
