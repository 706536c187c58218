/** A sitting is looked at while it goes on: the simulated camera shoots a plan, with mistakes that are told and shot again. */
import { expect, type Page } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { checkAccessibility, choose, test } from './shared';

const manage = join(__dirname, '..', 'dist', 'manage.mjs');

/** Plans a sitting on a chart, bare at both ends, and keeps it; gives its id. */
async function planSitting(page: Page, title: string, kit: string): Promise<string> {
  await page.goto('/plan');
  await page.getByLabel('Title').fill(title);
  await page.getByLabel('Kit in shorthand').fill(kit);
  await page.getByLabel('even wall').uncheck();
  await page.getByLabel(/^Light at the chart/).fill('1/2000 f/2.8 ISO 100');
  await page.getByLabel('Bare after every').fill('2');
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  await expect(page).toHaveURL(/\/sessions\/.*\/plan/);
  return /sessions\/([^/]+)/.exec(page.url())![1];
}

const shoot = async (page: Page, mistake = 'no mistake') => {
  const camera = page.getByRole('region', { name: 'Simulated camera' });
  await choose(camera.getByRole('combobox', { name: 'What goes wrong' }), mistake);
  await camera.getByRole('button', { name: 'Shoot the next take' }).click();
  await expect(camera.getByRole('status')).toHaveText(/^(Shot: |All planned)/);
};

test('takes are laid and measured as they come; a spoiled one is told, left out, and comes up again', async ({
  page,
}) => {
  await planSitting(page, 'Live sitting', 'ND4 ND8');
  await page.getByRole('link', { name: 'Live', exact: true }).click();
  await page.getByRole('button', { name: 'Start' }).click();
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText(/0 of 2 filters within ±0.02/);
  const next = page.getByTestId('next');
  // Bare, and two darker ones for the camera's curve.
  for (const coming of [/^Bare, chart/, /^Bare, darker, chart/, /^Bare, darker, chart: 1/]) {
    await expect(next).toHaveText(coming);
    const before = await next.innerText();
    await shoot(page);
    if (coming.source.startsWith('^Bare, chart')) await expect(next).not.toHaveText(before);
  }
  await expect(next).toHaveText(/^ND4, chart/);
  // Another filter is on: that may be the label, so a person decides.
  await shoot(page, 'wrong filter');
  const alarms = page.getByRole('list', { name: 'Alarms' });
  await expect(alarms).toContainText(/Wrong filter/);
  await checkAccessibility(page);
  await alarms.getByRole('button', { name: /Leave chart-nd4 out/ }).click();
  await expect(next).toHaveText(/^ND4, chart/);
  await shoot(page);
  const row = page.getByRole('row', { name: /^ND4/ });
  await expect(row).toContainText(/[12]\.\d\d ±0\.\d/);
  await expect(page.getByText('Nothing is wrong so far')).toBeVisible();
  // Out of focus: told, left out by itself, and next again.
  await shoot(page, 'focus');
  await expect(page.getByRole('list', { name: 'Left out' })).toContainText('chart-nd8');
  await expect(next).toHaveText(/^ND8, chart/);
  await shoot(page);
  await shoot(page);
  await expect(page.getByText(/^All is shot/)).toBeVisible();
  await expect(page.getByRole('row', { name: /^ND8/ })).toContainText(/[23]\.\d\d ±0\.\d/);
  const [, stops, u95] = /(\d\.\d+) ±(\d\.\d+)/.exec(await row.innerText())!;
  // The run sheet tells on a phone what was opened again, and why.
  await page.getByRole('link', { name: 'Run sheet' }).click();
  await expect(page.getByRole('list', { name: 'All takes' })).toContainText(/focus|soft|sharp/i);
  await page.goBack();
  await page.getByRole('button', { name: 'End and measure' }).click();
  await expect(heading).toHaveText('Look on while you shoot');
  await page.getByRole('link', { name: 'Verdict' }).first().click();
  // Measured properly it is what was seen while it went on.
  const verdict = page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /^ND4/ });
  const found = /([12]\.\d\d) ±/.exec(await verdict.innerText())!;
  expect(Math.abs(Number(found[1]) - Number(stops))).toBeLessThan(Number(u95));
});

