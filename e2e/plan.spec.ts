/** From a plan to footage on its takes. */
import { expect } from '@playwright/test';
import { copyFile, mkdir } from 'node:fs/promises';
import { X509Certificate } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { writeSession } from '@/simulator/files';
import { planTakes } from '@/simulator/plan';
import { fileName } from '@/simulator/session';
import { BENCH } from './pictures';
import { checkAccessibility, choose, test } from './shared';
import { trustingBrowser } from './trusting';

test('a sitting is planned, kept, and its footage is laid on the planned takes', async ({ page }, info) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Plan a sitting' }).click();
  await expect(page).toHaveURL(/\/plan$/);
  await page.getByLabel('Title').fill('Planned bench');
  await page.getByLabel('Kit in shorthand').fill('ND4 8');
  await page.getByLabel('even wall').uncheck();
  await page.getByLabel('two darker bare pictures').uncheck();
  await page.getByLabel(/^Light at the chart/).fill('dark');
  await expect(page.getByRole('list', { name: 'What is missing' })).toContainText('Write the light as');
  await expect(page.getByRole('button', { name: 'Keep the plan' })).toBeDisabled();

  // Too dark for the strongest in clips: named, with what helps; a brighter bench makes it good.
  await page.getByLabel('Kit in shorthand').fill('ND4 8 1000');
  await page.getByLabel(/^Light at the chart/).fill('300 lx');
  await choose(page.getByLabel('What is shot'), 'clips');
  await page.getByLabel('Highest ISO').fill('200');
  const budget = page.getByRole('region', { name: 'Light budget' });
  await expect(budget.getByRole('row', { name: /^ND1000/ })).toContainText('too dark with everything at its limit');
  await expect(budget.getByRole('row', { name: /^ND1000/ })).toContainText('more lamps');
  await page.getByLabel('Kit in shorthand').fill('ND4 8');
  await choose(page.getByLabel('What is shot'), 'stills');
  await page.getByLabel(/^Light at the chart/).fill('1/2000 f/2.8 ISO 100');
  await page.getByLabel('Bare after every').fill('1');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('5 takes, about 8 minutes');
  const order = page.getByRole('region', { name: 'Run order' });
  await expect(order.getByRole('row', { name: /ND8/ })).toContainText('1/250 s');
  await checkAccessibility(page);
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  await expect(page).toHaveURL(/\/sessions\/.*\/plan/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('0 of 5 takes shot, 5 left');
  await checkAccessibility(page);

  // The card: three bare pictures that only their order tells apart, and no exposure in any file.
  const folder = info.outputPath('card');
  await mkdir(folder, { recursive: true });
  await writeSession(BENCH, { id: 'kit', name: 'Card' }, folder, 'png');
  const card = await Promise.all(
    planTakes(BENCH).map(async (take, i) => {
      const path = join(folder, `${100 + i}_${take.filter?.id ?? 'bare'}.png`);
      await copyFile(join(folder, fileName(take, 0, 'png')), path);
      return path;
    }),
  );
  await page.getByRole('link', { name: 'Go on to Footage' }).click();
  await page.getByLabel('More files', { exact: true }).setInputFiles(card);
  await expect(page.getByText('5 files laid.')).toBeVisible();
  for (const id of ['chart-bare-1', 'chart-nd4', 'chart-bare-2', 'chart-nd8', 'chart-bare-3'])
    await expect(page.getByLabel(`Filter of ${id}`, { exact: true })).toBeVisible();
  await expect(page.getByLabel('Shutter of chart-nd8', { exact: true })).toHaveValue('1/250');
  await page.keyboard.press('2');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Every planned take has footage');
});

