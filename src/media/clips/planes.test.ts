/** Y′CbCr to R′G′B′ against published and hand-computed values. */
import { colorWindow, lumaWindow, planesOf, frameBytes, type FrameLayout } from './planes';

const MATRICES = {
  'BT.601': { kr: 0.299, kb: 0.114 },
  'BT.709': { kr: 0.2126, kb: 0.0722 },
  'BT.2020': { kr: 0.2627, kb: 0.0593 },
};

function layout(bits: 8 | 10 | 12, range: 'limited' | 'full', matrix: keyof typeof MATRICES): FrameLayout {
  return {
    width: 4,
    height: 4,
    format: { name: 'test', bits, across: 2, down: 2 },
    range,
    matrix: MATRICES[matrix],
    chromaAt: { x: 0, y: 0.5 },
  };
}

function evenFrame(of: FrameLayout, [y, cb, cr]: readonly number[]) {
  const raw = Buffer.alloc(frameBytes(of));
  const planes = planesOf(raw, of);
  planes.luma.fill(y);
  planes.cb.fill(cb);
  planes.cr.fill(cr);
  return planes;
}

const WHOLE = { x: 0, y: 0, width: 4, height: 4 };

// SMPTE RP 219 75 % bars at 10 bits, quoted from memory: Y′, C′B, C′R.
test.each([
  ['white', [721, 512, 512], [0.75, 0.75, 0.75]],
  ['yellow', [674, 176, 543], [0.75, 0.75, 0]],
  ['cyan', [581, 589, 176], [0, 0.75, 0.75]],
  ['green', [534, 253, 207], [0, 0.75, 0]],
  ['magenta', [251, 771, 817], [0.75, 0, 0.75]],
  ['red', [204, 435, 848], [0.75, 0, 0]],
  ['blue', [111, 848, 481], [0, 0, 0.75]],
])('75 %% %s of the color bars, BT.709', (_, codes, expected) => {
  const of = layout(10, 'limited', 'BT.709');
  const { data } = colorWindow(evenFrame(of, codes), of, WHOLE);
  // Within one code of ten bits; the bars' own codes are rounded too.
  expected.forEach((value, c) => expect(Math.abs(data[c] / 65535 - value) * 876).toBeLessThan(1.01));
});

describe.each(Object.keys(MATRICES) as (keyof typeof MATRICES)[])('%s', (matrix) => {
  test.each([
    [8, 'limited'],
    [10, 'limited'],
    [12, 'full'],
  ] as const)('%i bit %s: known colors come back to within a code', (bits, range) => {
    const of = layout(bits, range, matrix);
    const { kr, kb } = MATRICES[matrix];
    const scale = 2 ** (bits - 8);
    const [black, span, gray, chroma] =
      range === 'limited'
        ? [16 * scale, 219 * scale, 128 * scale, 224 * scale]
        : [0, 2 ** bits - 1, 2 ** (bits - 1), 2 ** bits - 1];
    for (const [r, g, b] of [
      [0.2, 0.5, 0.8],
      [0.9, 0.4, 0.1],
      [0.5, 0.5, 0.5],
    ]) {
      const luma = kr * r + (1 - kr - kb) * g + kb * b;
      const codes = [
        black + span * luma,
        gray + (chroma * (b - luma)) / (2 * (1 - kb)),
        gray + (chroma * (r - luma)) / (2 * (1 - kr)),
      ];
      const { data } = colorWindow(evenFrame(of, codes.map(Math.round)), of, WHOLE);
      [r, g, b].forEach((value, c) => expect(Math.abs(data[c] / 65535 - value) * span).toBeLessThan(1.6));
      const gray8 = lumaWindow(evenFrame(of, codes.map(Math.round)), of, WHOLE);
      expect(Math.abs(gray8.data[0] / 65535 - luma) * span).toBeLessThan(0.54); // half a code, and what 16 bits round
      expect(gray8.step).toBeCloseTo(65535 / span, 6);
    }
  });
});

test('chroma lies between its samples where the siting says', () => {
  const of = { ...layout(8, 'full', 'BT.709'), height: 2 };
  const planes = evenFrame(of, [128, 128, 128]);
  planes.cr.set([128, 192]);
  const row = (chromaAt: FrameLayout['chromaAt']) =>
    [0, 1, 2, 3].map((x) => colorWindow(planes, { ...of, chromaAt }, { x, y: 0, width: 1, height: 1 }).data[0]);
  const red = (cr: number) => Math.round((128 / 255 + (2 * (1 - 0.2126) * (cr - 128)) / 255) * 65535);
  // Left-sited: samples on columns 0 and 2. Centered: between 0|1 and 2|3.
  expect(row({ x: 0, y: 0.5 })).toEqual([red(128), red(160), red(192), red(192)]);
  expect(row({ x: 0.5, y: 0.5 })).toEqual([red(128), red(144), red(176), red(192)]);
});

test('a window of a larger frame is the same part of the whole', () => {
  const of = { ...layout(8, 'limited', 'BT.709'), width: 16, height: 12 };
  const planes = planesOf(Buffer.alloc(frameBytes(of)), of);
  planes.luma.forEach((_, i) => (planes.luma[i] = 40 + ((i * 37) % 170)));
  planes.cb.forEach((_, i) => (planes.cb[i] = 100 + ((i * 11) % 60)));
  const whole = colorWindow(planes, of, { x: 0, y: 0, width: 16, height: 12 });
  const part = colorWindow(planes, of, { x: 5, y: 3, width: 6, height: 4 });
  for (let y = 0; y < 4; y++)
    for (let i = 0; i < 18; i++) expect(part.data[y * 18 + i]).toBe(whole.data[(y + 3) * 48 + 15 + i]);
});
