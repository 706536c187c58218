/**
 * Takes the pictures of docs/screenshots from a freshly started demo: `npm run screenshots` while `./glade up --fresh` runs.
 */
import { chromium, type Page } from '@playwright/test';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import config from '../playwright.config';
import { shootCheck } from '../src/simulator/camera/check';
import { drawProfile } from '../src/simulator/camera/profile';
import { randomPlan } from '../src/simulator/randomBench';
import { writeBench } from '../e2e/pictures';
import { whole } from '../e2e/shared';

const ADDRESS = process.env.GLADE_URL ?? 'http://localhost:8420';

async function main(): Promise<void> {
  const browser = await chromium.launch(config.use?.launchOptions);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  whole(page);
  const folder = await mkdtemp(join(tmpdir(), 'glade-shots-'));
  try {
    await page.goto(ADDRESS);
    await take(page, 'home');
    const row = page.getByRole('listitem').filter({ hasText: 'bench · Foundry Set' });
    await row.getByRole('link', { name: 'Read the verdict' }).click();
    await page.getByRole('table', { name: 'Verdicts' }).waitFor();
    await take(page, 'verdict');
    for (const [key, name] of [
      ['4', 'footage'],
      ['5', 'regions'],
    ] as const) {
      await page.keyboard.press(key);
      await page.waitForURL(`**/${name}*`);
      await take(page, name);
    }
    await page.keyboard.press('7');
    await page.locator('[data-testid=picture][data-settled=true]').waitFor();
    await page.keyboard.press(']');
    await page.locator('[data-testid=picture][data-settled=true]').waitFor();
    await take(page, 'compare');
    await page.goto(`${ADDRESS}/ranking`);
    await page.getByTestId('ranking').waitFor();
    await take(page, 'ranking');
    await page.goto(`${ADDRESS}/years?kit=Quarry+Three`);
    await page.getByRole('button', { name: 'ND64', exact: true }).click();
    await take(page, 'years');
    await page.goto(`${ADDRESS}/carry`);
    await page.getByRole('table', { name: /^What to carry/ }).waitFor();
    await take(page, 'carry');
    await page.goto(`${ADDRESS}/benches`);
    await page.getByRole('list', { name: 'Benches' }).waitFor();
    await take(page, 'benches');
    await page.goto(ADDRESS);
    await row.getByRole('link', { name: 'Read the verdict' }).click();
    await page.getByRole('table', { name: 'Verdicts' }).waitFor();
    await page.keyboard.press('0');
    await page.getByRole('button', { name: 'Begin the report' }).click();
    await page.getByLabel('The question').fill('Are the two strongest filters of this set one and the same?');
    await page.getByText('Saved', { exact: true }).waitFor();
    await page.frameLocator('iframe').getByText('one and the same?').waitFor();
    await take(page, 'report');
    await page.setViewportSize({ width: 390, height: 844 });
    await page.goto(`${ADDRESS}/pick`);
    await page.getByTestId('pick').waitFor();
    await take(page, 'pick');
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(ADDRESS);
    const walk = page.getByRole('listitem').filter({ hasText: 'Lantern Weir walk' });
    await walk.getByRole('link', { name: 'Read the verdict' }).click();
    await page.getByRole('table', { name: 'Verdicts' }).getByRole('button', { name: 'ND64' }).click();
    await page.getByRole('heading', { name: /^ND64 up close/ }).evaluate((heading) => heading.scrollIntoView());
    const pair = page.getByTestId('pair').locator('img').first();
    await pair.evaluate((one: HTMLImageElement) => one.decode());
    await page.getByTestId('pair').evaluate((one) => one.closest('section')?.scrollIntoView());
    await take(page, 'scene');
    await page.goto(`${ADDRESS}/kits`);
    await page.getByRole('link', { name: 'Sluice Turners' }).click();
    await page.getByRole('table', { name: 'Filters of the kit' }).waitFor();
    await take(page, 'kit');
    await showCheck(page, folder);
    await page.goto(`${ADDRESS}/plan`);
    await take(page, 'plan');
    await page.getByLabel('Title').fill('Bench, third sitting');
    await page.getByRole('button', { name: 'Keep the plan' }).click();
    await page.waitForURL('**/sessions/*/plan');
    await page.setViewportSize({ width: 390, height: 844 });
    await page.getByRole('link', { name: 'Shoot it' }).click();
    await page.getByRole('button', { name: 'Done', exact: true }).click();
    await page.getByText('all sent').waitFor();
    await take(page, 'shoot');
    await page.setViewportSize({ width: 1280, height: 800 });
    await showLive(page);
    await page.goto(`${ADDRESS}/sessions/new`);
    const pictures = await writeBench(folder);
    const description = join(folder, 'session.glade.json');
    const bench = JSON.parse(await readFile(description, 'utf8')) as Record<string, unknown>;
    await writeFile(description, JSON.stringify({ ...bench, patches: [] }));
    await page.getByLabel('Files', { exact: true }).setInputFiles([description, ...pictures]);
    await page.getByRole('button', { name: /^Take all/ }).waitFor();
    await page.getByRole('button', { name: /^Take all/ }).click();
    await page.getByText('Saved', { exact: true }).waitFor();
    await page.goto(page.url().replace(/regions.*$/, 'details'));
    await page.getByLabel('Place', { exact: true }).fill('Ashwick, the garden wall');
    await page.getByText('Saved', { exact: true }).waitFor();
    await page.getByText('place', { exact: true }).waitFor();
    await take(page, 'details');
    await page.goto(`${ADDRESS}/sessions/new`);
    await page.getByLabel('Files', { exact: true }).setInputFiles(pictures);
    await page.getByLabel('Kit in shorthand').waitFor();
    await page.getByLabel('Shutter of chart-bare-1.png').fill('1/2000');
    await page.getByLabel('ISO of chart-bare-1.png').fill('100');
    await page.evaluate(() => scrollTo(0, 0));
    await take(page, 'new-session');
  } finally {
    await browser.close();
    await rm(folder, { recursive: true, force: true });
  }
}

