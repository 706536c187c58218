/** A person's ways through the application, on the built one. */
import { expect, type Page } from '@playwright/test';
import { execFile } from 'node:child_process';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { planTakes } from '@/simulator/plan';
import { demoSessions } from '@/simulator/demo';
import { BENCH, filmBench, writeBench } from './pictures';
import { checkAccessibility, choose, test } from './shared';

const FOUNDRY = demoSessions()[0].plan;
const FIRST = 'Ashwick Quarry bench · Foundry Set';

const UNUSED = 'second sitting · Foundry Set';

async function openDemo(page: Page, title = FIRST) {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Sessions' })).toBeVisible();
  const row = page.getByRole('listitem').filter({ hasText: title });
  await row.getByRole('link', { name: 'Read the verdict' }).click();
  await expect(page.getByRole('table', { name: 'Verdicts' })).toBeVisible();
}

async function measureAgain(page: Page) {
  await page.getByRole('link', { name: 'Measure again' }).click();
  await page.getByRole('button', { name: 'Measure again' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Measured', { timeout: 400_000 });
  await page.getByRole('link', { name: 'Read the verdict' }).click();
}

test('a first visit shows the demo’s verdict within two clicks, with the figures of its truth', async ({ page }) => {
  await openDemo(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Two of these six are nearly the same filter');
  for (const filter of FOUNDRY.filters) {
    const row = page
      .getByRole('table', { name: 'Verdicts' })
      .getByRole('row', { name: new RegExp(`^${filter.name} `) });
    const found = Number((await row.getByRole('cell').nth(1).innerText()).split(' ')[0]);
    const [r, g, b] = filter.stops;
    const truth = -Math.log2(0.2126 * 2 ** -r + 0.7152 * 2 ** -g + 0.0722 * 2 ** -b);
    expect(Math.abs(found - truth)).toBeLessThan(0.02);
  }
  await checkAccessibility(page);
});

test('the ladder, the keys and the sheet go together', async ({ page }) => {
  await openDemo(page);
  const sheet = page.getByTestId('sheet');
  await page.getByRole('button', { name: /^ND16: found/ }).click();
  await expect(sheet.getByRole('heading', { level: 2 })).toContainText('ND16');
  await page.keyboard.press('ArrowRight');
  await expect(sheet.getByRole('heading', { level: 2 })).toContainText('ND32');
  await page.keyboard.press('[');
  await page.keyboard.press('[');
  await expect(sheet.getByRole('heading', { level: 2 })).toContainText('ND8');
  await expect(page).toHaveURL(/filter=foundry-nd8/);
  await expect(sheet.getByTestId('found')).toContainText('3.10');
  await expect(sheet).toContainText('Where the ± comes from');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('5');
  await expect(page).toHaveURL(/\/regions/);
});

test('contents walk along the verdict; keys of the page are behind a button', async ({ page }) => {
  await openDemo(page);
  const contents = page.getByRole('navigation', { name: 'On this page' });
  await expect(contents.getByRole('button', { name: 'Figures' })).toHaveAttribute('aria-current', 'location');
  await contents.getByRole('button', { name: 'Foundry Set as a whole' }).click();
  await expect(contents.getByRole('button', { name: 'Foundry Set as a whole' })).toHaveAttribute(
    'aria-current',
    'location',
  );
  await expect(page.getByRole('heading', { name: 'Foundry Set as a whole' })).toBeInViewport();
  await page.keyboard.press('ArrowDown');
  await expect(contents.getByRole('button', { name: 'Foundry Set in charts' })).toBeFocused();
  await expect(page.getByRole('figure').filter({ hasText: 'Labels against what was found' })).toBeInViewport();
  await page.getByRole('button', { name: 'Keys of this page' }).click();
  const keys = page.getByRole('dialog', { name: 'Keys' });
  await expect(keys.getByRole('region', { name: 'Verdict' })).toBeVisible();
  await expect(keys.getByRole('region', { name: 'Regions' })).toHaveCount(0);
  await page.keyboard.press('Escape');
});

test('the bright room is the whole application’s, is kept, and leaves pictures on gray', async ({ page }) => {
  const groundOf = (selector: string) =>
    page
      .locator(selector)
      .first()
      .evaluate((element) => {
        for (let one: Element | null = element; one; one = one.parentElement) {
          const { backgroundColor } = getComputedStyle(one);
          if (backgroundColor !== 'rgba(0, 0, 0, 0)') return backgroundColor;
        }
        return '';
      });
  await openDemo(page);
  expect(await groundOf('#main')).toBe('rgb(59, 59, 59)');
  await page.getByRole('button', { name: 'Bright room' }).click();
  expect(await groundOf('#main')).toBe('rgb(251, 251, 251)');
  await checkAccessibility(page);
  await page.reload();
  expect(await groundOf('#main')).toBe('rgb(251, 251, 251)');
  await page.getByRole('link', { name: /Compare/ }).click();
  await expect(page.getByTestId('picture')).toBeVisible();
  expect(await groundOf('#main')).toBe('rgb(59, 59, 59)');
  await page.getByRole('link', { name: /Kits & rigs/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Kits & rigs');
  expect(await groundOf('#main')).toBe('rgb(251, 251, 251)');
  await checkAccessibility(page);
  await page.getByRole('button', { name: 'Gray room' }).click();
  expect(await groundOf('#main')).toBe('rgb(59, 59, 59)');
});

test('the unmeasured demo is measured on the spot', async ({ page }) => {
  await page.goto('/');
  const row = page.getByRole('listitem').filter({ hasText: 'second sitting · Harbour Six' });
  await row.getByRole('link', { name: 'Measure', exact: true }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Measured', { timeout: 400_000 });
  await checkAccessibility(page);
  await page.getByRole('link', { name: 'Read the verdict' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('All six labels are true');
});

test('dropped pictures become a session: kit typed, patch drawn, measured, taken away', async ({ page }, info) => {
  const pictures = await writeBench(info.outputPath('bench'));
  await page.goto('/sessions/new');
  await checkAccessibility(page);
  await page.getByLabel('Files', { exact: true }).setInputFiles(pictures);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Match ${pictures.length} pictures to filters`);
  await expect(page.getByLabel('Kit in shorthand')).toHaveValue('ND4 ND8');
  await page.getByLabel('Kit in shorthand').fill('ND4 8');
  await page.getByLabel('Title').fill('My own bench');
  await choose(page.getByLabel('Camera response'), 'sRGB');
  await expect(page.getByRole('list', { name: 'What is missing' })).toContainText('Enter the exposure of 5 pictures.');
  await expect(page.getByRole('button', { name: 'Create session' })).toBeDisabled();

  // Names chose the filters; only exposures are missing.
  await expect(page.getByLabel('Filter of chart-nd8.png')).toHaveText('ND8');
  for (const take of planTakes(BENCH).filter((one) => one.filter)) {
    await page.getByLabel(`Shutter of ${take.id}.png`).fill(take.shutterText);
    await page.getByLabel(`ISO of ${take.id}.png`).fill('100');
  }
  await page.getByLabel('Shutter of chart-bare-1.png').fill('1/2000');
  await page.getByLabel('ISO of chart-bare-1.png').fill('100');
  await page.getByRole('button', { name: 'Same for all bare' }).first().click();
  await checkAccessibility(page);
  await page.getByRole('button', { name: 'Create session' }).click();
  await expect(page).toHaveURL(/\/regions/);

  // Draw the gray card by hand.
  const picture = page.getByTestId('picture');
  await expect(picture.getByRole('img')).toBeVisible();
  const box = (await picture.boundingBox())!;
  const at = (x: number, y: number) => [box.x + x * box.width, box.y + y * box.height] as const;
  await page.mouse.move(...at(0.425, 0.355));
  await page.mouse.down();
  await page.mouse.move(...at(0.5, 0.5), { steps: 5 });
  await page.mouse.move(...at(0.575, 0.645), { steps: 5 });
  await page.mouse.up();
  const statistics = page.getByTestId('statistics');
  await expect(statistics).toContainText('good patch');
  const patch = picture.getByRole('button', { name: /Patch gray/ });
  const before = await patch.getAttribute('aria-label');
  await patch.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(patch).not.toHaveAttribute('aria-label', before!);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await checkAccessibility(page);
  // What was drawn is still there after a reload.
  const placed = await patch.getAttribute('aria-label');
  await page.reload();
  await expect(patch).toHaveAttribute('aria-label', placed!);

  await page.getByRole('link', { name: 'Go on to Measure' }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.getByRole('link', { name: 'Read the verdict' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('ND8 isn’t what it says');
  const row = page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /^ND8 / });
  await expect(row).toContainText('off');
  const [r, g, b] = BENCH.filters[1].stops;
  const truth = -Math.log2(0.2126 * 2 ** -r + 0.7152 * 2 ** -g + 0.0722 * 2 ** -b);
  expect(Math.abs(Number((await row.getByRole('cell').nth(1).innerText()).split(' ')[0]) - truth)).toBeLessThan(0.005);

  const download = async (name: string) => {
    await page.getByRole('button', { name: 'Download' }).click();
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name }).click()]);
    return { name: file.suggestedFilename(), content: await readFile((await file.path())!) };
  };
  const json = await download('Readings, JSON');
  expect(json.name).toBe('My-own-bench.readings.glade.json');
  const readings = JSON.parse(json.content.toString());
  expect(readings.format).toBe('aurora-glade-readings');
  const csv = (await download('Readings, CSV')).content.toString();
  expect(csv.split('\r\n')[0]).toContain('kit,kit_id,filter,filter_id,stops,stops_u95');
  expect(csv).toContain(String(Number(readings.filters[1].density.stops.value.toPrecision(8))));

  // The bundle comes back identical.
  const bundle = await download('Session with pictures');
  const zip = info.outputPath('session.glade.zip');
  await writeFile(zip, bundle.content);
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles(zip);
  await expect(page).toHaveURL(/\/regions/);
  await page.getByRole('link', { name: 'Go on to Measure' }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.getByRole('link', { name: 'Read the verdict' }).click();
  const again = await download('Session with pictures');
  expect(again.content.equals(bundle.content)).toBe(true);
});

test('a phone’s HEIC pictures are taken in with their exposures, seen, and measured', async ({ page }, info) => {
  const folder = info.outputPath('phone');
  const pictures = await writeBench(info.outputPath('bench'));
  await mkdir(folder, { recursive: true });
  const takes = planTakes(BENCH);
  const phone = await Promise.all(
    pictures.map(async (path) => {
      const stem = basename(path, '.png');
      const take = takes.find(({ id }) => stem.startsWith(id))!;
      const tags = { ExposureTime: `1/${Math.round(1 / take.shutterSeconds)}`, FNumber: '8/1', ISOSpeedRatings: '100' };
      const plain = join(folder, `${stem}.jpg`);
      await sharp(path).withExif({ IFD2: tags }).jpeg({ quality: 98, chromaSubsampling: '4:4:4' }).toFile(plain);
      const heic = join(folder, `${stem}.heic`);
      await promisify(execFile)('heif-enc', ['-q', '95', '-o', heic, plain]);
      return heic;
    }),
  );
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles(phone);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Match ${phone.length} pictures to filters`);
  await page.getByLabel('Kit in shorthand').fill('ND4 8');
  await page.getByLabel('Title').fill('By phone');
  await page.getByRole('button', { name: 'Create session' }).click();
  await expect(page).toHaveURL(/\/regions/);
  await expect(page.getByTestId('picture').getByRole('img')).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'Proposals' }).getByRole('button', { name: /^Take gray/ }),
  ).toBeVisible();
  await page.keyboard.press('a');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Go on to Measure' }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.getByRole('link', { name: 'Read the verdict' }).click();
  const row = page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /^ND8 / });
  const [, found, u95] = /(\d\.\d+)\s*±\s*(\d\.\d+)/.exec(await row.getByRole('cell').nth(1).innerText())!;
  const [r, g, b] = BENCH.filters.find(({ id }) => id === 'nd8')!.stops;
  const truth = -Math.log2(0.2126 * 2 ** -r + 0.7152 * 2 ** -g + 0.0722 * 2 ** -b);
  expect(Math.abs(Number(found) - truth)).toBeLessThan(Number(u95) + 0.01);
});

test('places are proposed, one key takes all, and sharpness is read off them', async ({ page }, info) => {
  const pictures = await writeBench(info.outputPath('bench'));
  const path = info.outputPath('bench', 'session.glade.json');
  const session = JSON.parse(await readFile(path, 'utf8'));
  await writeFile(path, JSON.stringify({ ...session, title: 'No places yet', patches: [] }));
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles([path, ...pictures]);
  await expect(page).toHaveURL(/\/regions/);

  const proposals = page.getByRole('region', { name: 'Proposals' });
  await expect(proposals.getByRole('button', { name: /^Take gray: Even to/ })).toBeVisible({ timeout: 20_000 });
  await expect(
    proposals.getByRole('button', { name: /^Take top left, vertical edge: \d+ pixels long, 5.2° off/ }),
  ).toBeVisible();
  await checkAccessibility(page);
  await page.keyboard.press('a');
  await expect(proposals).toBeHidden();
  const patches = page.getByRole('list', { name: 'Patches of this scene' }).getByRole('listitem');
  expect(await patches.count()).toBeGreaterThan(5);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await checkAccessibility(page);
  // Asked again, what is there already is not proposed twice.
  await page.keyboard.press('p');
  await expect(page.getByText('Looking for places')).toBeHidden();
  await expect(proposals.getByRole('button', { name: /^Take gray/ })).toBeHidden();
  // A role can be corrected.
  await page.getByRole('button', { name: /^top left, horizontal edge/ }).click();
  await choose(page.getByLabel('What top left, horizontal edge measures'), 'color');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: 'top left, horizontal edge color' })).toBeVisible();

  await page.getByRole('link', { name: 'Go on to Measure' }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.getByRole('link', { name: 'Read the verdict' }).click();
  const sharpness = page.getByRole('region', { name: 'Sharpness kept' });
  const row = sharpness.getByRole('row', { name: /^center, vertical edge/ });
  const kept = Number((await row.getByRole('cell').last().innerText()).split(' ')[0]);
  // These filters add no blur.
  expect(Math.abs(kept - 1)).toBeLessThan(0.06);
});

