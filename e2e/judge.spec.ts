/** From figures to a decision: rank by weights, set bounds, pick, report, take away. */
import { expect, type Page } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { ZipFile } from './unzip';
import { expectedCast } from '../src/simulator/expected/color';
import { decodeSrgb } from '../src/core/formulas/transfer/transfer';
import { kitsAcross, type KitSitting } from '../src/core/judging/ranking/figures';
import { PRESETS, rankKits } from '../src/core/judging/ranking/rank';
import type { Readings } from '../src/core/session/readings';
import { checkAccessibility, choose, test } from './shared';

const KITS = ['Harbour Six', 'Foundry Set', 'Millrace Five'];

async function sessionOf(page: Page, title: string): Promise<string> {
  await page.goto('/');
  const link = page.getByRole('listitem').filter({ hasText: title }).getByRole('link', { name: 'Read the verdict' });
  return /sessions\/([^/]+)/.exec((await link.first().getAttribute('href'))!)![1];
}

test('three kits are ranked, weights by keyboard change the order as the core has it', async ({ page }) => {
  const sittings: KitSitting[] = [];
  for (const kit of KITS) {
    const title = `Ashwick Quarry bench · ${kit}`;
    const id = await sessionOf(page, title);
    const readings = (await (await page.request.get(`/api/sessions/${id}/readings.json`)).json()) as Readings;
    const filters = readings.filters.map(({ filter }) => ({ id: filter, kind: 'nd' as const, nominal: {} }));
    const one = { id: readings.filters[0].kit, name: kit, filters };
    sittings.push({ session: id, title, kit: one as KitSitting['kit'], readings: readings.filters });
  }
  const kits = kitsAcross(sittings);
  await page.goto('/ranking');
  const list = page.getByRole('region', { name: 'Sessions' });
  // The list comes after the page's frame: all of it must be there before anything is taken out.
  await expect(list.getByLabel(new RegExp(`^Ashwick Quarry bench · ${KITS[0]}`))).toBeVisible();
  for (const box of await list.getByRole('checkbox').all()) if (await box.isChecked()) await box.uncheck();
  for (const kit of KITS) await list.getByLabel(new RegExp(`^Ashwick Quarry bench · ${kit}`)).check();
  await page.getByRole('radio', { name: 'Neutral first' }).click();
  const shown = async () => {
    const rows = page.getByTestId('ranking').getByRole('listitem');
    return Promise.all(
      (await rows.all()).map(async (row) => ({
        name: await row.getByRole('heading').innerText(),
        score: Number(await row.getByTestId('score').innerText()),
      })),
    );
  };
  const agrees = async (weights: (typeof PRESETS)['neutral first']['weights']) =>
    expect(async () => {
      // Price and handling come from the shelf as well: what the core is given here leaves them out.
      const order = rankKits(kits, weights);
      const found = await shown();
      expect(found.map((one) => one.name)).toEqual(order.kits.map(({ kit }) => kit.name));
      found.forEach(({ score }, i) => expect(Math.abs(score - order.kits[i].score)).toBeLessThan(0.06));
    }).toPass({ timeout: 10_000 });
  // Only what both know.
  let weights = { ...PRESETS['neutral first'].weights };
  for (const [name, quality] of [
    ['Weight of handling', 'handling'],
    ['Weight of price per useful filter', 'price'],
  ] as const) {
    await page.getByLabel(name).fill('0');
    weights = { ...weights, qualities: { ...weights.qualities, [quality]: 0 } };
  }
  await agrees(weights);
  await checkAccessibility(page);
  const before = (await shown()).map((one) => one.name);
  // The evenest kit comes to the front when evenness alone counts: by keys, on the sliders.
  for (const quality of ['strength', 'steps', 'cast', 'sharpness', 'corners', 'polarizer'] as const) {
    const slider = page.getByRole('slider').and(page.locator(`[aria-labelledby="weight-${quality}"]`));
    await slider.focus();
    await page.keyboard.press('Home');
    weights = { ...weights, qualities: { ...weights.qualities, [quality]: 0 } };
  }
  await page.locator('[aria-labelledby="weight-evenness"]').focus();
  await page.keyboard.press('End');
  weights = { ...weights, qualities: { ...weights.qualities, evenness: 10 } };
  await agrees(weights);
  expect((await shown()).map((one) => one.name)).not.toEqual(before);
  expect((await shown())[0].name).toBe('Millrace Five');
  await page.getByRole('radio', { name: 'Neutral first' }).click();
});

