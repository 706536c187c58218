/** Footage as it comes from a card: interrupted, nameless, laid wrong. */
import { expect, type Page } from '@playwright/test';
import { spawn } from 'node:child_process';
import { copyFile, mkdir, rename } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { filmBench, writeBench } from './pictures';
import { test } from './ownServer';
import { carry, checkAccessibility } from './shared';

// What another test left waiting must not be counted here, nor be taken from others.
test.skip(!process.env.GLADE_VAR, 'needs the database of the application');
test.beforeEach(async ({ request }) => {
  const { files } = (await (await request.get('/api/inbox')).json()) as { files: { stored: { sha256: string } }[] };
  await request.delete('/api/inbox', { data: { sha256: files.map((one) => one.stored.sha256) } });
});

/** Gives files names as cameras do, in the order of the list. */
async function nameless(paths: string[]): Promise<string[]> {
  const stems = [...new Set(paths.map((path) => path.replace(/\.[^.]+$/, '')))];
  return Promise.all(
    paths.map(async (path) => {
      const number = stems.indexOf(path.replace(/\.[^.]+$/, '')) + 1;
      const to = join(dirname(path), `CLIP_00${number}${/\.[^.]+$/.exec(path)![0]}`);
      await rename(path, to);
      return to;
    }),
  );
}

async function drop(page: Page, paths: string[]): Promise<void> {
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles(paths);
  await expect(page.getByLabel('Kit in shorthand')).toBeVisible({ timeout: 400_000 });
}

const row = (page: Page, name: string) => page.getByRole('group', { name, exact: true });

test('clips whose names say nothing are laid by their strength, doubts are asked, all by keyboard', async ({
  page,
}, info) => {
  const paths = await nameless(await filmBench(info.outputPath('films')));
  await drop(page, paths);
  // The kit decides what a strength can mean.
  await page.getByLabel('Kit in shorthand').fill('ND4 16 64');
  const questions = page.getByRole('region', { name: 'Questions' });
  await expect(questions).toBeVisible();
  await checkAccessibility(page);
  await expect(questions).toContainText('stops darker than');
  const asked = await questions.getByRole('button', { name: /^Ask about/ }).count();
  expect(asked).toBeGreaterThan(1);
  const first = await questions.locator('ol button').first().innerText();
  await questions.focus();
  await page.keyboard.press('1');
  await expect(questions.getByRole('button', { name: /^Ask about/ })).toHaveCount(asked - 1);
  await page.keyboard.press('u');
  await expect(questions.getByRole('button', { name: /^Ask about/ })).toHaveCount(asked);
  await expect(questions.locator('ol button').first()).toHaveText(first.replaceAll('\n', ''));
  await questions.getByRole('button', { name: 'Take the likeliest for all' }).click();
  await expect(questions).toBeHidden();
  // Two of the three kinds of light: bare three times, ND4 and ND16 once each; ND64 has no file.
  await expect(row(page, 'bare, Chart').locator('[data-path]')).toHaveCount(3);
  await expect(row(page, 'ND64, Chart')).toContainText('no file yet');

  // What lies wrong is dragged, and taken back.
  const tile = row(page, 'bare, Chart').locator('[data-path]').first();
  const path = (await tile.getAttribute('data-path'))!;
  await carry(tile, row(page, 'ND64, Chart'));
  await expect(row(page, 'ND64, Chart').locator(`[data-path="${path}"]`)).toBeVisible();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Control+z');
  await expect(row(page, 'bare, Chart').locator(`[data-path="${path}"]`)).toBeVisible();
  // A clip is scrubbed under the pointer.
  const picture = tile.locator('span').first();
  await picture.hover({ position: { x: 120, y: 40 } });
  await expect(picture).toHaveAttribute('data-moment', /[1-9]/);
  await page.getByRole('button', { name: 'Create session' }).click();
  await expect(page).toHaveURL(/\/regions/);
});