test('clips with their telemetry are dropped, and measure like pictures', async ({ page }, info) => {
  const files = await filmBench(info.outputPath('clips'));
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles(files);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Match ${files.length / 2} pictures to filters`);
  await expect(page.getByText(/h264, 0\.2 s at 25\.00 fps.*exposure from chart-nd8\.srt/)).toBeVisible();
  // Telemetry knows the exposures, tags the response: nothing is missing.
  await expect(page.getByRole('list', { name: 'What is missing' })).toBeHidden();
  await page.getByRole('button', { name: 'Create session' }).click();
  await page.getByRole('button', { name: /^Take all/ }).click();
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await expect(page.getByTestId('statistics')).toContainText('good patch');
  await page.getByRole('link', { name: 'Go on to Measure' }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.getByRole('link', { name: 'Read the verdict' }).click({ timeout: 400_000 });
  const row = page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /^ND8 / });
  const [r, g, b] = BENCH.filters[1].stops;
  const truth = -Math.log2(0.2126 * 2 ** -r + 0.7152 * 2 ** -g + 0.0722 * 2 ** -b);
  expect(Math.abs(Number((await row.getByRole('cell').nth(1).innerText()).split(' ')[0]) - truth)).toBeLessThan(0.03);
  // A standard curve that is only told, and nothing here checks it.
  await expect(page.getByText(/Response: bt709 \(transfer tag of the clip\), not checked/)).toBeVisible();
  await expect
    .poll(() =>
      page.getByRole('img', { name: 'The edge, filtered' }).evaluate((image: HTMLImageElement) => image.naturalWidth),
    )
    .toBeGreaterThan(10);
});

test('the sheet opens into budgets, maps, crops, flare and the response’s curve', async ({ page }) => {
  await page.goto('/');
  const second = page.getByRole('listitem').filter({ hasText: 'second sitting · Foundry Set' });
  await second.getByRole('link', { name: 'Read the verdict' }).click();
  await page.getByRole('button', { name: /^ND128: found/ }).click();
  await page
    .getByTestId('sheet')
    .getByRole('button', { name: /^Where the ± comes from/ })
    .click();
  const budget = page.getByTestId('budget');
  await expect(budget.getByRole('row', { name: /^sensitivity/ })).toContainText('0.7');
  await expect(page.getByTestId('sheet')).toContainText('would reduce it');

  const corners = page.getByRole('region', { name: 'Corners' });
  await expect(corners.getByRole('img', { name: /^The filter adds: from/ })).toHaveCount(2);
  await expect(corners.getByRole('img', { name: /^The lens alone: from/ })).toHaveCount(2);
  await expect(corners.getByRole('columnheader', { name: 'flat-long' })).toBeVisible();

  const sharpness = page.getByRole('region', { name: 'Sharpness kept' });
  await sharpness.getByRole('button', { name: 'left, vertical edge', exact: true }).click();
  for (const title of ['bare', 'filtered']) {
    const crop = sharpness.getByRole('img', { name: `The edge, ${title}` });
    await crop.scrollIntoViewIfNeeded();
    await expect.poll(() => crop.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBeGreaterThan(20);
  }
  const flare = page.getByRole('region', { name: 'Flare' });
  const truth = demoSessions().find(({ plan }) => plan.seed === 'ashwick-foundry-2')!.plan.filters[5];
  const place = await flare.getByRole('row', { name: /^1 / }).getByRole('cell').nth(1).innerText();
  const [x, y] = place.match(/\d+/g)!.map(Number);
  expect(Math.hypot(x - 100 * truth.ghosts![0].x, y - 100 * truth.ghosts![0].y)).toBeLessThan(1.2);
  await page.getByRole('button', { name: 'The curve' }).click();
  await expect(page.getByRole('img', { name: /^Light in stops against the code value/ })).toBeVisible();
  await checkAccessibility(page);

  await sharpness.getByRole('link', { name: 'how' }).click();
  await expect(page).toHaveURL(/\/method#sharpness-kept/);
  await expect(page.getByRole('heading', { name: 'Sharpness kept' })).toBeInViewport();
  await checkAccessibility(page);
});

test('a corrected take makes the figures stale until measured again', async ({ page }) => {
  // Not the first: compare.spec, beside this, tells whether its figures are from before a change.
  await openDemo(page, 'Ashwick Quarry bench · Harbour Six');
  await page.keyboard.press('4');
  await expect(page).toHaveURL(/\/footage/);
  await checkAccessibility(page);
  const iso = page.getByLabel('ISO of chart-harbour-nd4', { exact: true });
  await iso.fill('200');
  await page.getByRole('button', { name: 'Save changes' }).click();
  await expect(page.getByText('Saved. Measure again')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: /Verdict/ }).click();
  await expect(page.getByText('These figures are from before a change.')).toBeVisible();
  await measureAgain(page);
  // Twice the ISO makes the same picture a stop darker a filter.
  await expect(page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /^ND4 / })).toContainText('3.0');
  await page.getByRole('link', { name: /Footage/ }).click();
  await page.getByLabel('ISO of chart-harbour-nd4', { exact: true }).fill('100');
  await page.getByRole('button', { name: 'Save changes' }).click();
  await expect(page.getByText('Saved. Measure again')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: /Verdict/ }).click();
  await measureAgain(page);
  await expect(page.getByRole('table', { name: 'Verdicts' }).getByRole('row', { name: /^ND4 / })).toContainText('2.0');
});

test('bad input gets a sentence and loses nothing', async ({ page }, info) => {
  const pictures = await writeBench(info.outputPath('bench'));
  const broken = info.outputPath('cut.png');
  await writeFile(broken, (await readFile(pictures[0])).subarray(0, 100_000));
  const text = info.outputPath('notes.zip');
  await writeFile(text, 'this is not an archive');

  await page.goto('/sessions/new');
  const files = page.getByLabel('Files', { exact: true });
  await files.setInputFiles(text);
  await expect(page.getByRole('alert').filter({ hasText: 'isn’t a zip archive' })).toBeVisible();

  const session = JSON.parse(await readFile(join(info.outputPath('bench'), 'session.glade.json'), 'utf8'));
  session.takes[1].exposure.shutter = 'fast';
  const folder = info.outputPath('wrong', 'session.glade.json');
  await writeBench(info.outputPath('wrong'));
  await writeFile(folder, JSON.stringify(session));
  await files.setInputFiles([folder]);
  await expect(
    page.getByRole('alert').filter({ hasText: 'takes[1].exposure.shutter: expected "1/2000" or seconds, got "fast"' }),
  ).toBeVisible();

  await files.setInputFiles([...pictures, broken]);
  await expect(page.getByRole('list', { name: 'What is missing' })).toContainText(
    'cut.png is left out: the file is cut short or damaged.',
  );
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Match ${pictures.length} pictures to filters`);
});