test('bounds are edited in one place, verdicts follow at once, and go back by one click', async ({ page }) => {
  const id = await sessionOf(page, 'Ashwick Quarry bench · Foundry Set');
  await page.goto(`/sessions/${id}/verdict`);
  const row = page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /^ND128/ });
  await expect(row).toContainText('close');
  await page.getByRole('link', { name: 'Rating limits' }).click();
  await page.getByLabel('Strength: true up to').fill('0.9');
  await page.getByRole('button', { name: 'Keep these bounds' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'above the one before' })).toBeVisible();
  await page.getByLabel('Strength: close up to').fill('1.2');
  await page.getByRole('button', { name: 'Keep these bounds' }).click();
  await expect(page.getByText('Every verdict follows these bounds now.')).toBeVisible();
  await checkAccessibility(page);
  await page.goto(`/sessions/${id}/verdict`);
  await expect(row).toContainText('true');
  await page.goto('/bands');
  await page.getByRole('button', { name: 'Back to the usual ones' }).click();
  await expect(page.getByText('Every verdict follows these bounds now.')).toBeVisible();
  await page.goto(`/sessions/${id}/verdict`);
  await expect(row).toContainText('close');
  // A chart is read as a table, and saved.
  const steps = page.getByRole('figure').filter({ hasText: 'Steps between neighbors' });
  await expect(steps.getByRole('table')).toContainText('merged');
  const svg = page.waitForEvent('download');
  await steps.getByRole('button', { name: 'SVG' }).click();
  expect(await readFile(await (await svg).path(), 'utf8')).toContain('<svg');
  const png = page.waitForEvent('download');
  await steps.getByRole('button', { name: 'PNG' }).click();
  expect((await sharp(await readFile(await (await png).path())).metadata()).format).toBe('png');
  const card = page.waitForEvent('download');
  await page.getByTestId('sheet').getByRole('button', { name: '1080 × 1920' }).click();
  const size = await sharp(await readFile(await (await card).path())).metadata();
  expect([size.width, size.height]).toEqual([1080, 1920]);
});

test('a report: texts apart from figures, frozen, as PDF and HTML, and each figure leads to its takes', async ({
  page,
}) => {
  const id = await sessionOf(page, 'Ashwick Quarry bench · Foundry Set');
  await page.goto(`/sessions/${id}/report`);
  await page.getByRole('button', { name: 'Begin the report' }).click();
  await expect(page).toHaveURL(/\/reports\/[0-9a-f-]{36}/);
  await page.getByRole('textbox', { name: 'Title', exact: true }).fill('Is the foundry’s set what it says?');
  await page.getByRole('textbox', { name: 'The question' }).fill('Are the two <strongest> filters one?');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await checkAccessibility(page);
  const sheet = page.frameLocator('iframe');
  await expect(sheet.getByText('Are the two <strongest> filters one?')).toBeVisible();
  await expect(sheet.getByText('bought by the reviewer')).toBeVisible();
  await page.getByRole('button', { name: 'Freeze a version' }).click();
  await expect(page.getByText('Version 1 is frozen.')).toBeVisible();
  await page.getByRole('textbox', { name: 'The question' }).fill('Another question.');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await choose(page.getByLabel('Shown'), /^version 1,/);
  await expect(sheet.getByText('Are the two <strongest> filters one?')).toBeVisible();
  await expect(sheet.getByText(/Version 1, frozen .* SHA-256 [0-9a-f]{64}/)).toBeVisible();

  const [download] = await Promise.all([
    page.waitForEvent('download', { timeout: 400_000 }),
    page.getByRole('link', { name: 'PDF' }).click(),
  ]);
  const { stdout, status } = spawnSync('pdftotext', ['-layout', await download.path(), '-'], { encoding: 'utf8' });
  expect(status).toBe(0);
  expect(stdout).toContain('Is the foundry’s set what it says?');
  expect(stdout).toMatch(/ND128\s+7\.00\s+6\.5\d ±0\.\d+\s+−0\.4\d\s+close/);
  const [saved] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'HTML' }).click()]);
  const html = await readFile(await saved.path(), 'utf8');
  expect(html).not.toMatch(/(?:src|href)="(?!data:)/);
  expect(html).toContain('<svg');

  // A link that only reads, and can be ended.
  await page.getByRole('button', { name: 'Make a link' }).click();
  const address = (await page.getByRole('link', { name: 'read-only link' }).getAttribute('href'))!;
  await expect.poll(async () => (await page.request.get(address)).status()).toBe(200);
  await page.getByRole('button', { name: 'end it' }).click();
  await expect.poll(async () => (await page.request.get(address)).status()).toBe(404);

  // From a figure to its reading, and from there to its takes and pictures.
  await choose(page.getByLabel('Shown'), 'as it is now');
  await sheet.getByRole('link', { name: /^6\.5\d ±0/ }).click();
  await expect(page).toHaveURL(new RegExp(`/sessions/${id}/verdict\\?filter=foundry-nd128`));
  const picture = page.getByRole('link', { name: /^picture/ }).first();
  // A press before the page is alive does nothing: one presses again.
  await expect(async () => {
    if (!(await picture.isVisible())) await page.getByRole('button', { name: 'What ND128’s figures rest on' }).click();
    await expect(picture).toBeVisible({ timeout: 3000 });
  }).toPass();
  expect((await page.request.get((await picture.getAttribute('href'))!)).headers()['content-type']).toBe('image/jpeg');
});

