/** Two windows at one session: both keep what they did, each takes back its own, and history brings back what was. */
import { expect, type Page } from '@playwright/test';
import { mkdir, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { writeSession } from '@/simulator/files';
import { BENCH } from './pictures';
import { checkAccessibility, choose, test, whole } from './shared';
import { ZipFile } from './unzip';

let session = '';

test.beforeAll(async ({ browser }, info) => {
  const folder = info.outputPath('bench');
  await mkdir(folder, { recursive: true });
  await writeSession({ ...BENCH, title: 'Two windows', seed: 'together' }, { id: 'kit', name: 'Shared kit' }, folder);
  const page = await browser.newPage();
  whole(page);
  await page.goto('/sessions/new');
  const files = (await readdir(folder)).map((name) => join(folder, name));
  await page.getByLabel('Files', { exact: true }).setInputFiles(files);
  await expect(page).toHaveURL(/\/regions/, { timeout: 120_000 });
  session = page.url().replace(/\/regions.*$/, '');
  await page.close();
});

async function another(page: Page): Promise<Page> {
  const other = await page.context().newPage();
  whole(other);
  return other;
}

const saved = (page: Page) => expect(page.getByText('Saved', { exact: true })).toBeVisible();
/** The session's document as it is now. */
async function stands(page: Page): Promise<{ takes: { id: string; exposure: object }[]; patches: object[] }> {
  const answer = await page.request.get(`${session.replace('/sessions/', '/api/sessions/')}/bundle`);
  const files = await ZipFile.read(await answer.body());
  return JSON.parse(files.get('session.glade.json')!.toString('utf8'));
}

test('fields are kept beside each other; one field of both is told; undo takes back its own alone', async ({
  page,
}) => {
  const other = await another(page);
  await page.goto(`${session}/details`);
  await other.goto(`${session}/details`);
  await page.getByLabel('Title', { exact: true }).fill('Weir, by the first');
  await saved(page);
  // The other window still shows the old title; typing there finds the new one.
  await other.getByLabel('Title', { exact: true }).fill('Weir, by the second');
  await expect(other.getByRole('main').getByRole('alert')).toContainText(
    'is “Weir, by the first” now; “Weir, by the second” was not kept',
  );
  await expect(other.getByLabel('Title', { exact: true })).toHaveValue('Weir, by the first');
  await other.getByLabel('Place', { exact: true }).fill('Ashwick, the weir');
  await saved(other);

  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Two windows');
  await expect(page.getByLabel('Place', { exact: true })).toHaveValue('Ashwick, the weir');
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Weir, by the first');
  await checkAccessibility(page);
  await other.close();
});

test('patches of one name drawn in two windows are both kept; a moved one stays where it was put first', async ({
  page,
}) => {
  const other = await another(page);
  for (const one of [page, other]) await one.goto(`${session}/regions`);
  for (const [one, role] of [
    [page, 'edge: sharpness'],
    [other, 'field: shading'],
  ] as const) {
    await one.getByRole('button', { name: 'Add a patch' }).click();
    await choose(one.getByRole('combobox', { name: /^What gray-2/ }), role);
    await saved(one);
    await expect(one.getByRole('combobox', { name: /^What gray-2/ })).toBeVisible();
  }
  await page.reload();
  const list = page.getByRole('list', { name: 'Patches of this scene' });
  await expect(list).toContainText('gray-2 edge');
  await expect(list).toContainText('gray-2-2 field');

  const patch = (one: Page) => one.getByRole('button', { name: /^Patch gray-2:/ });
  await page.goto(`${session}/regions`);
  await other.goto(`${session}/regions`);
  const before = await patch(other).getAttribute('aria-label');
  await patch(page).focus();
  await page.keyboard.press('Control+ArrowRight');
  await saved(page);
  const moved = await patch(page).getAttribute('aria-label');
  expect(moved).not.toBe(before);
  await patch(other).focus();
  await other.keyboard.press('Control+ArrowDown');
  await expect(other.getByRole('complementary', { name: 'Patches' }).getByRole('alert')).toContainText(
    'The place of patch “gray-2”',
  );
  await expect(patch(other)).toHaveAttribute('aria-label', moved!);

  // Undone by key, redone by button.
  await page.keyboard.press('Control+z');
  await expect(patch(page)).toHaveAttribute('aria-label', before!);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(patch(page)).toHaveAttribute('aria-label', moved!);
  await other.close();
});

test('exposures typed in two windows lie in one take; history tells of it and brings back', async ({ page }) => {
  const other = await another(page);
  const before = await stands(page);
  for (const one of [page, other]) await one.goto(`${session}/footage`);
  await page.getByLabel('ISO of chart-nd4').fill('200');
  await page.getByRole('button', { name: 'Save changes' }).click();
  await expect(page.getByText(/^Saved\./)).toBeVisible();
  await other.getByLabel('Shutter of chart-nd4').fill('1/125');
  await other.getByRole('button', { name: 'Save changes' }).click();
  await expect(other.getByText(/^Saved\./)).toBeVisible();
  const take = (await stands(page)).takes.find((one) => one.id === 'chart-nd4');
  expect(take!.exposure).toMatchObject({ iso: 200, shutter: '1/125' });
  await other.close();

  await page.goto(`${session}/details`);
  const history = page.getByRole('complementary', { name: 'History' });
  await expect(history).toContainText('take “chart-nd4”: shutter');
  await history.getByRole('button', { name: 'Bring back: as it was made' }).click();
  await expect(page.getByText('The session is as it was then.', { exact: true })).toBeVisible();
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Two windows');
  expect((await stands(page)).patches).toHaveLength(before.patches.length - 2);
  await page.getByRole('listitem').filter({ hasText: 'as it was then' }).getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Weir, by the first');
});

// Others look for sessions that aren't measured yet.
test.afterAll(async ({ browser }) => {
  const page = await browser.newPage();
  await page.goto('/');
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Shared kit' })
    .getByRole('button', { name: /^Put .* away$/ })
    .click();
  await expect(page.getByText(/is put away and kept for 30 days/).first()).toBeVisible();
  await page.close();
});
