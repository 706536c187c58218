/** How a camera moved in clips: the motion panel, its traces dragged, its frames averaged. */
import { expect } from '@playwright/test';
import { writeSession } from '@/simulator/files';
import type { BenchPlan } from '@/simulator/truth';
import { checkAccessibility, dropAndMeasure, test, valueOf } from './shared';

/** A hand that sways before a view; every frame is coded by itself, so that its smear is its own. */
const PLAN: BenchPlan = {
  title: 'A hand that sways',
  seed: 'motion-spec',
  width: 320,
  height: 180,
  camera: { response: 'bt709', bitDepth: 16, fullWell: 15000, readNoise: 3, falloffStops: 0.4, blurPx: 0.6 },
  lamps: { driftStops: 0 },
  protocol: 'matched',
  bareLevel: 0.75,
  filters: [{ id: 'nd32', name: 'ND32', kind: 'nd', nominal: { ndFactor: 32 }, stops: [5, 5, 5] }],
  repeats: 1,
  bareEvery: 1,
  startedAt: '2026-06-14T09:00:00Z',
  scenes: ['outdoor'],
  clips: { codec: 'h264', bits: 8, quality: 12, chroma: '420', range: 'limited', framesPerSecond: 25, frames: 52, keyEvery: 1, telemetry: true },
  walk: { driftPx: 4, sway: { px: 7, hertz: 1.6 }, turnDegrees: 0, zoom: 0, parallax: 0, wind: 0 },
}; // prettier-ignore

test('the traces of a clip are dragged, and the frames, the slider and the figures follow', async ({ page }, info) => {
  const folder = info.outputPath('sway');
  await writeSession(PLAN, { id: 'sway', name: 'Sway' }, folder);
  await dropAndMeasure(page, folder);
  await page
    .getByRole('table', { name: 'Verdicts' })
    .getByRole('row', { name: /^ND32 / })
    .getByRole('button')
    .first()
    .click();

  const panel = page.getByRole('region', { name: 'Motion', exact: true });
  const told = await panel
    .getByRole('row', { name: /as told/ })
    .getByRole('cell')
    .last()
    .innerText();
  // 1/62.5 s at 25 frames a second, and as the frames' own smear tells.
  expect(told).toBe('144°');
  const smeared = await panel
    .getByRole('row', { name: /by the smear/ })
    .getByRole('cell')
    .last()
    .innerText();
  const [angle, u95] = smeared.match(/\d+/g)!.map(Number);
  expect(Math.abs(angle - 144)).toBeLessThanOrEqual(u95);
  expect(u95).toBeLessThan(36);

  const slider = panel.getByLabel('Moment of both clips');
  const frame = panel.getByAltText('The filter’s frame');
  const shown = async () => Number(new URL((await frame.getAttribute('src'))!, page.url()).searchParams.get('at'));
  const first = await shown();
  const trace = panel.getByRole('img', { name: 'Off the one-second mean, over time' });
  await trace.scrollIntoViewIfNeeded();
  const box = (await trace.boundingBox())!;
  await page.mouse.move(box.x + 0.3 * box.width, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 0.75 * box.width, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  const moment = await valueOf(slider);
  expect(moment).toBeGreaterThan(1);
  expect((await shown()) - first).toBeCloseTo(moment, 1);
  // Both traces have one cursor, and both frames come.
  const cursors = panel.locator('[data-cursor]');
  await expect(cursors).toHaveCount(2);
  const lefts = await cursors.evaluateAll((all) => all.map((one) => Math.round(one.getBoundingClientRect().left)));
  expect(lefts[0]).toBe(lefts[1]);
  for (const name of ['Bare’s frame', 'The filter’s frame'])
    await expect.poll(() => panel.getByAltText(name).evaluate((one: HTMLImageElement) => one.naturalWidth)).toBeGreaterThan(0); // prettier-ignore

  // By keyboard, and bare's frame as a longer shutter would have drawn it.
  await slider.focus();
  await page.keyboard.press('ArrowLeft');
  expect(await valueOf(slider)).toBeCloseTo(moment - 0.05, 2);
  await panel.getByRole('radio', { name: '180°' }).click();
  const averaged = panel.getByAltText('Bare’s frame as a shutter of 180° would have drawn it');
  await expect.poll(() => averaged.evaluate((one: HTMLImageElement) => one.naturalWidth)).toBeGreaterThan(0);
  await checkAccessibility(page);
});