test('a variable filter’s ring at another mark is told, and each mark has its strength', async ({ page }) => {
  const session = await planSitting(page, 'Turning sitting', 'VND 2-5');
  await page.goto(`/sessions/${session}/live`);
  await page.getByRole('button', { name: 'Start' }).click();
  const next = page.getByTestId('next');
  for (const coming of [/^Bare, chart/, /^Bare, darker, chart/, /^Bare, darker, chart/]) {
    await expect(next).toHaveText(coming);
    await shoot(page);
  }
  await expect(next).toHaveText('VND 2–5 at mark 2, chart: 2 pictures');
  await shoot(page, 'wrong angle');
  const alarms = page.getByRole('list', { name: 'Alarms' });
  await expect(alarms).toContainText(/Wrong mark\?.*Look at which mark the ring stands/);
  await alarms.getByRole('button', { name: /^Leave chart-vnd-2-5-m2 out/ }).click();
  await expect(next).toHaveText(/^VND 2–5 at mark 2/);
  await shoot(page);
  await expect(next).toHaveText(/^VND 2–5 at mark 3/);
  await shoot(page);
  await expect(page.getByRole('row', { name: /^VND/ })).toContainText(
    /mark 2\s*[12]\.\d\d ±0\.\d+\s*mark 3\s*[23]\.\d\d ±0\.\d/,
  );
  await page.getByRole('button', { name: 'End and measure' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Look on while you shoot');
});

test('a camera that writes into a watched folder is followed by itself', async ({ page }) => {
  const session = await planSitting(page, 'Watched sitting', 'ND8');
  await page.goto(`/sessions/${session}/live`);
  await page.getByRole('button', { name: 'Start' }).click();
  await expect(page.getByTestId('next')).toHaveText(/^Bare/);
  const folder = await mkdtemp(join(tmpdir(), 'glade-live-'));
  const watcher = spawn(process.execPath, [join(__dirname, '..', 'dist', 'watch.mjs'), folder], { stdio: 'ignore' });
  const camera = spawn(process.execPath, [manage, 'camera', session, folder, '2'], { stdio: 'ignore' });
  try {
    await expect(page.getByText(/^All is shot/)).toBeVisible();
    await expect(page.getByRole('row', { name: /^ND8/ })).toContainText(/[23]\.\d\d ±0\.\d/);
  } finally {
    camera.kill();
    watcher.kill();
    await rm(folder, { recursive: true, force: true });
  }
  await page.getByRole('button', { name: 'End and measure' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Look on while you shoot');
});

test('“Redo” tapped on the run sheet leaves a take out whose pictures are there, and taking it back brings it again', async ({
  page,
  context,
}) => {
  const session = await planSitting(page, 'Redone sitting', 'ND4');
  await page.goto(`/sessions/${session}/live`);
  await page.getByRole('button', { name: 'Start' }).click();
  const next = page.getByTestId('next');
  await expect(next).toHaveText(/^Bare/);
  await shoot(page);
  await expect(next).toHaveText(/^Bare, darker/);
  const sheet = await context.newPage();
  await sheet.setViewportSize({ width: 390, height: 844 });
  await sheet.goto(`/sessions/${session}/shoot`);
  const first = sheet.getByRole('list', { name: 'All takes' }).getByRole('button').first();
  await expect(first).toContainText(/done/i);
  await first.click();
  await sheet.getByRole('button', { name: 'Redo' }).click();
  await expect(page.getByRole('list', { name: 'Left out' })).toContainText('“Redo” was tapped');
  await expect(next).toHaveText(/^Bare, chart/);
  await sheet.getByRole('button', { name: /^Take back “redo”/ }).click();
  await expect(next).toHaveText(/^Bare, darker/);
  await expect(page.getByRole('list', { name: 'Left out' })).toBeHidden();
  await sheet.close();
  await page.getByRole('button', { name: 'End and measure' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Look on while you shoot');
});
