/** An ordinary scene: dropped, measured, its pairs flipped through. */
import { expect } from '@playwright/test';
import { writeSession } from '@/simulator/files';
import type { BenchPlan } from '@/simulator/truth';
import { checkAccessibility, dropAndMeasure, test } from './shared';

const PLAN: BenchPlan = {
  title: 'A walk to the weir',
  seed: 'scene-spec',
  width: 400,
  height: 225,
  camera: { response: 'srgb', bitDepth: 16, fullWell: 15000, readNoise: 3, falloffStops: 0.5, blurPx: 0.6 },
  lamps: { driftStops: -0.1 },
  protocol: 'matched',
  bareLevel: 0.75,
  filters: [
    { id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 }, stops: [3.21, 3.2, 3.19], cornerStops: 0.3 },
    { id: 'nd64', name: 'ND64', kind: 'nd', nominal: { ndFactor: 64 }, stops: [6, 6, 6] },
  ],
  repeats: 2,
  bareEvery: 2,
  startedAt: '2026-06-14T09:00:00Z',
  scenes: ['outdoor'],
  walk: { driftPx: 8, shakePx: 1.5, turnDegrees: 0.3, zoom: 0.004, parallax: 0.4, wind: 1, walker: true },
  spoiled: [{ take: 'outdoor-nd64', elsewhere: true }],
};

test('an ordinary scene is dropped and measured; its pairs are flipped through, what is left out is hatched', async ({
  page,
}, info) => {
  const folder = info.outputPath('walk');
  await writeSession(PLAN, { id: 'walkers', name: 'Walkers' }, folder);
  await dropAndMeasure(page, folder);
  await expect(page.getByRole('table', { name: 'Verdicts' })).toBeVisible();
  const row = page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /^ND8 / });
  expect(Math.abs(Number((await row.getByRole('cell').nth(1).innerText()).split(' ')[0]) - 3.2)).toBeLessThanOrEqual(
    0.02,
  );

  await row.getByRole('button').first().click();
  const panel = page.getByRole('region', { name: '“outdoor”, an ordinary scene' });
  await expect(panel.getByText(/pair 1 of 4/)).toBeVisible();
  await expect(panel).toContainText(/outdoor-nd8 on outdoor-bare-\d: \d\d % of it shows the same/);
  await expect(panel.getByRole('list', { name: 'Left out' })).toContainText('moved, or not the same');
  const pictures = panel.getByTestId('pair').locator('img');
  await expect.poll(() => pictures.evaluateAll((all: HTMLImageElement[]) => all.map((one) => one.naturalWidth))).toEqual([400, 400]); // prettier-ignore
  // By keyboard: the next pair, bare in the filtered one's place.
  await panel.getByRole('group', { name: 'Pairs of pictures' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(panel.getByText(/pair 2 of 4/)).toBeVisible();
  await expect(pictures.nth(0)).toBeVisible();
  await page.keyboard.press('b');
  await expect(pictures.nth(0)).toBeHidden();
  await expect(pictures.nth(1)).toBeVisible();
  expect(await pictures.nth(1).evaluate((one) => getComputedStyle(one).transform)).toMatch(/^matrix/);
  await page.keyboard.press('h');
  await expect(panel.getByTestId('pair').locator('svg')).toHaveCount(0);
  await checkAccessibility(page);

  // The spoiled take: no figure, both pictures side by side, and why.
  await page
    .getByRole('table', { name: 'Verdicts' })
    .getByRole('row', { name: /^ND64 / })
    .getByRole('button')
    .first()
    .click();
  const other = page.getByRole('region', { name: '“outdoor”, an ordinary scene' });
  await expect(other).toContainText('2 pictures were left out: the two do not show the same view.');
  await expect(other.getByRole('img', { name: 'outdoor-nd64-1.tif' })).toBeVisible();
  await expect(page.getByText(/^The light of “outdoor”/).first()).toBeVisible();
});
