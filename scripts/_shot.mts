import { chromium } from '@playwright/test';
// usage: shot.mts OUT URL [WxH] [actions...]
const [out, url, size = '1280x800', ...actions] = process.argv.slice(2);
async function main() {
  const [width, height] = size.split('x').map(Number);
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  const page = await browser.newPage({ viewport: { width, height } });
  page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text()));
  page.on('pageerror', (e) => console.log('pageerror:', e.message));
  await page.goto(url.startsWith('http') ? url : 'http://localhost:8431' + url);
  await page.waitForLoadState('networkidle').catch(() => {});
  for (const action of actions) {
    const [kind, ...rest] = action.split('=');
    const arg = rest.join('=');
    if (kind === 'click') await page.locator(arg).first().click();
    if (kind === 'button') await page.getByRole('button', { name: new RegExp(arg) }).first().click();
    if (kind === 'link') await page.getByRole('link', { name: new RegExp(arg) }).first().click();
    if (kind === 'row') await page.getByRole('listitem').filter({ hasText: arg }).getByRole('link').first().click();
    if (kind === 'tab') await page.getByRole('tab', { name: arg }).click();
    if (kind === 'key') await page.keyboard.press(arg);
    if (kind === 'scroll') await page.mouse.wheel(0, Number(arg)), await page.waitForTimeout(400);
    if (kind === 'wait') await page.waitForTimeout(Number(arg));
    if (kind === 'files') await page.getByLabel('Files', { exact: true }).setInputFiles(arg.split(','));
    if (kind === 'fill') { const [label, v] = arg.split('|'); await page.getByLabel(label).first().fill(v); }
    if (kind === 'text') console.log(await page.locator(arg).allInnerTexts());
    if (kind === 'url') console.log(page.url());
    if (kind === 'full') await page.screenshot({ path: out, fullPage: true });
  }
  await page.waitForTimeout(500);
  if (!actions.includes('full')) await page.screenshot({ path: out });
  await browser.close();
}
void main();
