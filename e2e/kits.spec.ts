/** Kits and rigs on the shelf, and what a plan takes from them. */
import { expect } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { checkAccessibility, choose, test } from './shared';

test('a kit is typed, filled like a spreadsheet, kept, taken away and brought in again', async ({ page }, info) => {
  const name = `Typed kit ${Date.now()}`;
  await page.goto('/');
  // Keys are listened to from a moment after the page is there.
  await expect(async () => {
    await page.keyboard.press('1');
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Kits & rigs', { timeout: 2000 });
  }).toPass();
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Filters in shorthand').fill('ND4 0.9');
  await expect(page.getByRole('list', { name: 'The kit, in all notations' })).toContainText(
    '2.99 stops, ND7.9, D 0.90',
  );
  await checkAccessibility(page);
  await page.getByRole('button', { name: 'New kit' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(name);
  const table = page.getByRole('table', { name: 'Filters of the kit' });
  await expect(table.getByRole('row')).toHaveCount(3);

  // By keyboard: down the mass column, a new row at its end.
  await page.getByLabel('Mass, g, row 1').fill('2,4');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Mass, g, row 2')).toBeFocused();
  await page.keyboard.type('heavy');
  await expect(page.getByText('Row 2: The mass is a number of grams above 0.')).toBeVisible();
  await page.getByLabel('Mass, g, row 2').fill('3.1');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Mass, g, row 3')).toBeFocused();

  // From a spreadsheet: two rows of three cells, the second one beyond the table's end.
  await page.getByLabel('Filter, row 3').focus();
  await page.evaluate(() => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', 'Strong\tND64\t3,3\nCurved\tVND 2-5\t4\n');
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
    );
  });
  await expect(table.getByRole('row')).toHaveCount(5);
  await expect(table.getByRole('row').nth(3)).toContainText('6.00 stops · ND64 · D 1.81');
  await expect(page.getByLabel('Kind, row 4')).toHaveText('variable ND');
  await page.getByLabel('Label, row 1').fill('nd four');
  await expect(page.getByText(/Row 1: “(nd|four)”/)).toBeVisible();
  await page.getByLabel('Label, row 1').fill('2 stops');

  // Handling, a photo, the price, mass against a limit.
  await page.getByLabel('Filter, row 3').focus();
  const card = page.getByRole('region', { name: 'Handling of Strong' });
  await card.getByRole('button', { name: 'Falls off when shaken: yes' }).click();
  await expect(table.getByRole('row').nth(3)).toContainText('1 flaw');
  const photo = info.outputPath('ring.jpg');
  await sharp({ create: { width: 300, height: 200, channels: 3, background: '#808080' } })
    .jpeg()
    .toFile(photo);
  await card.getByLabel('Photos of Strong').setInputFiles(photo);
  await expect(card.getByRole('img', { name: 'Strong: ring.jpg' })).toBeVisible();
  await choose(page.getByLabel('How obtained'), 'lent');
  await page.getByLabel('Price of the kit').fill('89');
  await page.getByLabel('Year').fill('20241');
  await page.getByLabel('Year').fill('202');
  await expect(page.getByText('Write the year with four digits')).toBeVisible();
  await page.getByLabel('Year').fill('2024');
  await page.getByLabel('Thread or mount').fill('67 mm');
  await card.getByLabel('Serial number').fill('PW-0042');
  // A filter that no number tells.
  await page.getByLabel('More filters in shorthand').fill('mist 1/4');
  await page.getByRole('button', { name: 'Add them' }).click();
  await expect(table.getByRole('row')).toHaveCount(6);
  await expect(page.getByLabel('Kind, row 5')).toHaveText('diffusion');
  const mass = page.getByRole('region', { name: 'Mass on an aircraft' });
  await mass.getByLabel('Ready to fly, without a filter, g').fill('246');
  await mass.getByLabel('Limit of its class, g').fill('249');
  await expect(mass.getByRole('status')).toContainText(
    'Over the limit: ND0.9 by 0.1 g, Strong by 0.3 g, Curved by 1.0 g.',
  );
  await expect(page.getByText('Saved')).toBeVisible();
  await checkAccessibility(page);
  await page.reload();
  await expect(page.getByLabel('Mass, g, row 3')).toHaveValue('3.3');
  await expect(page.getByLabel('How obtained')).toHaveText('lent');

  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).click();
  const csv = await readFile(await (await download).path(), 'utf8');
  expect(csv.split('\n')[3]).toContain(',lent,2024,67 mm,89,EUR,Strong,ND64,nd,PW-0042,,3.3');
  expect(csv.split('\n')[5]).toContain('Mist 1/4,unmarked,diffusion');
  await page.goto('/kits');
  const list = page.getByRole('region', { name: 'Kits' });
  await list.getByRole('button', { name: `Put “${name}” away` }).click();
  await expect(list.getByRole('link', { name, exact: true })).toHaveCount(0);
  const broken = csv.replaceAll(name, `${name} back`).replace(',2 stops,', ',nothing known,');
  await page
    .getByLabel('Files of kits')
    .setInputFiles({ name: 'kit.csv', mimeType: 'text/csv', buffer: Buffer.from(broken) });
  await expect(page.getByText('kit.csv: 1 kit with 4 filters taken in.')).toBeVisible();
  await expect(page.getByText(/^Row 2: “nothing”/)).toBeVisible();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(list.getByRole('link', { name, exact: true })).toBeVisible();
  await list.getByRole('link', { name: `${name} back` }).click();
  await expect(table.getByRole('row')).toHaveCount(5);
  await expect(page.getByLabel('Thread or mount')).toHaveValue('67 mm');
});