/** A sitting that goes on: the stand-in camera shoots a plan, and one of its filters wrongly. */
async function showLive(page: Page): Promise<void> {
  await page.goto(`${ADDRESS}/plan`);
  await page.getByLabel('Title').fill('Bench, live');
  await page.getByLabel('Kit in shorthand').fill('ND4 8 16 32');
  await page.getByLabel('even wall').uncheck();
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  await page.waitForURL('**/sessions/*/plan');
  await page.getByRole('link', { name: 'Live', exact: true }).click();
  await page.getByRole('button', { name: 'Start' }).click();
  const next = page.getByTestId('next');
  const shoot = page.getByRole('button', { name: 'Shoot the next take' });
  for (let shots = 0; shots < 20; shots++) {
    const coming = await next.innerText();
    const wrong = coming.startsWith('ND8');
    if (wrong) {
      await page.getByRole('combobox', { name: 'What goes wrong' }).click();
      await page.getByRole('option', { name: 'wrong filter' }).click();
    }
    await shoot.click();
    await page.getByText(/^Shot: /).waitFor();
    await shoot.waitFor();
    // What comes next is told a moment after.
    await page.waitForTimeout(2000);
    // One that is much lighter clips, and is left out at once: then another one is put on.
    if (wrong && (await page.getByText('Wrong filter?').isVisible())) break;
  }
  await page.getByText('Wrong filter?').waitFor();
  await page.getByText(/^Waiting for the next file/).waitFor();
  await page.evaluate(() => scrollTo(0, 0));
  await take(page, 'live');
  await page.getByRole('button', { name: 'End and measure' }).click();
  await page.getByRole('button', { name: 'Start' }).waitFor();
}

/** A stand-in camera's check, from its pictures on. */
async function showCheck(page: Page, folder: string): Promise<void> {
  const camera = { ...drawProfile('shots', 'processed'), settings: { make: 'Stand-in', model: 'Styled' } };
  const plan = { ...randomPlan('shots', SMALL_BENCH), width: 600, height: 400, startedAt: '2026-05-14T09:00:00Z' };
  await shootCheck(plan, camera, folder);
  const names = (await readdir(folder)).filter((name) => /^check-.*jpg$/.test(name));
  const pictures = names.sort((a, b) => parseInt(a.slice(6)) - parseInt(b.slice(6))).map((name) => join(folder, name));
  await page.goto(`${ADDRESS}/kits`);
  await page.getByRole('button', { name: 'New rig' }).click();
  await page.getByRole('textbox', { name: 'Camera' }).fill('Pocket camera');
  await page.getByText('Saved', { exact: true }).waitFor();
  await page.getByRole('link', { name: 'Check the camera' }).click();
  await page.getByLabel('Pictures: Even surface').setInputFiles(pictures.slice(0, 18));
  await page.getByLabel('Pictures: Edge or chart').setInputFiles(pictures.slice(18));
  await page.getByText('4 pictures').waitFor();
  await page.getByRole('button', { name: 'Work out the check' }).click();
  await page.getByRole('button', { name: 'Keep with the rig' }).click({ timeout: 300_000 });
  await page.getByRole('link', { name: '1-D .cube' }).waitFor();
  await take(page, 'check');
}

const SMALL_BENCH = { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 } as const;

/** A picture once the page is at rest. */
async function take(page: Page, name: string): Promise<void> {
  await page.waitForLoadState('networkidle');
  await page.getByText('Coming …').waitFor({ state: 'hidden' });
  // Pictures below the fold are loaded when they are scrolled to.
  await page.waitForFunction(() =>
    [...document.images].every((image) => image.complete || image.getBoundingClientRect().top > innerHeight),
  );
  await page.waitForTimeout(700);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
}

void main();