test('all readings in one zip, and a look-up table of it takes the cast out of the picture', async ({ page }, info) => {
  const id = await sessionOf(page, 'Ashwick Quarry bench · Foundry Set');
  const readings = (await (await page.request.get(`/api/sessions/${id}/readings.json`)).json()) as Readings;
  const missing = await page.request.get('/api/sessions/nope/exports');
  expect(missing.status()).toBe(404);
  expect((await missing.json()).error).toBe('There is no session nope.');
  const answer = await page.request.get(`/api/sessions/${id}/exports`);
  expect(answer.headers()['content-disposition']).toContain('Ashwick-Quarry-bench-Foundry-Set-readings.zip');
  const folder = info.outputPath('zip');
  await mkdir(folder, { recursive: true });
  const files = await ZipFile.read(await answer.body());
  expect([...files.keys()].filter((name) => !name.startsWith('cube/')).sort()).toEqual([
    'casts.cgats.txt',
    'figures.csv',
    'readings.csv',
    'readings.glade.json',
    'steps.csv',
    'takes.csv',
  ]);
  expect(files.get('steps.csv')!.toString()).toContain('ND64,ND128,1.000,0.2');
  // What the filter leaves of a gray, in the rig's own codes; ffmpeg applies the table.
  const cast = readings.filters.find((one) => one.filter === 'foundry-nd128')!.cast!;
  const encode = (light: number) => (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055);
  const codes = Uint16Array.from(
    [cast.gains.r, cast.gains.g, cast.gains.b].map((gain) => Math.round(65_535 * encode(0.3 / gain))),
  );
  const [source, table, target] = ['filtered.png', 'cancel.cube', 'out.raw'].map((name) => join(folder, name));
  await sharp(codes, { raw: { width: 1, height: 1, channels: 3 } })
    .toColourspace('rgb16')
    .png()
    .toFile(source);
  await writeFile(table, files.get('cube/foundry-nd128-srgb-3d.cube')!);
  const filter = `format=gbrp16le,lut3d=file=${table}`;
  const words = ['-v', 'error', '-y', '-i', source, '-vf', filter, '-pix_fmt', 'rgb48le', '-f', 'rawvideo', target];
  expect(spawnSync('ffmpeg', words).status).toBe(0);
  const out = await readFile(target);
  const light = [0, 2, 4].map((at) => decodeSrgb(out.readUInt16LE(at) / 65_535));
  const left = expectedCast([-Math.log2(light[0]), -Math.log2(light[1]), -Math.log2(light[2])]).deltaE00;
  expect(cast.deltaE00.value).toBeGreaterThan(3);
  expect(left).toBeLessThan(0.2);
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test('the pick follows meter, school and kit, and works without a line', async ({ page, context }) => {
    const id = await sessionOf(page, 'Ashwick Quarry bench · Foundry Set');
    await page.goto(`/sessions/${id}/pick`);
    const pick = page.getByTestId('pick').filter({ visible: true });
    await expect(pick).toContainText('ND32');
    await page.getByLabel('The bare meter says').fill('sunny');
    await expect(page.getByRole('alert').filter({ hasText: 'Write the light' })).toBeVisible();
    // A stop more light: the next filter, unless the set's gap leaves none.
    await page.getByLabel('The bare meter says').fill('1/400 f/2.8 ISO 100');
    await expect(pick).toContainText('ND8');
    await choose(page.getByLabel('When it can’t be right'), 'Nearest');
    await expect(pick).toContainText('stops');
    await checkAccessibility(page);
    await choose(page.getByLabel('or, roughly'), 'dull cloud, open shade');
    await expect(page.getByText('a rough start')).toBeVisible();
    await choose(page.getByLabel('or, roughly'), 'by the meter');
    await page.evaluate(async () => void (await navigator.serviceWorker.ready));
    await page.reload();
    await page.waitForTimeout(1500);
    await context.setOffline(true);
    await page.reload();
    await expect(pick).toContainText('ND8');
    await page.getByLabel('The bare meter says').fill('1/1600 f/2.8 ISO 100');
    await expect(pick).toContainText('ND32');
    await context.setOffline(false);
  });
});