/** The list's first session. Another browser makes sessions meanwhile: this one is known by its own address. */
/** A session of the demo that nobody else looks at: other tests run beside these. */
async function demoSession(page: Page) {
  const address = await page
    .getByRole('main')
    .getByRole('listitem')
    .filter({ hasText: UNUSED })
    .first()
    .getByRole('link')
    .first()
    .getAttribute('href');
  const own = /\/sessions\/[0-9a-f-]{36}/.exec(address!)![0];
  const row = page
    .getByRole('main')
    .getByRole('listitem')
    .filter({ has: page.locator(`a[href^="${own}"]`) });
  return { row, links: page.getByRole('main').locator(`a[href^="${own}"]`) };
}

test('a session put away can be brought back', async ({ page }) => {
  await page.goto('/');
  const { row, links } = await demoSession(page);
  await row.getByRole('button', { name: /away$/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'put away' })).toBeVisible();
  await expect(links).toHaveCount(0);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(links).not.toHaveCount(0);
});

test('what was put away is found later, with its date, and comes back', async ({ page }) => {
  await page.goto('/');
  const { row, links } = await demoSession(page);
  await row.getByRole('button', { name: /away$/ }).click();
  await expect(links).toHaveCount(0);
  await page.getByRole('link', { name: 'Put away', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Put away');
  // Other tests put things away as well.
  const away = page.getByRole('list', { name: 'What is put away' }).getByRole('listitem');
  const first = away.filter({ hasText: UNUSED }).first();
  await expect(first).toContainText(/session, put away on \d{4}-\d\d-\d\d, kept until \d{4}-\d\d-\d\d/);
  await checkAccessibility(page);
  await first.getByRole('button', { name: /^Bring “.*” back$/ }).click();
  await expect(page.getByText(/is back\.$/).first()).toBeVisible();
  await page.goto('/');
  await expect(links).not.toHaveCount(0);
});

test('pages of other sites can’t send files or sessions here', async ({ request }) => {
  const answer = await request.post('/api/files', {
    data: { upload: 'x' },
    headers: { origin: 'http://elsewhere.example' },
  });
  expect(answer.status()).toBe(403);
});

test('a name that was pointed here is not answered, and no foreign script runs in a page', async ({
  browser,
  request,
}) => {
  // A page of its own: the browser logs what it refuses as an error.
  const page = await browser.newPage();
  const pointed = await request.get('/api/kits', { headers: { host: 'elsewhere.example' } });
  expect(pointed.status()).toBe(421);
  const answer = await page.goto('/');
  const headers = answer!.headers();
  expect(headers['content-security-policy']).toMatch(/script-src 'self' 'nonce-[^']+';/);
  expect(headers['x-frame-options']).toBe('DENY');
  const ran = await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'window.ran = true';
    document.body.append(script);
    return 'ran' in window;
  });
  expect(ran).toBe(false);
  // Ours do: the page is alive.
  await expect(async () => {
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toBeVisible({ timeout: 2000 });
  }).toPass();
  await page.close();
});

