import { UnreadablePicture } from '@/core/reading/facts';
import { ChildFailed } from './children';
import { decodeError } from './identify';

const reasonOf = (error: unknown) => (decodeError('a.tif', error) as UnreadablePicture).reason;

test('a decoder’s complaint becomes a sentence about the file, without saying where it lies', () => {
  expect(reasonOf(new Error('VipsJpeg: premature end of JPEG image'))).toBe('the file is cut short or damaged.');
  expect(reasonOf(new Error('/srv/media/ab/abcd: unable to open for read'))).not.toContain('/srv');
  expect(reasonOf(new Error('vips_malloc: out of memory --- size == 4GB'))).toBe('it is too large to be read.');
  expect(reasonOf(new ChildFailed('it took too long', ''))).toBe('it took too long.');
});

test('a sound picture isn’t called unreadable for a full disk or too many open files: the error stays what it is', () => {
  for (const code of ['ENOSPC', 'EMFILE', 'EIO']) {
    const error = Object.assign(new Error(`${code}: no`), { code });
    expect(decodeError('a.tif', error)).toBe(error);
  }
  // What libvips says has no code of the system.
  const plain = Object.assign(new Error('bad seek'), { code: undefined });
  expect(decodeError('a.tif', plain)).toBeInstanceOf(UnreadablePicture);
});

test('what is a sentence already stays one', () => {
  const told = new UnreadablePicture('a.tif', 'the file is empty.');
  expect(decodeError('b.tif', told)).toBe(told);
});
