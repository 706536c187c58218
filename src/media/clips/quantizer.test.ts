/** Quantizers of clips, from traced headers and from files that an encoder was told to make at a fixed one. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readClipSteps, stepsToldBy, type CodedAs } from './quantizer';

const FULL = { bits: 8, range: 'full' } as const;
const line = (name: string, value: number) =>
  `[trace_headers @ 0x1] 20          ${name}                    0001 = ${value}\n`;

describe('from headers', () => {
  test('a quantizer of 4 is a step of one code, an eighth of it in a mean; six more double it', () => {
    const at = (delta: number) =>
      stepsToldBy(line('pic_init_qp_minus26', -8) + line('slice_qp_delta', delta), { codec: 'h264', ...FULL })!;
    expect(at(-14)).toEqual({ luma: 1 / 8, blue: 1 / 8, red: 1 / 8, whole: 1 });
    expect(at(-8).luma).toBeCloseTo(2 / 8, 12);
    expect(at(-8).blue).toBeCloseTo(2 / 8, 12);
  });

  test('chroma is quantized more finely where luma’s is coarse (H.264: 35 for 38), and by offsets of its own', () => {
    const headers = line('pic_init_qp_minus26', 0) + line('chroma_qp_index_offset', -6) + line('slice_qp_delta', 18);
    const { luma, blue, red } = stepsToldBy(headers, { codec: 'h264', ...FULL })!;
    expect(luma).toBeCloseTo(2 ** (40 / 6) / 8, 9);
    // 44 − 6 = 38 → 35 by the table.
    expect(blue).toBeCloseTo(2 ** ((35 - 4) / 6) / 8, 9);
    expect(red).toBeGreaterThan(blue);
  });

  test('ten bits: the same steps, finer codes; a limited range counts for more of the full one', () => {
    const headers = line('init_qp_minus26', 0) + line('slice_qp_delta', -10);
    const ten = stepsToldBy(headers, { codec: 'hevc', bits: 10, range: 'limited' })!;
    expect(ten.luma).toBeCloseTo((2 ** 2 / 8) * (255 / 219), 9);
    expect(ten.whole).toBeCloseTo(255 / 219 / 4, 9);
  });

  test('headers that tell none, or nonsense, are not believed', () => {
    expect(stepsToldBy('', { codec: 'h264', ...FULL })).toBeNull();
    expect(stepsToldBy(line('pic_init_qp_minus26', 0), { codec: 'h264', ...FULL })).toBeNull();
    expect(
      stepsToldBy(line('pic_init_qp_minus26', 0) + line('slice_qp_delta', 4000), { codec: 'h264', ...FULL }),
    ).toBeNull();
  });
});

describe('from files', () => {
  let folder: string;
  beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'quantizer-'))));
  afterAll(() => rmSync(folder, { recursive: true }));

  const encode = (name: string, words: string[]) => {
    const path = join(folder, name);
    const source = ['-f', 'lavfi', '-i', 'gradients=s=320x180:d=0.4:r=10:seed=1'];
    execFileSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...source, ...words, path]);
    return path;
  };
  const coded = (codec: string, bits = 8): CodedAs => ({ codec, bits, range: 'limited' });

  test.each([[16], [28]])('H.264 at a fixed quantizer of %d', async (quantizer) => {
    // x264 codes key frames finer than what it is told for others, unless their ratio is one.
    const path = encode(`q${quantizer}.mp4`, ['-c:v', 'libx264', '-qp', `${quantizer}`, '-x264-params', 'ipratio=1', '-pix_fmt', 'yuv420p']); // prettier-ignore
    const steps = await readClipSteps(path, coded('h264'));
    expect(steps!.luma).toBeCloseTo((2 ** ((quantizer - 4) / 6) / 8) * (255 / 219), 9);
  });

  test('H.265 of ten bits at a fixed quantizer', async () => {
    const path = encode('ten.mp4', ['-c:v', 'libx265', '-x265-params', 'qp=20:ipratio=1:log-level=error', '-pix_fmt', 'yuv420p10le']); // prettier-ignore
    const steps = await readClipSteps(path, coded('hevc', 10));
    expect(steps!.luma).toBeCloseTo((2 ** (16 / 6) / 8) * (255 / 219), 9);
  });

  test('a codec that isn’t known, and a file that is no clip, tell nothing', async () => {
    expect(await readClipSteps(join(folder, 'q16.mp4'), coded('prores'))).toBeNull();
    expect(await readClipSteps(__filename, coded('h264'))).toBeNull();
  });
});
