import { wcagContrast } from 'culori';
import { readFileSync } from 'node:fs';

const css = readFileSync('src/app/globals.css', 'utf8');
const color = (name: string) => {
  const found = new RegExp(`--color-${name}: (#[0-9a-f]{6});`).exec(css);
  if (!found) throw new Error(`No color ${name}.`);
  return found[1];
};

// Failures are seldom on the screen when a browser test looks, so their contrast is computed. WCAG 2.2, 1.4.3.
describe.each(['ink', 'ink-2', 'ink-3', 'accent', 'warning', 'failure'])('text in %s', (text) => {
  test.each(['header', 'ladder', 'well', 'floor', 'sheet'])('stands out on the %s', (ground) => {
    expect(wcagContrast(color(text), color(ground))).toBeGreaterThanOrEqual(4.5);
  });
});

test('text on the accent stands out', () => {
  expect(wcagContrast(color('on-accent'), color('accent'))).toBeGreaterThanOrEqual(4.5);
});
