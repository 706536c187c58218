/** The viewing room: what the canvas shows, read back and held against the core's figures. */
import { expect, type Page } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import type { Readings } from '../src/core/session/readings';
import { checkAccessibility, choose, test } from './shared';

// Without graphics hardware every pixel takes its time.
test.use({ viewport: { width: 1000, height: 660 } });

const FIRST = 'Ashwick Quarry bench · Foundry Set';

async function openRoom(page: Page): Promise<string> {
  await page.goto('/');
  const row = page.getByRole('listitem').filter({ hasText: FIRST });
  await row.getByRole('link', { name: 'Read the verdict' }).click();
  await expect(page.getByRole('table', { name: 'Verdicts' })).toBeVisible();
  await page.keyboard.press('7');
  await expect(page.getByTestId('picture')).toHaveAttribute('data-settled', 'true', { timeout: 150_000 });
  return page.url().replace(/^.*\/sessions\/([^/]+)\/.*$/, '$1');
}

/** Mean code of a square of the canvas around a fraction of it, by channel. */
function codesAt(page: Page, x: number, y: number, half = 6): Promise<number[]> {
  return page.getByTestId('picture').evaluate(
    (canvas: HTMLCanvasElement, [x, y, half]) => {
      const copy = new OffscreenCanvas(canvas.width, canvas.height);
      const context = copy.getContext('2d')!;
      context.drawImage(canvas, 0, 0);
      const side = 2 * half + 1;
      const { data } = context.getImageData(
        Math.round(x * canvas.width) - half,
        Math.round(y * canvas.height) - half,
        side,
        side,
      );
      const sum = [0, 0, 0];
      for (let i = 0; i < data.length; i++) if (i % 4 < 3) sum[i % 4] += data[i];
      return sum.map((value) => value / side ** 2);
    },
    [x, y, half] as const,
  );
}

const decode = (code: number) => (code <= 0.04045 ? code / 12.92 : ((code + 0.055) / 1.055) ** 2.4);
const encode = (light: number) => 255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055);

test('levelled pictures show the codes that the core’s figures call for, with graphics and without', async ({
  page,
}) => {
  const id = await openRoom(page);
  const readings = (await (await page.request.get(`/api/sessions/${id}/readings.json`)).json()) as Readings;
  const nd16 = readings.filters.find((one) => one.filter === 'foundry-nd16')!;
  const stops = nd16.density!.stops.value;
  // The middle of the chart is its gray card; mean codes of both pictures there, from the server's own statistics.
  const rect = { x: 0.49, y: 0.48, width: 0.02, height: 0.04 };
  const meanCodes = async (file: string) => {
    const answer = await page.request.post(`/api/sessions/${id}/statistics`, { data: { file, rect } });
    return ((await answer.json()) as { meanCode: number[] }).meanCode;
  };
  const session = await page.request.get(`/api/sessions/${id}/pose?file=none&bare=none`);
  expect(session.status()).toBe(404);
  await page.getByRole('button', { name: /^ND16: found/ }).click();
  await page.keyboard.press('s');
  await page.keyboard.press('z');
  await page.keyboard.press('m');
  const caption = page.getByText(/^ND16, 1\/125 s/);
  await expect(caption).toContainText('lowered 0.04 stops');
  for (const address of [page.url(), `${page.url()}${page.url().includes('?') ? '&' : '?'}plain`]) {
    if (address !== page.url()) {
      await page.goto(address);
      await expect(page.getByText('drawn without graphics, coarser')).toBeVisible();
      await page.keyboard.press('s');
      await page.keyboard.press('z');
      await page.keyboard.press('m');
    }
    await expect(page.getByTestId('picture')).toHaveAttribute('data-settled', 'true', { timeout: 150_000 });
    await expect.poll(async () => (await codesAt(page, 0.25, 0.5))[1]).toBeGreaterThan(100);
    const [bare, filtered] = [await meanCodes('chart-bare-1-1.tif'), await meanCodes('chart-foundry-nd16-1.tif')];
    const shown = { bare: await codesAt(page, 0.25, 0.5), filtered: await codesAt(page, 0.75, 0.5) };
    const exposures = Math.log2(2000 / 125);
    bare.forEach((code, c) => expect(Math.abs(shown.bare[c] - encode(decode(code)))).toBeLessThan(1));
    filtered.forEach((code, c) =>
      expect(Math.abs(shown.filtered[c] - encode(decode(code) * 2 ** (stops - exposures)))).toBeLessThan(1),
    );
  }
});