/** What moved under the reader: the sum of Layout Instability (W3C) and what it was, half a second after what is asked for is there. */
function shiftsOf(page: Page): Promise<{ sum: number; moved: string[] }> {
  return page.evaluate(
    () =>
      new Promise((resolve) => {
        let sum = 0;
        const moved: string[] = [];
        type Shift = PerformanceEntry & {
          value: number;
          hadRecentInput: boolean;
          sources: { node?: Node; previousRect: DOMRectReadOnly; currentRect: DOMRectReadOnly }[];
        };
        new PerformanceObserver((list) => {
          // What follows a person's own click within half a second is no shift.
          for (const entry of list.getEntries() as Shift[])
            if (!entry.hadRecentInput) {
              sum += entry.value;
              for (const { node, previousRect: from, currentRect: to } of entry.sources)
                moved.push(
                  `${node?.nodeName} “${node?.textContent?.slice(0, 40)}” from ${from.x} ${from.y} to ${to.x} ${to.y}`,
                );
            }
        }).observe({ type: 'layout-shift', buffered: true });
        setTimeout(() => resolve({ sum, moved }), 500);
      }),
  );
}

test('main pages answer quickly and do not shift', async ({ page }) => {
  await openDemo(page);
  const { sum, moved } = await shiftsOf(page);
  // What moved is told where it is too much.
  expect(sum < 0.01 ? [] : [sum, ...moved]).toEqual([]);
});

