/** What all browser tests share. */
import AxeBuilder from '@axe-core/playwright';
import { expect, test as base, type Locator, type Page } from '@playwright/test';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';

/** Every test fails on an error in the console or a page that throws. */
export const test = base.extend<{ quiet: void }>({
  quiet: [
    async ({ page }, use) => {
      const errors: string[] = [];
      page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
      page.on('pageerror', (error) => errors.push(error.message));
      whole(page);
      await use();
      // A refused upload answers 4xx on purpose, a line that a test cuts fails; the browser logs both by itself.
      expect(
        errors.filter((text) => !/status of 4(22|00|04)|net::ERR_(?:FAILED|INTERNET_DISCONNECTED)/.test(text)),
      ).toEqual([]);
    },
    { auto: true },
  ],
});

/**
 * Lets a page's ways there end when all of it is in place. Parts that come late are streamed into a hidden place first and stand there
 * twice for some milliseconds, which a person doesn't see and a locator does.
 */
export function whole(page: Page): void {
  const [go, again] = [page.goto.bind(page), page.reload.bind(page)];
  const arrived = async <T>(answer: T): Promise<T> => {
    await page.waitForFunction(() => document.querySelector('[hidden][id^="S:"]') === null);
    return answer;
  };
  page.goto = async (...words) => arrived(await go(...words));
  page.reload = async (...words) => arrived(await again(...words));
}

/** WCAG 2.2 A and AA, as far as a machine can tell. */
export async function checkAccessibility(page: Page) {
  // While a changed page streams in, its title comes a moment after the rest.
  await expect(page).toHaveTitle(/./);
  // What it passes isn't told, and the one page is all there is (no frame of another origin): twice as fast.
  const { violations } = await new AxeBuilder({ page })
    .options({ runOnly: { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag22aa'] }, resultTypes: ['violations'] })
    .setLegacyMode(true)
    .analyze();
  // Patches lie and are as large as what they measure; the list beside the picture selects them just as well (WCAG 2.5.8, equivalent).
  const told = violations.flatMap(({ id, nodes }) =>
    nodes
      .filter((node) => !(id === 'target-size' && String(node.target).includes('data-patch')))
      .map((node) => `${id}: ${String(node.target)} ${node.html}`),
  );
  expect(told).toEqual([]);
}

/** Chooses an entry of one of our lists, as a person does: opens it, presses the entry. */
export async function choose(list: Locator, words: string | RegExp) {
  await list.click();
  await list
    .page()
    .getByRole('option', { name: words, exact: typeof words === 'string' })
    .click();
  await expect(list.page().getByRole('listbox')).toHaveCount(0);
}

/** Where a slider stands. */
export const valueOf = async (slider: Locator) => Number(await slider.getAttribute('aria-valuenow'));

/** Carries something to somewhere else with the pointer, in steps as a hand does. */
export async function carry(from: Locator, to: Locator) {
  const page = from.page();
  await from.scrollIntoViewIfNeeded();
  const [start, end] = [(await from.boundingBox())!, (await to.boundingBox())!];
  await page.mouse.move(start.x + start.width / 2, start.y + start.height / 2);
  await page.mouse.down();
  await page.mouse.move(start.x + start.width / 2 + 12, start.y + start.height / 2 + 4, { steps: 3 });
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2, { steps: 12 });
  await page.mouse.up();
}

/** Drops a folder with its session file, measures it and opens the verdict. */
export async function dropAndMeasure(page: Page, folder: string) {
  await page.goto('/sessions/new');
  const files = (await readdir(folder)).map((name) => join(folder, name));
  await page.getByLabel('Files', { exact: true }).setInputFiles(files);
  await expect(page).toHaveURL(/\/regions/, { timeout: 400_000 });
  await page.goto(page.url().replace(/\/[a-z]+$/, '/measure'));
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Measured', { timeout: 600_000 });
  await page.getByRole('link', { name: 'Read the verdict' }).click();
}
