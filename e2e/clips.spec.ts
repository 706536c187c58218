/** Clips in the viewing room: played and scrubbed in step. */
import { expect, type Page } from '@playwright/test';
import { checkAccessibility, test, valueOf } from './shared';
import { filmWalk, METERS, TOLD } from './walk';

// Without graphics hardware every pixel takes its time.
test.use({ viewport: { width: 1000, height: 660 } });

/** Meters that the two sides of the picture tell: the walk paints its place into the upper rows. */
async function placesShown(page: Page): Promise<[number, number]> {
  return page.getByTestId('picture').evaluate(
    (canvas: HTMLCanvasElement, { from, to, meters }) => {
      const copy = new OffscreenCanvas(canvas.width, canvas.height);
      const context = copy.getContext('2d')!;
      context.drawImage(canvas, 0, 0);
      const lit = (code: number) => (code <= 0.04045 ? code / 12.92 : ((code + 0.055) / 1.055) ** 2.4);
      const read = (x: number) => {
        const { data } = context.getImageData(Math.round(x * canvas.width), Math.round(canvas.height * 0.1), 8, 8);
        let sum = 0;
        for (let i = 1; i < data.length; i += 4) sum += lit(data[i] / 255);
        const light = sum / 64;
        // BT.709's signal of this light.
        const signal = light < 0.018 ? 4.5 * light : 1.099 * light ** 0.45 - 0.099;
        return ((signal - from) / (to - from)) * meters;
      };
      return [read(0.3), read(0.7)] as [number, number];
    },
    { ...TOLD, meters: METERS },
  );
}

test('clips play in step by place, by time with a shift, frame by frame, by hand and by keys', async ({
  page,
}, info) => {
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles(await filmWalk(info.outputPath('walk')));
  await expect(page).toHaveURL(/\/regions/, { timeout: 400_000 });
  await page.goto(page.url().replace(/\/[a-z]+$/, '/compare'));
  const picture = page.getByTestId('picture');
  await expect(picture).toHaveAttribute('data-settled', 'true', { timeout: 150_000 });
  const slider = page.getByLabel('Moment of the clips');
  // Bare walks two meters a second: at three seconds six; the other one was there after two.
  await slider.focus();
  await page.keyboard.press('Home');
  for (let i = 0; i < 200 && (await valueOf(slider)) < 3 - 1e-6; i++) await page.keyboard.press('ArrowRight');
  const other = page.getByRole('status').filter({ hasText: 'apart' });
  await expect(other).toHaveText('cameras 0.0 m apart');
  await expect(page.getByText(/^ND8, .*at 2\.00 s/).first()).toBeVisible();
  const near = async (a: number, b: number) =>
    expect(async () => {
      const [left, right] = await placesShown(page);
      expect(Math.abs(left - a)).toBeLessThan(0.12);
      expect(Math.abs(right - b)).toBeLessThan(0.12);
    }).toPass({ timeout: 150_000 });
  await near(6, 6);
  // At rest the clip's own pixels have come, and tell the same.
  await expect(picture).toHaveAttribute('data-settled', 'true', { timeout: 150_000 });
  await near(6, 6);
  await checkAccessibility(page);
  // A frame on is 8 cm of bare's walk, whose middle frames the other one passes twice as fast.
  await page.getByRole('heading', { level: 1 }).click({ force: true });
  for (let i = 0; i < 25; i++) await page.keyboard.press('.');
  await near(8, 8);
  await page.keyboard.press('<');
  await near(6, 6);
  await page.getByRole('radio', { name: 'By time' }).click();
  await near(6, 10);
  await page.getByLabel('ND8 shifted by').fill('-1');
  await near(6, 6);
  // It goes on by itself and comes round again.
  await page.getByRole('heading', { level: 1 }).click({ force: true });
  await page.getByRole('radio', { name: 'By place' }).click();
  await page.getByLabel('ND8 shifted by').fill('0');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const first = await valueOf(slider);
  await expect.poll(() => valueOf(slider), { timeout: 20_000 }).toBeGreaterThan(first + 0.5);
  const [left, right] = await placesShown(page);
  expect(Math.abs(left - right)).toBeLessThan(0.25);
  await expect.poll(() => valueOf(slider), { timeout: 400_000 }).toBeLessThan(first);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  // What was shifted by hand is kept for the next time.
  await page.getByLabel('ND8 shifted by').fill('0.12');
  await page.reload();
  await expect(page.getByLabel('ND8 shifted by')).toHaveValue('0.12');
});
