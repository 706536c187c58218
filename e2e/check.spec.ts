/** A camera is checked: pictures dropped, the check read, kept with the rig, and handed to the next sitting with that camera. */
import { expect } from '@playwright/test';
import { readdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { shootCheck } from '@/simulator/camera/check';
import { drawProfile } from '@/simulator/camera/profile';
import { shootSession } from '@/simulator/camera/shoot';
import type { BenchPlan } from '@/simulator/truth';
import { BENCH } from './pictures';
import { checkAccessibility, test } from './shared';

const PLAN: BenchPlan = {
  ...BENCH,
  seed: 'e2e/check',
  width: 480,
  height: 320,
  protocol: 'locked',
  scenes: ['chart'],
  filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 }, stops: [3.1, 3.1, 3.1] }],
  bareEvery: 9,
  repeats: 1,
};
/** Of a model of its own: rigs of earlier runs may be kept. */
const MODEL = `Styled ${Date.now()}`;
const CAMERA = {
  ...drawProfile('e2e/check', 'processed'),
  settings: { make: 'Stand-in', model: MODEL, contrast: 0 },
};

const pathsIn = async (folder: string) =>
  (await readdir(folder)).filter((name) => name.endsWith('.jpg')).map((name) => join(folder, name));
const numberOf = (path: string) => Number(/(\d+)\D*$/.exec(path)![1]);

test('a camera is checked, and its next sitting measured by it', async ({ page }, info) => {
  const [series, sitting] = [info.outputPath('series'), info.outputPath('sitting')];
  for (const folder of [series, sitting]) await rm(folder, { recursive: true, force: true });
  await shootCheck(PLAN, CAMERA, series);
  await shootSession({ ...PLAN, seed: 'e2e/sitting' }, CAMERA, sitting);
  const pictures = (await pathsIn(series)).sort((a, b) => numberOf(a) - numberOf(b));
  const camera = `Checked ${Date.now()}`;

  // A rig to keep it with.
  await page.goto('/kits');
  await page.getByRole('button', { name: 'New rig' }).click();
  await expect(page).toHaveURL(/\/rigs\/[^/]+$/);
  await page.getByRole('textbox', { name: 'Camera' }).fill(camera);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Profiles' })).toContainText('Not checked.');
  await page.getByRole('link', { name: 'Check the camera' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Camera check');
  await checkAccessibility(page);

  // Too few, too alike: what is missing is said, nothing can be asked for yet.
  const work = page.getByRole('button', { name: 'Work out the check' });
  await page.getByLabel('Pictures: Even surface').setInputFiles(pictures.slice(0, 3));
  await expect(page.getByText('4 at least', { exact: false })).toBeVisible();
  await expect(work).toBeDisabled();
  await page.getByLabel('Pictures: Even surface').setInputFiles(pictures.slice(3, 18));
  await page.getByLabel('Pictures: Edge or chart').setInputFiles(pictures.slice(18));
  await expect(page.getByRole('region', { name: 'Even surface' })).toContainText('18 pictures');
  await expect(page.getByRole('region', { name: 'Edge or chart' })).toContainText('4 pictures');
  await work.click();
  const check = page.getByRole('region', { name: 'The check' });
  await expect(check).toContainText(/Tells stops to ±0\.\d{3} over [5-8] stops/, { timeout: 400_000 });
  await expect(check).toContainText(`22 pictures of 2026-05-14, Stand-in ${MODEL}, ISO 100.`);
  await expect(check).toContainText('none found');
  await expect(check).toContainText('goes together');
  await checkAccessibility(page);
  await check.getByRole('button', { name: 'Keep with the rig' }).click();
  await expect(check.getByRole('link', { name: '1-D .cube' })).toBeVisible();

  // Taken away, and taken in again.
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    check.getByRole('link', { name: 'JSON' }).click(),
  ]);
  const file = info.outputPath('check.json');
  await download.saveAs(file);
  expect(JSON.parse(await readFile(file, 'utf8'))).toMatchObject({ format: 'aurora-glade-camera-check', pictures: 22 });
  await check.getByLabel('Check file').setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{"a":1}') }); // prettier-ignore
  await expect(check.getByRole('alert')).toHaveText('This file isn’t a camera check.');
  await check.getByLabel('Check file').setInputFiles(file);
  await expect(check).toContainText('As it was on 2026-05-14, within ±');

  // The next sitting's files name their camera: its check goes along by itself, and a locked strength is given.
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles(await pathsIn(sitting));
  await page.getByLabel('Kit in shorthand').fill('ND8');
  await expect(page.getByLabel('Shot with')).toHaveText(`${camera} · Standard`);
  await expect(page.getByText('Its check of 2026-05-14 goes along.')).toBeVisible();
  await page.getByLabel('Title').fill('Checked sitting');
  await checkAccessibility(page);
  await page.getByRole('button', { name: 'Create session' }).click();
  await expect(page).toHaveURL(/\/regions/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Places to measure, proposed');
  await page.keyboard.press('a');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Go on to Measure' }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.getByRole('link', { name: 'Read the verdict' }).click({ timeout: 400_000 });
  await expect(page.getByText('by the camera’s check of 2026-05-14')).toBeVisible();
  const row = page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /ND8/ });
  // 3.1 stops, from codes that a style bent; the ± holds.
  await expect(row).toContainText(/3\.(0\d|1\d)/);
});