test('a change in another window is not overwritten', async ({ page, context }) => {
  await page.goto('/kits');
  await page.getByLabel('Name').fill('Two windows');
  await page.getByLabel('Filters in shorthand').fill('ND4');
  await page.getByRole('button', { name: 'New kit' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Two windows');
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel('Maker').fill('Palewright');
  await expect(other.getByText('Saved')).toBeVisible();
  await page.getByLabel('Maker').fill('Somebody');
  await expect(page.getByText(/changed in another window/)).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Maker')).toHaveValue('Palewright');
});

test('a rig’s lenses and limits go into the plan, a lens a scene; a target says which filter reaches it', async ({
  page,
}) => {
  await page.goto('/kits');
  await page.getByRole('button', { name: 'New rig' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('New camera');
  await page.getByLabel('Camera', { exact: true }).and(page.getByRole('textbox')).fill('Two-lens camera');
  await page.getByLabel('Slowest, clips').fill('never');
  await expect(page.getByLabel('Slowest, clips')).toHaveAttribute('aria-invalid', 'true');
  await page.getByLabel('Slowest, clips').fill('1/50');
  await page.getByLabel('Highest ISO').fill('50');
  await expect(page.getByText('The highest ISO lies below the base ISO.')).toBeVisible();
  await page.getByLabel('Highest ISO').fill('800');
  await page.getByRole('button', { name: 'Add a lens' }).click();
  const second = page.getByRole('group', { name: 'Lens 2' });
  await second.getByLabel('Lens', { exact: true }).fill('Fixed eight');
  await choose(second.getByLabel('Aperture'), 'fixed');
  await second.getByLabel('f-number').fill('8');
  await second.getByLabel('Field of view, °').fill('90');
  await page.getByLabel('The camera flies').check();
  await expect(page.getByText('Saved')).toBeVisible();
  await checkAccessibility(page);

  await page.getByRole('link', { name: 'Plan a sitting' }).click();
  await expect(page.getByLabel('Slowest shutter')).toHaveValue('30');
  await page.getByLabel('Kit in shorthand').fill('ND8 32 CPL');
  await choose(page.getByLabel('What is shot'), 'clips');
  await expect(page.getByLabel('Slowest shutter')).toHaveValue('1/50');
  await page.getByLabel(/^Light at the chart/).fill('1/1600 f/2.8 ISO 100');
  // Frames of the new rig: 24 first; 172.8° of them is 1/50 s, and five stops lead from 1/1600 s there.
  await page.getByLabel('Shutter angle, °').fill('172.8');
  await expect(page.getByRole('region', { name: 'The target' }).getByRole('heading')).toHaveText(
    'ND32 brings the shutter to 1/50 s at this light',
  );
  await choose(page.getByLabel('Lens for the even wall'), 'Fixed eight');
  const rows = page.getByRole('region', { name: 'Run order' });
  await expect(rows.getByRole('row', { name: /flat\s*bare/ }).first()).toContainText('8.0');
  await expect(rows.getByRole('row', { name: /chart\s*bare/ }).first()).toContainText('2.8');
  const spoils = page.getByRole('list', { name: 'What would spoil it' });
  await expect(spoils).toContainText('Fixed eight sees 90° wide');
  await expect(spoils).toContainText('were not weighed');
  await page.getByLabel('A line of your own').fill('Spare card');
  await page.getByRole('button', { name: 'Add the line' }).click();
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  await expect(page).toHaveURL(/\/sessions\/.*\/plan/);
  await expect(page.getByRole('list', { name: 'Checklist' })).toContainText('Spare card');
});

test('what is typed, chosen and pressed before a page runs is done once it does', async ({ page }) => {
  let letIn = () => {};
  const running = new Promise<void>((resolve) => (letIn = resolve));
  await page.route('**/*.js', async (route) => {
    await running;
    await route.continue();
  });
  await page.goto('/plan', { waitUntil: 'commit' });
  await page.getByLabel('Title').fill('Typed early');
  await page.getByLabel('Kit in shorthand').fill('ND4 8');
  await page.getByLabel('even wall').click();
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  expect(page.url()).toMatch(/\/plan$/);
  letIn();
  await expect(page).toHaveURL(/\/sessions\/.*\/plan/);
  await expect(page).toHaveTitle(/Typed early/);
  // The takes are of the kit that was typed, on the chart alone.
  await page.getByRole('link', { name: 'Shoot it' }).click();
  const takes = page.getByRole('list', { name: 'All takes' }).getByRole('listitem');
  await expect(takes.filter({ hasText: /ND8/ })).toHaveCount(1);
  await expect(takes.filter({ hasText: /wall/ })).toHaveCount(0);
});
