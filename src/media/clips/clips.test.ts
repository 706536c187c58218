/** The stand-in camera films a bench; what is measured from its clips is compared with the truth. */
import { expectedCast, expectedLuminousStops } from '@/simulator/expected/color';
import { spawnSync } from 'node:child_process';
import { mkdtemp, readFile, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeBt709 } from '@/core/formulas/transfer/transfer';
import { measureSession } from '@/core/measure';
import type { Picture } from '@/core/reading/window';
import { parseSessionText } from '@/core/session/parse';
import type { Readings } from '@/core/session/readings';
import type { Session } from '@/core/session/schema';
import { writeClip } from '@/simulator/clips';
import { writeSession } from '@/simulator/files';
import { randomPlan } from '@/simulator/randomBench';
import type { BenchPlan, ClipPlan } from '@/simulator/truth';
import { folderSource } from '../folder';
import { readWindows } from '@/core/reading/source';
import { frameOf, framesOfClip, inspectClip, openFrame } from './frames';

const H264: ClipPlan = {
  codec: 'h264',
  bits: 8,
  chroma: '420',
  range: 'limited',
  quality: 12,
  framesPerSecond: 25,
  frames: 6,
  telemetry: true,
};
const drawn = randomPlan('clips', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 });
const plan: BenchPlan = {
  ...drawn,
  // Not a multiple of the codec's blocks.
  width: 600,
  height: 360,
  camera: { ...drawn.camera, response: 'bt709', blurPx: 0.9 },
  filters: drawn.filters.slice(0, 2).map((filter) => ({ ...filter, cornerStops: 0 })),
  bareEvery: 2,
};
let folder: string;
/** What the clips of H.264 give, measured once. */
let plain: Readings;

const patches = [
  [0.2, 0.5, 0.8],
  [0.9, 0.4, 0.1],
  [0.5, 0.5, 0.5],
  [0.05, 0.9, 0.3],
];
/** Four even quarters. */
const picture = (): Picture => {
  const [width, height] = [128, 128];
  const data = new Uint16Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      patches[(y < 64 ? 0 : 2) + (x < 64 ? 0 : 1)].forEach((value, c) => {
        data[(y * width + x) * 3 + c] = Math.round(65535 * value);
      });
  return { width, height, channels: 3, bitDepth: 16, data };
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-clips-'));
  await film(H264);
  await writeClip(
    [picture, picture],
    { width: 128, height: 128 },
    { ...H264, quality: 1, frames: 2 },
    'bt709',
    join(folder, 'patches.mp4'),
  );
}, 600_000);
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Films the bench, once a way of filming; the session is read anew each time. */
async function film(clips: ClipPlan): Promise<{ session: Session; filmed: string }> {
  const filmed = join(folder, clips.codec);
  if (!films.has(clips)) films.set(clips, writeSession({ ...plan, clips }, { id: 'kit' }, filmed));
  await films.get(clips);
  const session = parseSessionText(await readFile(join(filmed, 'session.glade.json'), 'utf8'));
  session.rig.response = { kind: 'file' };
  return { session, filmed };
}
const films = new Map<ClipPlan, Promise<unknown>>();

const measure = (session: Session, filmed: string) =>
  measureSession(session, folderSource(filmed), { createdAt: '2026-05-14T12:00:00Z', generator: 'test' });

describe.each<[string, ClipPlan]>([
  ['H.264, 8 bit', H264],
  ['H.265, 10 bit', { ...H264, codec: 'h265', bits: 10 }],
])('%s with telemetry', (_, clips) => {
  test('strength within 0.03 stop and cast within ΔE00 0.4 of the truth, the response from the tags', async () => {
    const { session, filmed } = await film(clips);
    const readings = await measure(session, filmed);
    if (clips === H264) plain = readings;
    // A standard curve in a clip is where the estimate starts; nothing here checks it.
    expect(readings.response.description).toMatch(/^bt709 \(transfer tag of the clip\), not checked/);
    for (const filter of plan.filters) {
      const { density, cast, faults } = readings.filters.find((one) => one.filter === filter.id)!;
      // A cast may be too uncertain to be given: nothing checks the curve.
      const told = faults.filter(({ code }) => code !== 'edge-unusable' && code !== 'curve-unknown');
      expect(told).toEqual([]);
      const error = density!.stops.value - expectedLuminousStops(filter.stops);
      expect(Math.abs(error)).toBeLessThan(Math.min(0.03, density!.stops.u95));
      if (!cast) continue;
      const castError = cast.deltaE00.value - expectedCast(filter.stops).deltaE00;
      expect(Math.abs(castError)).toBeLessThan(0.4);
      expect(Math.abs(castError)).toBeLessThan(1.5 * cast.deltaE00.u95);
    }
  }, 600_000);
});

