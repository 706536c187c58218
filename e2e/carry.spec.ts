/** What to carry: from the demo's measured kits, for works that are typed. */
import { expect } from '@playwright/test';
import { checkAccessibility, choose, test } from './shared';

test('the smallest kit for a work, what each filter adds, and where it falls short', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'What to carry' }).click();
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText(/filters? covers? (every hour|\d+ % of the hours)$/);
  const table = page.getByRole('table', { name: /^What to carry/ });
  await expect(table.getByRole('row').nth(1)).toHaveText(/^No filter0\d+ h/);
  // Every step adds, the shares rise.
  const shares = (await table.getByRole('row').allInnerTexts()).slice(1).map((row) => Number(/(\d+) %/.exec(row)![1]));
  expect([...shares].sort((a, b) => a - b)).toEqual(shares);
  await expect(page.getByRole('img', { name: /^Filming: hours of the year/ })).toBeVisible();
  await checkAccessibility(page);

  // One filter alone leaves hours, which are told; the last of the year's hours is no filter's fault.
  await choose(page.getByRole('combobox', { name: 'Filters to add' }), '1 at most');
  await expect(heading).toHaveText(/^One filter covers \d+ % of the hours$/);
  await expect(page.getByRole('list', { name: 'Where it falls short' })).toContainText('a further filter would do');
  await page.getByRole('button', { name: 'Another kind of work' }).click();
  const second = page.getByRole('group', { name: 'Work: Work 2' });
  await second.getByLabel('Kind of work').fill('Waterfalls');
  const falls = page.getByRole('group', { name: 'Work: Waterfalls' });
  await falls.getByRole('radio', { name: 'long exposure' }).click();
  await falls.getByLabel('Seconds open').fill('2');
  await expect(page.getByRole('img', { name: /^Waterfalls: hours of the year/ })).toBeVisible();
  // By keys: the months stand in one row of stops.
  await falls.getByRole('button', { name: 'Jan' }).focus();
  await page.keyboard.press('Space');
  await expect(falls.getByRole('button', { name: 'Jan' })).toHaveAttribute('aria-pressed', 'false');
  await falls.getByLabel('to, h').fill('3');
  await expect(falls.getByRole('alert')).toHaveText('The day ends before it begins.');
  await falls.getByLabel('to, h').fill('18');
  // It is remembered; what can't be reached at all is told with its reason.
  await page.reload();
  await expect(falls.getByLabel('Seconds open')).toHaveValue('2');
  await expect(page.getByRole('list', { name: 'Where it falls short' })).toContainText('Waterfalls');
  // Into a report: of its own, answered by the figures of the day.
  const told = await heading.innerText();
  await page.getByRole('button', { name: 'Put into a report' }).click();
  await choose(page.getByRole('combobox', { name: 'Report that it goes into' }), 'A new report of these kits');
  await page.getByRole('button', { name: 'Put into the report' }).click();
  await page.getByRole('button', { name: 'Open the report' }).click();
  await expect(page.getByLabel('Title')).toHaveValue('What to carry');
  await expect(page.frameLocator('iframe').getByRole('heading', { level: 3, name: told })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take “Filming and Waterfalls” out' })).toBeVisible();
  await page.goBack();
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
});
