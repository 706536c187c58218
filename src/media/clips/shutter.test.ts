/** A clip of a hand-held camera, each frame coded by itself: its shutter angle is told by the smear of its frames alone. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Picture } from '@/core/reading/window';
import type { Session } from '@/core/session/schema';
import { measureMotion } from '@/core/measures/motion/motion';
import { writeClip } from '@/simulator/clips';
import { encoder } from '@/simulator/encode';
import { wallOfWaves } from '@/simulator/waves';
import { folderSource } from '../folder';

const SIZE = { width: 400, height: 224 };
const RATE = 15;
const FRAMES = 33;
const SHARE = 0.5;
const hand = (frame: number) => [5 * Math.sin(0.5 * frame), 4 * Math.cos(0.37 * frame + 1)] as const;

function shot(frame: number): Picture {
  const { data: light } = wallOfWaves(SIZE, hand, frame, SHARE);
  const encode = encoder('bt709');
  const data = new Uint16Array(3 * light.length);
  light.forEach((one, i) => data.fill(Math.round(65_535 * encode(Math.max(0, 0.6 * one))), 3 * i, 3 * i + 3));
  return { ...SIZE, channels: 3, bitDepth: 16, data };
}

test('within 10 % of what it was, beside the exposure that was told; not from frames that take over detail', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'glade-shutter-'));
  try {
    const shots = Array.from({ length: FRAMES }, (_, i) => shot(i));
    const plan = { codec: 'h264', bits: 8, chroma: '420', range: 'limited', quality: 14, framesPerSecond: RATE, frames: FRAMES, telemetry: false } as const; // prettier-ignore
    for (const [name, keyEvery] of [['own', 1], ['over', 250]] as const)
      await writeClip(shots.map((one) => () => one), SIZE, { ...plan, keyEvery, ...(name === 'over' ? { quality: 26 } : {}) }, 'bt709', join(folder, `${name}.mp4`)); // prettier-ignore
    const session = (file: string) =>
      ({
        takes: [{ id: 'a', filter: 'f', scene: 's', role: 'measure', files: [file], exposure: { shutter: '1/60' } }],
        rig: { response: { kind: 'bt709' }, shutterMarks: 'nominal' },
      }) as unknown as Session;
    const [own] = await measureMotion(session('own.mp4'), folderSource(folder), {});
    // 1/60 is 1/64 on cameras.
    expect(own.motion.shutterAngle).toBeCloseTo((360 * RATE) / 64, 1);
    // The log says half of what the frames show: both are told.
    expect(Math.abs(own.motion.seenAngle!.value / 180 - 1)).toBeLessThan(0.1);
    const [over] = await measureMotion(session('over.mp4'), folderSource(folder), {});
    expect(over.motion.blurPx).toBeDefined();
    expect(over.motion.seenAngle).toBeUndefined();
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}, 600_000);
