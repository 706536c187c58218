/** Polarizers, variable and graduated filters as a person meets them. */
import { expect } from '@playwright/test';
import { copyFile, mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { writeSession } from '@/simulator/files';
import { planTakes } from '@/simulator/plan';
import { fileName } from '@/simulator/session';
import type { BenchPlan } from '@/simulator/truth';
import { BENCH } from './pictures';
import { checkAccessibility, choose, test } from './shared';

const TURNERS = 'Ashwick Quarry bench · Sluice Turners';

test('ring, marks and line of the demo: the sheet changes with the filter, a wrong angle is asked about', async ({
  page,
}) => {
  await page.goto('/');
  const row = page.getByRole('listitem').filter({ hasText: TURNERS });
  await row.getByRole('link', { name: 'Read the verdict' }).click();
  await page.getByRole('button', { name: /^CPL: found/ }).click();
  await expect(page.getByRole('img', { name: /Ring sweep: brightest at 4\.\d°/ })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Polarizer' })).toContainText('Glare cut');
  await checkAccessibility(page);

  await page.getByRole('button', { name: /^ND6–9: from/ }).click();
  await expect(page.getByTestId('sheet').getByTestId('found')).toContainText('–');
  await expect(page.getByRole('region', { name: 'Marks' })).toContainText('The crossed pattern begins at mark');
  await page.getByRole('button', { name: /^GND0.9: halves/ }).click();
  await expect(page.getByRole('region', { name: 'Graduation' })).toContainText('medium');
  await checkAccessibility(page);

  // A take was noted at 120°, but its light says 140°: one click puts it right, and the figures ask to be renewed.
  const note = page.getByRole('list', { name: 'Notes' }).getByRole('listitem').filter({ hasText: 'is noted at 120°' });
  await expect(note).toContainText('140°');
  await note.getByRole('button', { name: /It stood at 140/ }).click();
  await expect(note.getByRole('status')).toContainText('Measure again');
  await page.reload();
  await page.getByRole('link', { name: 'Measure again' }).click();
  await page.getByRole('button', { name: /^Measure/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Measured', { timeout: 400_000 });
  await page.getByRole('link', { name: 'Read the verdict' }).click();
  await expect(page.getByRole('table', { name: 'Verdicts' })).toBeVisible();
  await expect(page.getByText('is noted at 120°')).toHaveCount(0);
});

test('a polarizer’s sweep is dropped: names give scene and angle, the field is proposed, the axis is read', async ({
  page,
}, info) => {
  const plan: BenchPlan = {
    ...BENCH,
    width: 480,
    height: 320,
    protocol: 'locked',
    camera: { ...BENCH.camera, bitDepth: 16 },
    filters: [
      {
        id: 'pl',
        name: 'PL',
        kind: 'polarizer',
        nominal: { stops: 1.5 },
        stops: [1.5, 1.5, 1.5],
        polarizer: { axisDegrees: 12, extinctionStops: 5 },
      },
    ],
    scenes: ['screen'],
    sweep: [0, 36, 72, 108, 144],
    bareEvery: 3,
  };
  const folder = info.outputPath('sweep');
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  await writeSession(plan, { id: 'kit', name: 'Sweep' }, folder, 'png');
  const pictures = await Promise.all(
    planTakes(plan).map(async (take) => {
      const name = take.setting
        ? `screen_pl_${take.setting.ringDegrees}deg.png`
        : `screen_bare_take${take.id.slice(-1)}.png`;
      const path = join(folder, name);
      await copyFile(join(folder, fileName(take, 0, 'png')), path);
      return path;
    }),
  );
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles(pictures);
  await page.getByLabel('Kit in shorthand').fill('PL');
  await page.getByLabel('Title').fill('My sweep');
  await choose(page.getByLabel('Camera response'), 'sRGB');
  await expect(page.getByLabel('What screen_pl_72deg.png shows')).toHaveText('white screen');
  await expect(page.getByLabel('Ring angle of screen_pl_72deg.png, degrees')).toHaveValue('72');
  for (const path of pictures) {
    const name = path.split('/').at(-1)!;
    await page.getByLabel(`Shutter of ${name}`).fill('1/2000');
    await page.getByLabel(`ISO of ${name}`).fill('100');
  }
  await checkAccessibility(page);
  await page.getByRole('button', { name: 'Create session' }).click();
  await expect(page).toHaveURL(/\/regions/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Places to measure, proposed');
  await page.keyboard.press('a');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.getByLabel(/A right mark would be brightest/).fill('10');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await checkAccessibility(page);
  await page.reload();
  await expect(page.getByLabel(/A right mark would be brightest/)).toHaveValue('10');
  await page.getByRole('link', { name: 'Go on to Measure' }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.getByRole('link', { name: 'Read the verdict' }).click();
  const polarizer = page.getByRole('region', { name: 'Polarizer' });
  await expect(polarizer).toContainText('The mark is 2.0° off.');
  await expect(polarizer.getByRole('img', { name: /brightest at 12\.0°, 5 ring angles/ })).toBeVisible();
  // Strength can't come from a screen, and that is said.
  await expect(page.getByRole('list', { name: 'Notes' })).toContainText('before polarized light only');
});
