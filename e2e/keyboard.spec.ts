/** The whole job by keyboard alone, at a person's pace: from files of one's own to readings on the disk. The mouse is never touched. */
import { mkdir, readFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { expect, type Locator, type Page } from '@playwright/test';
import sharp from 'sharp';
import { planTakes } from '@/simulator/plan';
import { BENCH, writeBench } from './pictures';
import { test } from './shared';

/** Between two letters that a person types, ms. */
const PACE = 120;
/** Stops of the Tab key on any page, at most. */
const MOST_STOPS = 120;

/** Walks by Tab until a control has the focus; all of them must be reachable so. */
async function tabTo(page: Page, control: Locator): Promise<void> {
  await expect(control).toBeVisible();
  for (let stops = 0; stops < MOST_STOPS; stops++) {
    if (await control.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`${String(control)} can’t be reached by Tab`);
}

async function press(page: Page, control: Locator): Promise<void> {
  await tabTo(page, control);
  await page.keyboard.press('Enter');
}

/** Replaces what a field holds, letter by letter. */
async function type(page: Page, field: Locator, text: string): Promise<void> {
  await tabTo(page, field);
  await page.keyboard.press('Control+a');
  await page.keyboard.type(text, { delay: PACE });
}

test('from own pictures to readings, by keys alone', async ({ page }, info) => {
  const folder = info.outputPath('card');
  await mkdir(folder, { recursive: true });
  const takes = planTakes(BENCH);
  const pictures = await Promise.all(
    (await writeBench(info.outputPath('bench'))).map(async (path) => {
      const { shutterSeconds } = takes.find(({ id }) => basename(path).startsWith(id))!;
      const file = join(folder, `${basename(path, '.png')}.jpg`);
      const tags = { ExposureTime: `1/${Math.round(1 / shutterSeconds)}`, FNumber: '8/1', ISOSpeedRatings: '100' };
      await sharp(path).withExif({ IFD2: tags }).jpeg({ quality: 98, chromaSubsampling: '4:4:4' }).toFile(file);
      return file;
    }),
  );

  await page.goto('/');
  await press(page, page.getByRole('link', { name: 'New session' }).first());
  await expect(page).toHaveURL(/\/sessions\/new/);
  const chooser = page.waitForEvent('filechooser');
  await press(page, page.getByRole('button', { name: 'Choose files' }));
  await (await chooser).setFiles(pictures);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Match ${pictures.length} pictures to filters`);

  const kit = page.getByLabel('Kit in shorthand');
  await type(page, kit, 'ND4 8');
  await expect(kit).toBeFocused();
  await expect(kit).toHaveValue('ND4 8');
  await type(page, page.getByLabel('Title'), 'By keys alone');
  await press(page, page.getByRole('button', { name: 'Create session' }));
  await expect(page).toHaveURL(/\/regions/);

  // One key takes all places that are proposed.
  await expect(page.getByRole('region', { name: 'Proposals' }).getByRole('button', { name: /^Take gray/ })).toBeVisible(); // prettier-ignore
  await page.keyboard.press('a');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await press(page, page.getByRole('link', { name: 'Go on to Measure' }));
  await press(page, page.getByRole('button', { name: 'Measure', exact: true }));
  await press(page, page.getByRole('link', { name: 'Read the verdict' }));

  const row = page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /^ND8 / });
  const [, found, u95] = /(\d\.\d+)\s*±\s*(\d\.\d+)/.exec(await row.getByRole('cell').nth(1).innerText())!;
  // BT.709's weights (ITU-R BT.709-6, 3.2) of what each channel lets through.
  const [r, g, b] = BENCH.filters[1].stops;
  const truth = -Math.log2(0.2126 * 2 ** -r + 0.7152 * 2 ** -g + 0.0722 * 2 ** -b);
  expect(Math.abs(Number(found) - truth)).toBeLessThan(Number(u95) + 0.005);

  await press(page, page.getByRole('button', { name: 'Download' }));
  const item = page.getByRole('menuitem', { name: 'Readings, CSV' });
  await expect(item).toBeVisible();
  while (!(await item.evaluate((element) => element === document.activeElement)))
    await page.keyboard.press('ArrowDown');
  const download = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  expect(await readFile((await (await download).path())!, 'utf8')).toContain('ND8');
});