test('type that comes late moves nothing', async ({ page, browser }) => {
  await openDemo(page);
  const verdict = page.url();
  for (const address of [verdict, '/', '/method', '/benches']) {
    // Nothing is remembered: the type is asked for anew, and comes after the page.
    const context = await browser.newContext();
    const slow = await context.newPage();
    let letIn = () => {};
    const shown = new Promise<void>((resolve) => (letIn = resolve));
    let asked = false;
    await slow.route('**/*.woff2', async (route) => {
      asked = true;
      await shown;
      await route.continue();
    });
    await slow.goto(new URL(address, verdict).href, { waitUntil: 'domcontentloaded' });
    await expect(slow.getByRole('heading', { level: 1 })).toBeVisible();
    await expect.poll(() => asked).toBe(true);
    letIn();
    await slow.waitForLoadState('load');
    const { sum, moved } = await shiftsOf(slow);
    expect(sum < 0.01 ? [] : [address, sum, ...moved]).toEqual([]);
    await context.close();
  }
});

test('the whole library is searched by an address, and by what is typed then', async ({ page }) => {
  const titles = page.getByRole('list', { name: 'Sessions' }).getByRole('listitem');
  const search = page.getByLabel('Search sessions');
  // Beginnings of words, in any order; a word too short for an index, too.
  await page.goto('/?text=found+2026+qu');
  await expect(search).toHaveValue('found 2026 qu');
  await expect(titles.filter({ hasText: 'Foundry Set' }).first()).toBeVisible();
  expect(await titles.filter({ hasNotText: 'Foundry Set' }).count()).toBe(0);
  // Half of it taken away, the other sittings come from the server.
  await search.fill('2026');
  await expect(titles.filter({ hasText: 'Millrace Five' }).first()).toBeVisible();
  await expect(page).toHaveURL('/?text=2026');
  await search.fill('no such session');
  await expect(page.getByText('No session is like that.')).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page).toHaveURL('/');
  await expect(titles.filter({ hasText: FIRST }).first()).toBeVisible();
  await checkAccessibility(page);
});