describe('telemetry and spans', () => {
  test('a change inside the clip is told, and followed frame by frame', async () => {
    const { session, filmed } = await film(H264);
    const [take] = session.takes.filter((one) => one.filter === 'f0');
    const path = join(filmed, take.telemetry!);
    const text = await readFile(path, 'utf8');
    // The second half claims twice the ISO: frames that differ by a stop then, though the picture doesn't change.
    await writeFile(path, text.replace(/(\n[456]\n[^[]*)\[iso: 100\]/g, '$1[iso: 200]'));
    const readings = await measure(session, filmed);
    const faults = readings.filters[0].faults.map((one) => `${one.code}: ${one.message}`);
    expect(faults.join('\n')).toContain('exposure-moved: chart-f0: the exposure changes by 1.00 stop inside the clip');
    await writeFile(path, text);
  }, 600_000);

  test('frames lie evenly inside the span', async () => {
    const path = join(folder, 'h264', 'chart-f0.mp4');
    const all = await framesOfClip(path, 'chart-f0.mp4');
    expect(all).toHaveLength(6);
    expect(all[0].file).toBe(`chart-f0.mp4#t=${all[0].seconds.toFixed(4)}`);
    const part = await framesOfClip(path, 'chart-f0.mp4', { from: 0.08, to: 0.12 });
    for (const frame of part) {
      expect(frame.seconds).toBeGreaterThanOrEqual(0.08);
      expect(frame.seconds).toBeLessThanOrEqual(0.12);
    }
    await expect(framesOfClip(path, 'chart-f0.mp4', { from: 60, to: 70 })).rejects.toThrow('lies beyond');
  });
});

describe('exact codes', () => {
  test.each<[string, Partial<ClipPlan>, number]>([
    ['H.264 8 bit 4:2:0 limited', {}, 8],
    ['H.264 10 bit 4:2:2 full', { bits: 10, chroma: '422', range: 'full' }, 10],
    ['H.265 10 bit 4:2:0 limited', { codec: 'h265', bits: 10 }, 10],
    ['H.265 8 bit 4:4:4 limited', { codec: 'h265', chroma: '444' }, 8],
  ])('%s: even patches come back', async (name, change, bits) => {
    const path = join(folder, 'patches.mp4');
    const size = { width: 128, height: 128 };
    await writeClip([picture, picture], size, { ...H264, ...change, quality: 1, frames: 2 }, 'bt709', path);
    const rects = [
      { x: 16, y: 16, width: 32, height: 32 },
      { x: 80, y: 16, width: 32, height: 32 },
      { x: 16, y: 80, width: 32, height: 32 },
      { x: 80, y: 80, width: 32, height: 32 },
    ];
    const { windows, facts } = await readWindows(openFrame(path, 'patches.mp4', [0]), () => rects);
    expect(facts).toMatchObject({ width: 128, height: 128, bitDepth: 16, encoding: { transfer: 'bt709' } });
    windows.forEach(({ data }, i) =>
      patches[i].forEach((value, c) => {
        let mean = 0;
        for (let at = c; at < data.length; at += 3) mean += data[at] / 65535 / (data.length / 3);
        // Rounding of luma and chroma together: two codes of the blue channel at most.
        expect(Math.abs(mean - value) * (2 ** bits - 1)).toBeLessThan(2);
      }),
    );
  });

  test('a clip turned by its display matrix is read upright', async () => {
    const path = join(folder, 'patches.mp4');
    const turned = join(folder, 'turned.mp4');
    const words = ['-v', 'error', '-y', '-i', path, '-c', 'copy', '-metadata:s:v:0', 'rotate=90', turned];
    expect(spawnSync('ffmpeg', words).status).toBe(0);
    const { windows } = await readWindows(openFrame(turned, 'turned.mp4', [0]), () => [
      { x: 20, y: 20, width: 8, height: 8 },
    ]);
    // ffmpeg writes this as a quarter counter-clockwise, and shows it so: the upper right quarter comes to the upper left.
    patches[1].forEach((value, c) => expect(windows[0].data[c] / 65535).toBeCloseTo(value, 1));
  });
});

test('a table for a camera’s flat profile decodes clips as well', async () => {
  const { session, filmed } = await film(H264);
  // The table is the profile's own curve, so that the figures must stay.
  const points = Array.from({ length: 257 }, (_, i): [number, number] => [i / 256, decodeBt709(i / 256)]);
  session.rig.response = { kind: 'curve', points };
  const [byTable] = (await measure(session, filmed)).filters;
  const [byTag] = plain.filters;
  // By its tag the curve is learned besides, which moves strengths by a thousandth of a stop and colors by a hundredth.
  expect(byTable.density!.stops.value).toBeCloseTo(byTag.density!.stops.value, 2);
  expect(byTable.cast!.deltaE00.value).toBeCloseTo(byTag.cast!.deltaE00.value, 1);
}, 600_000);

describe('which frames', () => {
  /** A clip of even frames, darker and darker, shown at these times. */
  async function uneven(name: string, times: number[]): Promise<string> {
    const frames = times.map((_, i) => (): Picture => {
      const data = new Uint16Array(64 * 48 * 3).fill(Math.round(65535 * (0.9 - 0.8 * (i / times.length))));
      return { width: 64, height: 48, channels: 3, bitDepth: 16, data };
    });
    const even = join(folder, `even-${name}`);
    const clips = { ...H264, quality: 1, framesPerSecond: 10, frames: times.length };
    await writeClip(frames, { width: 64, height: 48 }, clips, 'bt709', even);
    const shown = times.reduceRight((rest, time, i) => `if(eq(N,${i}),${time}/TB,${rest})`, '0');
    const path = join(folder, name);
    const words = ['-v', 'error', '-y', '-i', even, '-vf', `settb=1/1000,setpts='${shown}'`, '-fps_mode', 'vfr'];
    const done = spawnSync('ffmpeg', [...words, '-enc_time_base', '1/1000', '-c:v', 'libx264', '-crf', '1', path]);
    expect(done.stderr.toString()).toBe('');
    return path;
  }

  test('of variable rate are taken at the times at which they are shown', async () => {
    const times = [0, 0.04, 0.08, 0.5, 1.4, 1.5, 2.6, 2.64, 2.68, 3.9];
    const path = await uneven('uneven.mkv', times);
    const frames = await framesOfClip(path, 'uneven.mkv');
    for (const { file, seconds } of frames) {
      const { moments } = frameOf(file)!;
      expect(seconds).toBe(moments[0]);
      for (const moment of moments)
        expect(Math.min(...times.map((time) => Math.abs(time - moment)))).toBeLessThan(0.0015);
      const { facts, windows } = await readWindows(openFrame(path, file, moments), () => [
        { x: 16, y: 16, width: 16, height: 16 },
      ]);
      const shown = times.findIndex((time) => Math.abs(time - facts.frameSeconds!) < 0.0015);
      expect(windows[0].data[1] / 65535).toBeCloseTo(0.9 - 0.8 * (shown / times.length), 2);
    }
    expect(new Set(frames.flatMap(({ file }) => frameOf(file)!.moments)).size).toBe(
      frames.flatMap(({ file }) => frameOf(file)!.moments).length,
    );
  });

  test('of a clip whose time stamps begin later are counted from its start', async () => {
    const times = [0, 0.1, 0.2, 0.3, 0.4];
    const early = await uneven('early.mkv', times);
    const path = join(folder, 'late.mkv');
    const words = ['-v', 'error', '-y', '-i', early, '-c', 'copy', '-output_ts_offset', '0.5', path];
    expect(spawnSync('ffmpeg', words).stderr.toString()).toBe('');
    for (const { file, seconds } of await framesOfClip(path, 'late.mkv')) {
      const { facts, windows } = await readWindows(openFrame(path, file, frameOf(file)!.moments), () => [
        { x: 16, y: 16, width: 16, height: 16 },
      ]);
      expect(seconds).toBeLessThan(0.45);
      const shown = times.findIndex((time) => Math.abs(time - facts.frameSeconds!) < 0.0015);
      expect(windows[0].data[1] / 65535).toBeCloseTo(0.9 - 0.8 * (shown / times.length), 2);
    }
  });

  test('of a few in a row the sharpest is read', async () => {
    const stripes = (soft: boolean) => (): Picture => {
      const data = new Uint16Array(128 * 96 * 3);
      for (let i = 0; i < 128 * 96; i++) {
        const phase = (i % 128) / 8;
        const value = soft ? 0.5 + 0.2 * Math.sin(Math.PI * phase) : Math.floor(phase) % 2 === 0 ? 0.3 : 0.7;
        data.fill(Math.round(65535 * value), 3 * i, 3 * i + 3);
      }
      return { width: 128, height: 96, channels: 3, bitDepth: 16, data };
    };
    const path = join(folder, 'gusts.mp4');
    const clips = { ...H264, quality: 4, frames: 3 };
    await writeClip([stripes(true), stripes(false), stripes(true)], { width: 128, height: 96 }, clips, 'bt709', path);
    const { facts } = await readWindows(openFrame(path, 'gusts.mp4', [0, 0.04, 0.08]), () => []);
    expect(facts.frameSeconds).toBe(0.04);
  });
});

describe('clips that can’t be read', () => {
  test('one cut short, one that is none, a playlist that points elsewhere', async () => {
    const cut = join(folder, 'cut.mp4');
    await writeFile(cut, await readFile(join(folder, 'h264', 'chart-f0.mp4')));
    await truncate(cut, 4000);
    await expect(inspectClip(cut, 'cut.mp4')).rejects.toThrow('cut short or damaged');
    const text = join(folder, 'text.mp4');
    await writeFile(text, 'this is no clip');
    await expect(inspectClip(text, 'text.mp4')).rejects.toThrow(/text\.mp4: /);
    const list = join(folder, 'list.mp4');
    await writeFile(list, '#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile:///etc/hostname\n');
    await expect(inspectClip(list, 'list.mp4')).rejects.toThrow(/list\.mp4: it is not an MP4|damaged/);
  });
});
