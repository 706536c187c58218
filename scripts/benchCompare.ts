/**
 * The viewing room with six 4K pictures, in the headless browser that tests use (software rendering): `npm run bench -- compare`, while
 * `./glade up` runs (GLADE_URL names another address). Prints frames a second while the view is panned and zoomed, and the time to the first picture.
 */
import { chromium } from '@playwright/test';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { closeStore, createSession, deleteSession, storeFile } from '../src/store';

const [WIDTH, HEIGHT] = [3840, 2160];
const PICTURES = 6;
const SECONDS = 5;

export async function benchCompare(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'glade-compare-'));
  const files = new Map<string, string>();
  for (let i = 0; i < PICTURES; i++) {
    const name = `picture-${i}.png`;
    const data = Buffer.alloc(WIDTH * HEIGHT * 3);
    for (let at = 0; at < data.length; at++) data[at] = (at * (7 + i) + (at >> 11) * 13) & 255;
    await sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
      .png({ compressionLevel: 1 })
      .toFile(join(folder, name));
    files.set(name, (await storeFile(join(folder, name), name)).sha256);
  }
  const names = [...files.keys()];
  const id = await createSession(
    {
      format: 'aurora-glade-session',
      version: 1,
      title: 'Bench of the viewing room',
      kits: [
        { id: 'kit', filters: names.slice(1).map((_, i) => ({ id: `f${i}`, kind: 'nd', nominal: { stops: i + 1 } })) },
      ],
      scenes: [{ id: 'chart', kind: 'chart' }],
      takes: names.map((file, i) => ({
        id: `take-${i}`,
        filter: i === 0 ? null : `f${i - 1}`,
        scene: 'chart',
        files: [file],
        exposure: { shutter: '1/100', iso: 100, fNumber: 4 },
      })),
    },
    files,
  );
  const browser = await chromium.launch({
    executablePath: process.env.GLADE_CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const address = `${process.env.GLADE_URL ?? 'http://localhost:8420'}/sessions/${id}/compare`;
    const settle = () => page.locator('[data-testid=picture][data-settled=true]').waitFor({ timeout: 120_000 });
    await page.goto(address);
    await page.keyboard.press('g');
    await settle();
    // Tiles are made now: what is left is reading and drawing them.
    await page.goto(address);
    const first = await page.evaluate(async () => {
      const start = performance.now();
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=picture]')!;
      while (canvas.dataset.settled !== 'true') await new Promise(requestAnimationFrame);
      return performance.now() - start;
    });
    await page.keyboard.press('g');
    await settle();
    const box = (await page.getByTestId('picture').boundingBox())!;
    const frames = await page.evaluate(
      async ([x, y, seconds]) => {
        const stage = document.querySelector('[data-testid=picture]')!.parentElement!;
        const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=picture]')!;
        const gl = canvas.getContext('webgl2')!;
        const end = performance.now() + 1000 * seconds;
        let count = 0;
        for (let i = 0; performance.now() < end; i++) {
          const deltaY = i % 60 < 30 ? -12 : 12;
          stage.dispatchEvent(
            new WheelEvent('wheel', { deltaY, clientX: x + (i % 40), clientY: y, bubbles: true, cancelable: true }),
          );
          await new Promise(requestAnimationFrame);
          // Software rendering is behind the page: a frame counts when it is drawn.
          gl.finish();
          count++;
        }
        return count / seconds;
      },
      [box.x + box.width / 6, box.y + box.height / 4, SECONDS] as const,
    );
    console.log(
      `viewing room: six pictures of ${WIDTH} × ${HEIGHT}, ${frames.toFixed(1)} frames a second in software, ${(1000 / frames).toFixed(0)} ms each; first picture after ${first.toFixed(0)} ms`,
    );
    console.log('held to: 20 frames a second in software, first picture in 300 ms');
  } finally {
    await browser.close();
    await deleteSession(id);
    await closeStore();
    await rm(folder, { recursive: true, force: true });
  }
}
