/** A kit over two years: what faded, what the bench did, what a fall did not. */
import { expect } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { demoSecondSample, demoYears } from '@/simulator/demo';
import { expectedLuminousStops } from '@/simulator/expected/color';
import { checkAccessibility, choose, test } from './shared';

const YEARS = demoYears();

test('what fades, what the bench did and what a fall did, over eight sittings', async ({ page }) => {
  const tool = join(__dirname, '..', 'dist', 'manage.mjs');
  for (const { plan } of YEARS) {
    const { status, stderr } = spawnSync(process.execPath, [tool, 'demo-session', plan.seed], { encoding: 'utf8' });
    expect({ status, stderr }).toMatchObject({ status: 0 });
  }
  await page.goto('/kits');
  await page.getByRole('link', { name: 'Quarry Three', exact: true }).click();
  await page.getByRole('link', { name: 'Over the years' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('The bench has moved, or the filters have changed');
  await expect(page.getByRole('heading', { name: 'The bench has moved', exact: true })).toBeVisible();
  const steps = page.getByRole('list', { name: 'What happened to ND8' });
  await page.getByRole('button', { name: 'ND8', exact: true }).click();
  // The drop fell between the sittings at which the bench moved by 0.04.
  await expect(steps).toContainText(/^Dropped on 2025-07-20: \+0\.04/);
  await checkAccessibility(page);

  await page.getByRole('checkbox', { name: /Take the bench/ }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('ND64 has changed');
  await expect(steps).toContainText(/^Dropped on 2025-07-20: [−+]?0\.00/);
  const stopsOf = (i: number) => expectedLuminousStops(YEARS[i].plan.filters[2].stops);
  const last = YEARS.length - 1;
  // What the plan lets it fade by, less what it lets the bench move by, in luminous stops.
  const faded = stopsOf(last) - stopsOf(0) - 0.04;
  const cells = page.getByRole('row', { name: /^ND64/ }).getByRole('cell');
  const [, change, u95] = /^([−+]\d\.\d+) ±(\d\.\d+)$/.exec(await cells.nth(3).innerText())!;
  // What is shown is rounded to thousandths.
  expect(Math.abs(Number(change.replace('−', '-')) - faded)).toBeLessThan(Number(u95) + 0.0005);
  expect(Number(u95)).toBeLessThan(0.03);
  await expect(cells.last()).toHaveText('changed');
  for (const name of [/^ND4 /, /^ND8 /])
    await expect(page.getByRole('row', { name }).getByRole('cell').last()).toHaveText('steady');
  // By a control filter it is the same.
  await choose(page.getByRole('combobox', { name: 'The bench by' }), 'ND4, 8 sittings');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('ND64 has changed');
  await expect(page.getByRole('row', { name: /^ND4 / })).toHaveCount(0);

  // Another quality by the list, another filter from the table.
  await choose(page.getByRole('combobox', { name: 'What is followed' }), 'Warm/cool (b*)');
  await page.getByRole('button', { name: 'ND8', exact: true }).click();
  await expect(page.getByRole('img', { name: /^ND8: warm\/cool/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^ND8/ }).getByRole('cell').last()).toHaveText('steady');
  await checkAccessibility(page);
});

test('what happened to a filter is noted on its card, and kept', async ({ page }) => {
  await page.goto('/kits');
  await page.getByRole('link', { name: 'Quarry Three', exact: true }).click();
  await page.getByRole('row', { name: /ND4/ }).first().click();
  const card = page.getByRole('region', { name: 'Handling of ND4' });
  await card.getByRole('button', { name: 'Dropped, cleaned or replaced' }).click();
  await card.getByLabel('Day of event 1 of ND4').fill('2025-02-01');
  await choose(card.getByRole('combobox', { name: 'Event 1 of ND4' }), 'cleaned');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.reload();
  await page.getByRole('row', { name: /ND4/ }).first().click();
  await expect(card.getByLabel('Day of event 1 of ND4')).toHaveValue('2025-02-01');
  await checkAccessibility(page);
  await page.getByRole('link', { name: 'Over the years' }).click();
  await page.getByRole('button', { name: 'ND4', exact: true }).click();
  await expect(page.getByRole('list', { name: 'What happened to ND4' })).toContainText('Cleaned on 2025-02-01');
});

test('another sample of the kit: how far samples differ, told from how far sittings do', async ({ page }) => {
  const tool = join(__dirname, '..', 'dist', 'manage.mjs');
  for (const { plan } of demoSecondSample()) {
    const { status, stderr } = spawnSync(process.execPath, [tool, 'demo-session', plan.seed], { encoding: 'utf8' });
    expect({ status, stderr }).toMatchObject({ status: 0 });
  }
  await page.goto('/years?kit=Quarry%20Three');
  const samples = page.getByRole('region', { name: 'Samples of one product' });
  // The plan lets the second ND8 be 0.12 stops darker, and the others hardly differ.
  await expect(samples).toContainText('Samples of ND8 differ by more than sittings of one sample do');
  const row = samples.getByRole('row', { name: /^ND8/ });
  await expect(row).toContainText(/Q8-031, 8×/);
  await expect(row).toContainText(/Q8-092, 2×/);
  const between = /^(\d\.\d+) \((\d\.\d+) to/.exec(await row.getByRole('cell').nth(1).innerText())!;
  // Of two samples 0.12 apart the standard deviation is 0.12/√2; the bench's own 0.04 is in what the limits allow.
  expect(Math.abs(Number(between[1]) - 0.12 / Math.SQRT2)).toBeLessThan(0.02);
  expect(Number(between[2])).toBeGreaterThan(0);
  await checkAccessibility(page);
  // Both samples stand in the list by their own ids; the first one's line has none of the second's sittings.
  await choose(page.getByRole('combobox', { name: 'Kit' }), 'Quarry Three (quarry-three-lent)');
  await expect(page.getByRole('row', { name: /^ND8/ }).first().getByRole('cell').first()).toHaveText('2');
});