test('an upload that breaks off goes on; what has arrived waits through a reload', async ({ page }, info) => {
  const paths = await writeBench(info.outputPath('bench'));
  let broken = 0;
  // The line breaks in the middle of the first pieces.
  await page.route('**/api/uploads/*', (route) =>
    route.request().method() === 'PATCH' && broken++ < 3 ? route.abort() : route.continue(),
  );
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles(paths);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Match ${paths.length} pictures to filters`, {
    timeout: 150_000,
  });
  expect(broken).toBeGreaterThan(2);
  await page.reload();
  const waiting = page.getByRole('region', { name: 'Files that wait' });
  await expect(waiting).toContainText(`${paths.length} files wait`);
  await checkAccessibility(page);
  await waiting.getByRole('button', { name: 'Go on with them' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('pictures to filters');
  await page
    .getByRole('button', { name: /^Leave .* out$/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(`${paths.length - 1} pictures`);
  await page.reload();
  await expect(waiting).toContainText(`${paths.length - 1} files wait`);
  await waiting.getByRole('button', { name: 'Put them away' }).click();
  await expect(waiting).toBeHidden();
});

test('an upload can be paused, and stopped without loss', async ({ page }, info) => {
  const [path] = await writeBench(info.outputPath('bench'));
  let open: () => void = () => undefined;
  const gate = new Promise<void>((resolve) => (open = resolve));
  await page.route('**/api/uploads/*', async (route) => {
    if (route.request().method() === 'PATCH') await gate;
    await route.continue().catch(() => undefined);
  });
  await page.goto('/sessions/new');
  await page.getByLabel('Files', { exact: true }).setInputFiles(path);
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByText('Paused: 1 file')).toBeVisible();
  open();
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Match 1 picture to filters');
  await page.getByRole('button', { name: /^Leave .* out$/ }).click();
});

test('files added to a session are laid on its takes; a wrong one is told, shown, moved and taken back', async ({
  page,
}, info) => {
  const paths = await writeBench(info.outputPath('bench'));
  const held = paths.find((path) => path.includes('nd8'))!;
  await drop(
    page,
    paths.filter((path) => path !== held),
  );
  await page.getByLabel('Kit in shorthand').fill('ND4 8');
  const shutter = async (name: string, value: string) => {
    await page.getByLabel(`Shutter of ${name}`).fill(value);
    await page.getByLabel(`ISO of ${name}`).fill('100');
  };
  for (const path of paths) if (path !== held) await shutter(basename(path), path.includes('nd4') ? '1/500' : '1/2000');
  await page.getByRole('button', { name: 'Create session' }).click();
  await expect(page).toHaveURL(/\/regions/);
  await page.getByRole('link', { name: /Footage/ }).click();
  await expect(row(page, 'ND8, Chart')).toContainText('no take yet');

  await page.getByLabel('More files', { exact: true }).setInputFiles(held);
  await expect(page.getByText('1 file laid.')).toBeVisible({ timeout: 150_000 });
  await expect(row(page, 'ND8, Chart').locator('[data-path]')).toHaveCount(1);
  const checks = page.getByRole('region', { name: 'Checks' });
  await expect(checks).toContainText('Nothing says at which exposure');
  await checkAccessibility(page);

  await carry(row(page, 'ND8, Chart').locator('[data-path]'), row(page, 'ND4, Chart'));
  await expect(row(page, 'ND4, Chart').locator('[data-path]')).toHaveCount(2);
  await checks.getByRole('button', { name: /says ND8, the take says ND4/ }).click();
  await expect(checks.getByRole('img', { name: basename(held) })).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(row(page, 'ND8, Chart').locator('[data-path]')).toHaveCount(1);
});

test('a watched folder takes in files as they are written', async ({ page }, info) => {
  const [picture] = await writeBench(info.outputPath('bench'));
  const card = info.outputPath('card');
  await mkdir(join(card, 'DCIM'), { recursive: true });
  const watcher = spawn(process.execPath, ['dist/watch.mjs', card], { env: process.env });
  let said = '';
  watcher.stdout.on('data', (part: Buffer) => (said += part.toString()));
  watcher.stderr.on('data', (part: Buffer) => (said += part.toString()));
  try {
    await expect.poll(() => said).toContain('Watching');
    await copyFile(picture, join(card, 'DCIM', 'bare watched.png'));
    await expect.poll(() => said, { timeout: 20_000 }).toContain('Taken in: DCIM/bare watched.png');
    await page.goto('/sessions/new');
    const waiting = page.getByRole('region', { name: 'Files that wait' });
    await expect(waiting).toContainText('DCIM/bare watched.png');
    await waiting.getByRole('button', { name: 'Put them away' }).click();
    await expect(waiting).toBeHidden();
  } finally {
    watcher.kill('SIGTERM');
  }
  await expect.poll(() => watcher.exitCode).toBe(0);
});