test('no page scrolls sideways, on a phone or at twice the size', async ({ page }) => {
  await openDemo(page);
  const session = page.url().replace(/\/verdict.*/, '');
  const stages = ['details', 'plan', 'shoot', 'footage', 'regions', 'measure', 'compare', 'verdict', 'pick', 'report'];
  const others = ['/', '/kits', '/plan', '/pick', '/ranking', '/reports', '/put-away', '/bands', '/method', '/sessions/new']; // prettier-ignore
  await page.goto('/kits');
  const kit = await page.getByRole('list').getByRole('link', { name: 'Foundry Set' }).getAttribute('href');
  const sideways: string[] = [];
  for (const path of [...others, kit!, ...stages.map((stage) => `${session}/${stage}`)]) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible();
    for (const width of [390, 640]) {
      await page.setViewportSize({ width, height: 800 });
      // Pictures and drawings take their new size a moment after the window has.
      const over = () => page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
      const fits = expect.poll(over, { timeout: 30_000 }).toBeLessThanOrEqual(0);
      await fits.catch(async () => sideways.push(`${path} at ${width}: ${await over()}`));
    }
  }
  expect(sideways).toEqual([]);
});

test('an address that leads nowhere says so', async ({ page }) => {
  await page.goto('/sessions/00000000-0000-0000-0000-000000000000/verdict').catch(() => undefined);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Nothing is here');
});
