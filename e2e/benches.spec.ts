/** Between benches: the demo’s three others, one more taken in from a table, and what can’t be read. */
import { expect } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import { demoSessions } from '@/simulator/demo';
import { expectedLuminousStops } from '@/simulator/expected/color';
import { checkAccessibility, choose, test } from './shared';

const FOUNDRY = demoSessions()[0].plan.filters;
const stopsOf = (name: string) => expectedLuminousStops(FOUNDRY.find((one) => one.name === name)!.stops);

test('who is off, and in what; another bench is taken in, told, put away and brought back', async ({ page }, info) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Between benches' }).click();
  await expect(page.getByRole('list', { name: 'Benches' }).getByRole('listitem')).toHaveCount(3);
  await choose(page.getByRole('combobox', { name: 'Filter' }), 'ND32 of Foundry Set');
  // One’s own, two that are right within their ±, and one whose dial stood a third of a stop off.
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Weir Cottage');
  const scores = page.getByRole('table', { name: 'Strength of ND32 of Foundry Set by bench' });
  const found = async (bench: string) =>
    Number((await scores.getByRole('row', { name: new RegExp(`^${bench}`) }).getByRole('cell').first().innerText()).split(' ')[0]); // prettier-ignore
  expect(Math.abs((await found('This bench')) - stopsOf('ND32'))).toBeLessThan(0.02);
  await expect(
    scores
      .getByRole('row', { name: /^Weir Cottage/ })
      .getByRole('cell')
      .last(),
  ).toHaveText('off');
  await expect(
    scores
      .getByRole('row', { name: /^This bench/ })
      .getByRole('cell')
      .last(),
  ).toHaveText('agrees');
  const patterns = page.getByRole('region', { name: 'In what a bench is off' });
  await expect(patterns).toContainText(/ND32 of Foundry Set by −0\.3\d ±0\.0\d stop: a third of a stop on a dial/);
  // Two hundredths for each stop of strength, by the demo’s making.
  await expect(patterns).toContainText(
    /\+0\.0(19|2|21)\d* ±0\.00\d+ stop for each stop of strength over \d+ filters: its camera’s curve/,
  );
  await expect(page.getByRole('region', { name: 'Two filters' })).toContainText('along the diagonal');
  await checkAccessibility(page);

  const rows = FOUNDRY.map(({ name, stops }) => `Foundry Set;${name};${(expectedLuminousStops(stops) + 0.004).toFixed(3).replace('.', ',')};0,02`); // prettier-ignore
  const path = info.outputPath('fell-side.csv');
  await writeFile(path, ['kit;filter;stops;stops_u95', ...rows, 'Foundry Set;ND9;about 3;0,02'].join('\n'));
  await page.getByLabel('Readings of another bench').setInputFiles(path);
  await expect(page.getByLabel(/Whose bench is fell-side\.csv/)).toHaveValue('fell side');
  await page.keyboard.press('Enter');
  await expect(page.getByText(`fell side: ${FOUNDRY.length} filters taken in.`)).toBeVisible();
  await expect(page.getByText('ND9: “about 3” in stops is no number.')).toBeVisible();
  await expect(
    scores
      .getByRole('row', { name: /^fell side/ })
      .getByRole('cell')
      .last(),
  ).toHaveText('agrees');

  const bad = info.outputPath('prices.csv');
  await writeFile(bad, 'filter,price\nND8,12\n');
  await page.getByLabel('Readings of another bench').setInputFiles(bad);
  await page.getByRole('button', { name: 'Take in', exact: true }).click();
  await expect(page.getByText(/prices\.csv: There is no column of figures/)).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();

  // A form of a round robin opens as a session of that bench, with the kit's own names.
  await page.getByRole('button', { name: 'Plan a round robin' }).click();
  await choose(page.getByRole('combobox', { name: 'Kit' }), 'Foundry Set');
  await choose(page.getByRole('combobox', { name: /^Control filter/ }), 'ND8');
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Form for Tarn House' }).click();
  const form = info.outputPath('form.glade.zip');
  await (await coming).saveAs(form);
  await page.goto('/sessions/new');
  await page.getByRole('main').getByLabel('Files', { exact: true }).setInputFiles(form);
  await expect(page).toHaveURL(/\/sessions\/[0-9a-f-]{36}/);
  const id = /sessions\/([0-9a-f-]{36})/.exec(page.url())![1];
  await page.goto(`/sessions/${id}/details`);
  await expect(page.getByLabel('Title')).toHaveValue('Round robin · Foundry Set · Tarn House');
  await expect(page.getByLabel('Notes')).toHaveValue(/bare, ND8, ND4, .*, ND8, bare\./);
  await page.goto('/benches');

  await page.getByRole('button', { name: 'Put fell side away' }).click();
  await expect(scores.getByRole('row', { name: /^fell side/ })).toHaveCount(0);
  await page.goto('/put-away');
  await page.getByRole('button', { name: 'Bring “fell side” back' }).click();
  await expect(page.getByText('“fell side” is back.').first()).toBeVisible();
  await page.goto('/benches');
  await expect(page.getByRole('list', { name: 'Benches' })).toContainText('fell side');
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(390);
});
