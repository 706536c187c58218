import { wcagContrast } from 'culori';
import { readFileSync } from 'node:fs';

const css = readFileSync('src/app/globals.css', 'utf8');

/** The colors of the block that begins with these words. */
function colorsOf(start: string, from = 0): Record<string, string> {
  const at = css.indexOf(start, from);
  if (at < 0) throw new Error(`No block ${start}.`);
  const block = css.slice(at, css.indexOf('}', at));
  return Object.fromEntries(
    [...block.matchAll(/--color-([a-z0-9-]+): (#[0-9a-f]{6});/g)].map((one) => [one[1], one[2]]),
  );
}

const contrast = css.indexOf('prefers-contrast: more');
const [gray, paper] = [colorsOf('@theme {'), colorsOf("[data-room='paper'] {")];
const rooms: readonly [string, Record<string, string>][] = [
  ['gray', gray],
  ['paper', paper],
  ['gray, more contrast', { ...gray, ...colorsOf(":root,\n  [data-room='gray'] {", contrast) }],
  ['paper, more contrast', { ...paper, ...colorsOf("[data-room='paper'] {", contrast) }],
];
const GROUNDS = ['header', 'ladder', 'well', 'floor', 'sheet'];

// Failures are seldom on the screen when a browser test looks, so their contrast is computed. WCAG 2.2, 1.4.3.
describe.each(rooms)('the room: %s', (name, colors) => {
  test.each(['ink', 'ink-2', 'ink-3', 'accent', 'warning', 'failure'])(
    'text in %s stands out on every ground',
    (text) => {
      for (const ground of GROUNDS)
        expect([ground, wcagContrast(colors[text], colors[ground]) >= 4.5]).toEqual([ground, true]);
    },
  );

  test('text on the accent and on ink stands out', () => {
    expect(wcagContrast(colors['on-accent'], colors.accent)).toBeGreaterThanOrEqual(4.5);
    expect(wcagContrast(colors['on-ink'], colors.ink)).toBeGreaterThanOrEqual(4.5);
  });

  test('grounds and mats have no tint: pictures are judged beside them', () => {
    for (const ground of [...GROUNDS, 'raised', 'mat', 'rule'])
      expect([ground, /^#(..)\1\1$/.test(colors[ground])]).toEqual([ground, true]);
  });

  test('who asks for more contrast gets it', () => {
    if (!name.includes('more')) return;
    const plain = name.startsWith('gray') ? gray : paper;
    for (const text of ['ink', 'ink-2', 'ink-3'])
      expect(wcagContrast(colors[text], colors.sheet)).toBeGreaterThan(wcagContrast(plain[text], plain.sheet));
    // WCAG 2.2, 1.4.6.
    expect(wcagContrast(colors['ink-3'], colors.sheet)).toBeGreaterThanOrEqual(7);
  });
});

test('gray within a bright page is the gray room, color by color', () => {
  expect(colorsOf("[data-room='gray'] {")).toEqual(gray);
});
