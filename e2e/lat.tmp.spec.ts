import { expect, test } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtemp, readdir, copyFile, rename } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
test('latency', async ({ page }) => {
  await page.goto('/plan');
  await page.getByLabel('Title').fill('Latency');
  await page.getByLabel('Kit in shorthand').fill('ND4 8 16 32');
  await page.getByLabel('even wall').uncheck();
  await page.getByLabel(/^Light at the chart/).fill('1/2000 f/2.8 ISO 100');
  await page.getByLabel('Bare after every').fill('2');
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  await expect(page).toHaveURL(/\/sessions\/.*\/plan/);
  const id = /sessions\/([^/]+)/.exec(page.url())![1];
  await page.goto(`/sessions/${id}/live`);
  await page.getByRole('button', { name: 'Start' }).click();
  const small = await mkdtemp(join(tmpdir(), 'glade-s-'));
  const folder = await mkdtemp(join(tmpdir(), 'glade-l-'));
  // render everything first, small, by practice-like camera into an unwatched folder: take by take
  const watcher = spawn(process.execPath, [join('/work/main', 'dist', 'watch.mjs'), folder], { stdio: 'inherit' });
  await page.waitForTimeout(1500);
  const seen = new Set<string>();
  for (let k = 0; k < 8; k++) {
    const cam = spawn(process.execPath, [join('/work/main', 'dist', 'manage.mjs'), 'camera', id, small, '600'], { stdio: 'ignore' });
    let fresh: string[] = [];
    const before = await page.getByTestId('next').innerText();
    const wanted = /(\d) picture/.exec(before)![1];
    while (fresh.length < Number(wanted)) { await page.waitForTimeout(300); fresh = (await readdir(small)).filter((f) => !f.startsWith('.') && !seen.has(f)); }
    cam.kill();
    for (const f of fresh) seen.add(f);
    let t0 = 0;
    for (const f of fresh.sort()) {
      await sharp(join(small, f)).resize(6000, 4000, { kernel: 'cubic' }).withMetadata().jpeg({ quality: 95 }).toFile(join(folder, '.' + f));
    }
    await page.waitForTimeout(1000);
    for (const [n, f] of fresh.sort().entries()) {
      t0 = Date.now();
      await rename(join(folder, '.' + f), join(folder, f));
      // the page shows the picture laid and measured
      await page.waitForFunction(() => /Measuring/.test(document.querySelector('main')?.textContent ?? ''), undefined, { timeout: 60000 }).catch(() => undefined);
      const t1 = Date.now();
      await page.waitForFunction(() => !/Measuring/.test(document.querySelector('main')?.textContent ?? ''), undefined, { timeout: 60000 });
      console.log('LAT', new Date(t0).toISOString(), before, n, t1 - t0, Date.now() - t0);
    }
    if (!before.includes('darker')) await expect(page.getByTestId('next')).not.toHaveText(before);
  }
  watcher.kill();
  await page.getByRole('button', { name: 'End and measure' }).click();
});
