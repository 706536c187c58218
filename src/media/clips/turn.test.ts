/** A full pan filmed bare and with a polarizer: headings by time, darkening against the known sky. */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '@/core/measure';
import { parseSessionText } from '@/core/session/parse';
import { writeSession } from '@/simulator/files';
import { degreeAt } from '@/simulator/polarized';
import { randomKinds } from '@/simulator/randomKinds';
import type { BenchPlan } from '@/simulator/truth';
import { folderSource } from '../folder';

test('a filmed turn gives 24 headings, each within 0.03 stop of the sky’s truth', async () => {
  const random = randomKinds('filmed turn', 16, 0);
  const turn = { sun: { azimuth: 150, altitude: 40 }, altitude: 12, clarity: 0.75, pictures: 37 };
  const plan: BenchPlan = {
    ...random,
    width: 320,
    height: 214,
    camera: { ...random.camera, response: 'bt709' },
    bareLevel: 0.6,
    protocol: 'matched',
    filters: [{ ...random.filters[0], stops: [1.5, 1.5, 1.5], polarizer: { axisDegrees: 0, extinctionStops: 8 } }],
    scenes: ['turn'],
    turn,
    polarization: { lightDegrees: 0, degree: 0.5 },
    clips: {
      codec: 'h264',
      bits: 10,
      chroma: '444',
      range: 'limited',
      quality: 8,
      framesPerSecond: 12,
      frames: turn.pictures,
      telemetry: true,
    },
  };
  const folder = await mkdtemp(join(tmpdir(), 'glade-turn-'));
  try {
    await writeSession(plan, { id: 'kit', name: 'Pan' }, folder);
    const session = parseSessionText(await readFile(join(folder, 'session.glade.json'), 'utf8'));
    const readings = await measureSession(session, folderSource(folder), { createdAt: '', generator: '' });
    const { points } = readings.filters[0].polarizer!.turn!;
    expect(points).toHaveLength(24);
    const leak = 2 ** -8;
    for (const { heading, stops } of points) {
      const degree = degreeAt(turn, heading);
      const truth = -Math.log2(1 - degree + (degree * 2 * leak) / (1 + leak));
      expect(Math.abs(stops.value - truth)).toBeLessThan(0.03);
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});
