/**
 * The viewing room with six 4K pictures, in the headless browser that tests use (software rendering): `npm run bench -- compare`, while
 * `./glade up` runs (GLADE_URL names another address). Prints frames a second while the view is panned and zoomed, and the time to the first picture.
 */
import { chromium, type Browser } from '@playwright/test';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { closeStore, createSession, deleteSession, storeFile } from '../src/store';

const [WIDTH, HEIGHT] = [3840, 2160];
const PICTURES = 6;
const SECONDS = 5;
const ROUNDS = 9;

/** A still of fifty megapixels at 16 bit, looked at as a whole and then at its own pixels: what is fetched for it, and how soon. */
async function benchLarge(browser: Browser, folder: string): Promise<void> {
  const [width, height] = [8688, 5792];
  const name = 'large.tif';
  const data = new Uint16Array(width * height * 3);
  for (let at = 0; at < data.length; at++) data[at] = (at * 577 + (at >> 13) * 1031) & 65_535;
  await sharp(data, { raw: { width, height, channels: 3 } })
    .toColourspace('rgb16')
    .tiff({ compression: 'none' })
    .toFile(join(folder, name));
  const { sha256 } = await storeFile(join(folder, name), name);
  const scene = 'chart';
  const id = await createSession(
    {
      format: 'aurora-glade-session',
      version: 1,
      title: 'Bench of a large still',
      kits: [{ id: 'kit', filters: [{ id: 'f', kind: 'nd', nominal: { stops: 1 } }] }],
      scenes: [{ id: scene, kind: 'chart' }],
      takes: [{ id: 'take', filter: null, scene, files: [name], exposure: { shutter: '1/100', iso: 100, fNumber: 4 } }],
    },
    new Map([[name, sha256]]),
  );
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    let bytes = 0;
    page.on('response', async (answer) => {
      if (answer.url().includes('/tiles?'))
        bytes += Number(answer.headers()['content-length'] ?? 0) || (await answer.body()).length;
    });
    const settle = () => page.locator('[data-testid=picture][data-settled=true]').waitFor({ timeout: 120_000 });
    const timed = async (work: () => Promise<unknown>) => {
      const start = performance.now();
      await work();
      await settle();
      return performance.now() - start;
    };
    const address = `${process.env.GLADE_URL ?? 'http://localhost:8420'}/sessions/${id}/compare`;
    const made = await timed(() => page.goto(address));
    bytes = 0;
    const whole = await timed(() => page.goto(address));
    const wholeBytes = bytes;
    bytes = 0;
    const close = await timed(() => page.keyboard.press('z').then(() => page.waitForTimeout(50)));
    const share = (part: number) => `${((100 * part) / (2 * data.length)).toFixed(1)} % of its light`;
    console.log(
      `a still of ${((width * height) / 1e6).toFixed(0)} megapixels, 16 bit: tiles made in ${(made / 1000).toFixed(1)} s; then the page with it in ${whole.toFixed(0)} ms (${share(wholeBytes)} fetched), its own pixels in ${close.toFixed(0)} ms more (${share(bytes)})`,
    );
    await page.close();
  } finally {
    await deleteSession(id);
  }
}

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
    executablePath: process.env.GLADE_CHROMIUM ?? '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const address = `${process.env.GLADE_URL ?? 'http://localhost:8420'}/sessions/${id}/compare`;
    const settle = () => page.locator('[data-testid=picture][data-settled=true]').waitFor({ timeout: 120_000 });
    await page.goto(address);
    await page.keyboard.press('g');
    await settle();
    // Tiles are made now: what is left is reading and drawing them. The page marks the frame after its first picture was handed over.
    const rounds: { loaded: number; seen: number; whole: number; codes: number }[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      await page.goto(address);
      rounds.push(
        await page.evaluate(async () => {
          // No function of its own: it would be named by what isn't in the page.
          const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=picture]')!;
          let [mark] = performance.getEntriesByName('first picture');
          while (!mark) {
            await new Promise((done) => setTimeout(done, 5));
            [mark] = performance.getEntriesByName('first picture');
          }
          // It is looked at whether there was a picture: the room alone is of one gray.
          const shown = canvas.classList.contains('invisible')
            ? canvas.parentElement!.querySelector('canvas')!
            : canvas;
          const context = new OffscreenCanvas(64, 64).getContext('2d')!;
          context.drawImage(shown, 0, 0, 64, 64);
          const codes = new Set(context.getImageData(16, 16, 32, 32).data).size;
          while (canvas.dataset.settled !== 'true') await new Promise((done) => setTimeout(done, 20));
          const [entry] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
          const begun = entry.startTime;
          return {
            loaded: entry.loadEventEnd - begun,
            seen: mark.startTime - begun,
            whole: performance.now() - begun,
            codes,
          };
        }),
      );
    }
    const middle = (what: (round: (typeof rounds)[number]) => number) =>
      rounds.map(what).sort((a, b) => a - b)[Math.floor(ROUNDS / 2)];
    if (rounds.some(({ codes }) => codes < 4)) throw new Error('There was no picture when one was marked.');
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
      `viewing room: six pictures of ${WIDTH} × ${HEIGHT}, ${frames.toFixed(1)} frames a second in software, ${(1000 / frames).toFixed(0)} ms each; first picture ${middle((one) => one.seen - one.loaded).toFixed(0)} ms after the page was loaded (${middle((one) => one.seen).toFixed(0)} ms after it was asked for), all of its tiles after ${middle((one) => one.whole).toFixed(0)} ms; middle of ${ROUNDS} times`,
    );
    await benchLarge(browser, folder);
    console.log('held to: 20 frames a second in software, first picture in 300 ms');
  } finally {
    await browser.close();
    await deleteSession(id);
    await closeStore();
    await rm(folder, { recursive: true, force: true });
  }
}