test('the run sheet on a phone: the line is cut in the middle, a second phone taps too, nothing is lost or doubled', async ({
  page,
  browser,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/plan');
  await page.getByLabel('Title').fill('Sheet on a phone');
  await page.getByLabel('Kit in shorthand').fill('ND4 8');
  await page.getByLabel('even wall').uncheck();
  await page.getByLabel('two darker bare pictures').uncheck();
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  await expect(page).toHaveURL(/\/sessions\/.*\/plan/);
  await page.getByRole('link', { name: 'Shoot it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('bare');
  await checkAccessibility(page);
  const take = page.getByRole('region', { name: 'This take' });
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('ND4');
  await expect(page.getByRole('status')).toHaveText('all sent');

  // No line: taps are kept, through a reload of what the browser still has, and sent later in order.
  await page.route('**/log', (route) => route.abort());
  await take.getByRole('button', { name: 'More ISO' }).click();
  await page.getByLabel('Note, kept with the next tap').fill('edge of a cloud');
  await page.getByRole('button', { name: 'Cloud' }).click();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('ND8');
  await expect(page.getByRole('status')).toHaveText('3 taps wait for a line');
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('ND8');
  await expect(page.getByRole('status')).toHaveText('3 taps wait for a line');

  const other = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await other.goto(page.url());
  await other.getByRole('list', { name: 'All takes' }).getByRole('button', { name: /ND8/ }).click();
  await other.getByRole('button', { name: 'Skip' }).click();
  await expect(other.getByRole('status')).toHaveText('all sent');
  await other.close();

  await page.unroute('**/log');
  await expect(page.getByRole('status')).toHaveText('all sent');
  const list = page.getByRole('list', { name: 'All takes' });
  await expect(list.getByRole('button', { name: /ND4/ })).toContainText('edge of a cloud');
  await expect(list.getByRole('button', { name: /ND8/ })).toContainText('skipped');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('bare');
  const { entries } = (await (
    await page.request.get(page.url().replace('/sessions/', '/api/sessions/').replace('/shoot', '/log'))
  ).json()) as {
    entries: { id: string; kind: string }[];
  };
  expect(entries.map((one) => one.kind).sort()).toEqual(['cloud', 'done', 'done', 'setting', 'skip']);
  expect(new Set(entries.map((one) => one.id)).size).toBe(5);
  await page.getByRole('button', { name: /^Take back/ }).click();
  await expect(list.getByRole('button', { name: /ND8/ })).not.toContainText('skipped');
  await page.getByLabel('The camera’s clock shows').fill('08:00:00');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText(/the camera is \d+ s (behind|ahead)/)).toBeVisible();
  await checkAccessibility(page);
});

test('the whole course on a phone: planned, shot with the line cut, a swapped pair caught, measured, judged', async ({
  page,
  context,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/plan');
  await page.getByLabel('Title').fill('Practice');
  await page.getByLabel('Kit in shorthand').fill('ND8 16');
  await page.getByLabel('even wall').uncheck();
  await page.getByLabel('Pictures a take').fill('1');
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  await expect(page).toHaveURL(/\/sessions\/.*\/plan/);
  await page.getByRole('link', { name: 'Shoot it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('bare');
  const done = page.getByRole('button', { name: 'Done', exact: true });
  const status = page.getByRole('status');
  await done.click();
  await expect(status).toHaveText('all sent');
  // Its JPEGs only tell sRGB: two darker bare pictures show the camera's curve, else an exchanged filter's strength would be withheld.
  for (let dark = 0; dark < 2; dark++) {
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('bare, darker');
    await page.waitForTimeout(1100);
    await done.click();
    await expect(status).toHaveText('all sent');
  }
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('ND8');

  // The line goes; the page is even loaded again without one, as the browser keeps it.
  await page.evaluate(() => navigator.serviceWorker.ready);
  await expect
    .poll(() => page.evaluate(async () => (await (await caches.open('aurora-glade-sheet-1')).keys()).length))
    .toBeGreaterThan(3);
  await context.setOffline(true);
  await page.waitForTimeout(1100);
  await done.click();
  await expect(status).toHaveText('1 tap waits for a line');
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('ND16');
  await page.waitForTimeout(1100);
  await done.click();
  await expect(status).toHaveText('2 taps wait for a line');
  await context.setOffline(false);
  await expect(status).toHaveText('all sent');
  await page.waitForTimeout(1100);
  await done.click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('All done');
  await expect(status).toHaveText('all sent');

  await page.getByRole('link', { name: 'Practice' }).click();
  await page.getByRole('link', { name: 'Go on to Footage' }).click();
  await page.getByLabel('two neighbors are exchanged').check();
  await page.getByRole('button', { name: 'Shoot with the stand-in' }).click();
  await expect(page.getByText(/were they exchanged\?/)).toBeVisible({ timeout: 400_000 });
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('6 files on 6 takes');
  await page.getByRole('link', { name: 'Place the regions' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Places to measure, proposed', { timeout: 150_000 });
  await page.keyboard.press('a');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Go on to Measure' }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Measured', { timeout: 400_000 });
  await page.getByRole('link', { name: 'Read the verdict' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Two filters stand in the wrong order');
});

test('a phone trusts the desk, is paired with one sheet by a code, opens it without a line, and is revoked', async ({
  page,
  browser,
}) => {
  test.skip(!process.env.GLADE_VAR, 'needs the data folder of the application');
  await page.goto('/plan');
  await page.getByLabel('Title').fill('Paired');
  await page.getByRole('button', { name: 'Keep the plan' }).click();
  await expect(page).toHaveURL(/\/sessions\/.*\/plan/);
  await page.getByRole('link', { name: 'Shoot it' }).click();
  const phones = page.getByRole('region', { name: 'Phones' });
  await phones.getByRole('button', { name: 'Pair a phone' }).click();
  const networks = Object.values(networkInterfaces()).flatMap((list) => list ?? []);
  if (!networks.some((one) => one.family === 'IPv4' && !one.internal)) {
    await expect(phones.getByRole('alert')).toContainText('on no network');
    return;
  }
  const code = phones.getByRole('img', { name: /^QR code of/ });
  const address = (await code.getAttribute('aria-label'))!.replace('QR code of ', '');
  expect(address).toMatch(/^https:/);
  await checkAccessibility(page);
  // What a phone that was never here does: it warns, and the desk says where its root is to be had.
  const stranger = await (await browser.newContext()).newPage();
  await expect(stranger.goto(address)).rejects.toThrow(/ERR_CERT_AUTHORITY_INVALID/);
  const [, trust, told] = /Open (http:\S+) on it first.*SHA-256 is ([0-9A-F:]{95})/.exec(await phones.getByRole('figure').innerText())!; // prettier-ignore
  // The browser's own page of the error comes a moment later, and would take this one's place.
  await expect(() => stranger.goto(trust)).toPass();
  await expect(stranger.getByRole('heading', { level: 1 })).toHaveText('Trust this desk');
  await expect(stranger.getByText(told)).toBeVisible();
  await checkAccessibility(stranger);
  const [root] = await Promise.all([
    stranger.waitForEvent('download'),
    stranger.getByRole('link', { name: 'Fetch the root' }).click(),
  ]);
  expect(new X509Certificate(await readFile(await root.path())).fingerprint256).toBe(told);
  await stranger.context().close();

  const trusting = await trustingBrowser();
  const phone = await (await trusting.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await phone.goto(address);
  await phone.getByLabel('What is this phone called?').fill('Field phone');
  await checkAccessibility(phone);
  await phone.getByRole('button', { name: 'Pair this phone' }).click();
  await expect(phone).toHaveURL(/\/sessions\/.*\/shoot/);
  await phone.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(phone.getByRole('heading', { level: 1 })).toHaveText('bare, darker');
  // The code is used up.
  const second = await (await trusting.newContext()).newPage();
  expect((await second.goto(address))?.status()).toBe(403);
  await second.context().close();
  await expect(phone.getByRole('status')).toHaveText('all sent');
  // While the sitting is live the phone sends pictures too, and says how it stands.
  const desk = await page.context().newPage();
  await desk.goto(page.url().replace(/shoot$/, 'live'));
  await desk.getByRole('button', { name: 'Start' }).click();
  const live = phone.getByRole('region', { name: 'Live' });
  await expect(live).toContainText('0 of 6 filters within ±0.02');
  await phone.getByLabel('More files').setInputFiles({ name: 'odd.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') }); // prettier-ignore
  await expect(live).toContainText('odd.jpg waits: ');
  await checkAccessibility(phone);
  await desk.getByRole('button', { name: 'End and measure' }).click();
  await expect(live).toHaveCount(0);
  await desk.close();
  // The line goes, and the sheet is even loaded again.
  await phone.evaluate(() => navigator.serviceWorker.ready);
  await expect
    .poll(() => phone.evaluate(async () => (await (await caches.open('aurora-glade-sheet-1')).keys()).length))
    .toBeGreaterThan(3);
  const sheet = phone.url();
  await phone.getByRole('link', { name: 'Pick a filter for the light' }).click();
  await expect(phone.getByRole('heading', { level: 1 })).toHaveText('Pick');
  await checkAccessibility(phone);
  await expect.poll(() => phone.evaluate(async () => (await caches.match('/pick')) !== undefined)).toBe(true);
  await phone.context().setOffline(true);
  await phone.reload();
  await expect(phone.getByRole('heading', { level: 1 })).toHaveText('Pick');
  await phone.goto(sheet);
  await expect(phone.getByRole('heading', { level: 1 })).toHaveText('bare, darker');
  await phone.context().setOffline(false);
  expect((await phone.context().cookies()).map(({ secure, httpOnly }) => [secure, httpOnly])).toEqual([[true, true]]);
  // No way from the sheet to the desk.
  await expect(phone.getByRole('region', { name: 'Phones' })).toHaveCount(0);
  expect((await phone.goto(new URL('/', address).href))?.status()).toBe(403);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('bare, darker');
  await phones.getByRole('list', { name: 'Paired phones' }).getByRole('button', { name: 'Revoke Field phone' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Revoke it' }).click();
  await expect(phones.getByText('No phone is paired.')).toBeVisible();
  expect((await phone.goto(page.url().replace(/^.*\/sessions/, `${new URL(address).origin}/sessions`)))?.status()).toBe(
    403,
  );
  await trusting.close();
});