test('layouts, bare, zoom, probe and histograms by keyboard; the view is saved', async ({ page }) => {
  await openRoom(page);
  await checkAccessibility(page);
  const status = page.locator('main').getByRole('status').last();
  await expect(status).toContainText(/^Wipe, \d+ %: bare.*; ND4.*raised/);
  await page.keyboard.press(']');
  await expect(status).toContainText('ND8');
  await page.keyboard.down('b');
  await expect(status).toContainText('Bare alone');
  await page.keyboard.up('b');
  await expect(status).toContainText('Wipe');

  // The line is moved and turned by keys: what was bare's becomes the filter's.
  const line = page.getByRole('slider', { name: 'The wipe’s line' });
  await line.focus();
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(line).toHaveAttribute('aria-valuetext', '40 % across, 0° turned');
  await page.keyboard.press('Shift+PageDown');
  await expect(line).toHaveAttribute('aria-valuetext', '40 % across, 15° turned');
  await page.getByRole('radio', { name: 'Levelled' }).focus();

  await page.keyboard.press('z');
  await expect(status).toContainText('100 %');
  await page.keyboard.press('+');
  await expect(status).toContainText('141 %');
  await page.keyboard.press('u');
  await page.keyboard.press('L');
  await expect(status).toContainText('cast taken out');

  // Levelled and without its cast, the wall beside the chart differs from bare by next to nothing.
  await page.keyboard.press('m');
  const box = (await page.getByTestId('picture').boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.75, box.y + box.height * 0.5);
  const probe = page.getByText(/stops · ΔE00/);
  await expect(async () => {
    const [, off, difference] = /^([−+]\d\.\d\d) stops · ΔE00 (\d\.\d)/.exec(await probe.innerText())!;
    expect(Math.abs(Number(off.replace('−', '-')))).toBeLessThan(0.1);
    expect(Number(difference)).toBeLessThan(1.5);
  }).toPass({ timeout: 150_000 });

  await page.keyboard.press('g');
  await page.keyboard.press('i');
  await expect(page.getByRole('list', { name: 'Histograms of what is shown' }).getByRole('listitem')).toHaveCount(6);
  await page.getByRole('button', { name: 'All in a row' }).click();
  await expect(status).toContainText('Side by side');
  await expect(status).toContainText('ND128');
  await expect(page.getByTestId('picture')).toHaveAttribute('data-settled', 'true', { timeout: 150_000 });
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save this view' }).click();
  await page.getByRole('button', { name: 'Save as PNG' }).click();
  const saved = await sharp(await readFile(await (await download).path())).metadata();
  expect(saved.format).toBe('png');
  expect(saved.width).toBe(Math.round(box.width));

  // The same view goes into a report, and stands there with what it shows.
  await page.getByRole('button', { name: 'Save this view' }).click();
  await choose(page.getByLabel('Report that it goes into'), 'A new report of this session');
  await page.getByRole('button', { name: 'Put into the report' }).click();
  await page.getByRole('button', { name: 'Open the report' }).click();
  await expect(page).toHaveURL(/\/reports\/[0-9a-f-]{36}$/);
  await expect(page.getByLabel('Caption of picture 1')).toHaveValue(/bare.*ND4.*ND128/);
  const shown = page.frameLocator('iframe').getByRole('img', { name: /^bare.*ND128/ });
  await expect(shown).toBeVisible();
  expect(await shown.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBeGreaterThan(900);
  await checkAccessibility(page);
  await page.getByLabel('Caption of picture 1').fill('All of them side by side');
  await expect(page.getByRole('status').getByText('Saved', { exact: true })).toBeVisible();
  await expect(page.frameLocator('iframe').getByText('All of them side by side')).toBeVisible();
});

/** All that a page tells by text: what is read, labels, titles, fields' values. */
const everythingTold = (page: Page) =>
  page.evaluate(() => {
    const told = [document.title, document.body.innerText];
    for (const one of document.body.querySelectorAll('*'))
      for (const name of ['aria-label', 'aria-description', 'aria-valuetext', 'title', 'alt', 'value', 'placeholder'])
        told.push(one.getAttribute(name) ?? '');
    return told.join('\n');
  });

test('blind: letters for names, votes kept before the reveal, figures and odds beside them', async ({ page }) => {
  await openRoom(page);
  await page.getByRole('button', { name: 'Blind' }).click();
  await expect(page.getByRole('region', { name: 'Stop ladder' })).toHaveCount(0);
  const panel = page.getByRole('region', { name: 'Blind viewing' });
  // Nor do instruments, the place pointed at, labels or the tab's title tell a filter, and no file's name does.
  await page.keyboard.press('i');
  await page.getByTestId('picture').hover();
  await expect(page.getByText(/ND\d/)).toHaveCount(0);
  expect(await everythingTold(page)).not.toMatch(/ND ?\d|nd\d|CPL|bare-|\.(tiff?|jpe?g|png|mp4)/i);
  await panel.getByRole('radiogroup', { name: 'Which is neutral?' }).getByRole('radio', { name: 'B' }).click();
  for (const letter of ['C', 'A', 'B', 'D', 'E', 'F'])
    await panel
      .getByRole('group', { name: 'Rank by color' })
      .getByRole('button', { name: letter, exact: true })
      .click();
  await checkAccessibility(page);
  await panel.getByRole('button', { name: 'Keep the votes and show names' }).click();
  const result = page.getByRole('region', { name: 'Result of blind viewing' });
  await expect(result.getByRole('row', { name: /bare/ })).toContainText('0.0');
  await expect(result).toContainText(/Kendall’s tau [−\d.]+; an order by chance does as well in/);
  await expect(result).toContainText(
    /of \d+ votes? in \d+ rounds? agree with what was measured; guessing does as well in/,
  );
  await result.getByRole('button', { name: 'Leave blind viewing' }).click();
  // Votes change no figure: nothing need be measured again.
  await page.keyboard.press('8');
  await expect(page.getByRole('table', { name: 'Verdicts' })).toBeVisible();
  await expect(page.getByText('These figures are from before a change.')).toHaveCount(0);
  await page.keyboard.press('7');
  await expect(page.getByRole('region', { name: 'Stop ladder' })).toBeVisible();
});

test('tiles of another session stand beside, levelled against their own bare', async ({ page }) => {
  await openRoom(page);
  await page.keyboard.press('g');
  await page.getByRole('button', { name: /^Choose tiles/ }).click();
  const tiles = page.getByRole('dialog', { name: 'Tiles' });
  for (const name of ['ND16', 'ND32', 'ND64'])
    await tiles.getByRole('checkbox', { name: new RegExp(`^${name} `) }).uncheck();
  await choose(tiles.getByLabel(/^From another session/), 'Ashwick Quarry bench · Harbour Six');
  await tiles.getByRole('checkbox', { name: /^ND8 chart-harbour-nd8/ }).check();
  await page.keyboard.press('Escape');
  await expect(
    page.getByText(/^ND8 · Ashwick Quarry bench · Harbour Six, .*(raised|lowered) \d\.\d\d stops/),
  ).toBeVisible();
});

test.describe('by fingers', () => {
  test.use({ hasTouch: true });
  test('two fingers zoom what lies between them, one drags', async ({ page }) => {
    await openRoom(page);
    const status = page.locator('main').getByRole('status').last();
    const scale = async () => Number(/, (\d+) %/.exec(await status.innerText())![1]);
    const before = await scale();
    const box = (await page.getByTestId('picture').boundingBox())!;
    const [x, y] = [box.x + box.width / 4, box.y + box.height / 2];
    const touch = await page.context().newCDPSession(page);
    const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: [number, number][]) =>
      touch.send('Input.dispatchTouchEvent', {
        type,
        touchPoints: points.map(([px, py], id) => ({ x: px, y: py, id })),
      });
    await send('touchStart', [
      [x - 40, y],
      [x + 40, y],
    ]);
    // A finger moves as fast as the picture follows: on a busy machine moves would be joined, and the last ones lost.
    for (let apart = 50; apart <= 80; apart += 10) {
      await send('touchMove', [
        [x - apart, y],
        [x + apart, y],
      ]);
      await expect.poll(scale).toBeGreaterThan(0.95 * before * (apart / 40));
    }
    await send('touchEnd', []);
    expect(await scale()).toBeGreaterThan(1.9 * before);
    expect(await scale()).toBeLessThan(2.1 * before);
    // Dragged by one finger the zoom stays, and another place is in the middle.
    await page.keyboard.press('m');
    const [wall, close] = [await codesAt(page, 0.25, 0.5), await scale()];
    await send('touchStart', [[x, y]]);
    for (let moved = 20; moved <= 120; moved += 20) await send('touchMove', [[x + moved, y + moved]]);
    await send('touchEnd', []);
    await expect.poll(async () => Math.abs((await codesAt(page, 0.25, 0.5))[1] - wall[1])).toBeGreaterThan(3);
    expect(await scale()).toBe(close);
  });
});
