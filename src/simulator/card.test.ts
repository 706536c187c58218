import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseKitShorthand } from '@/core/sitting/kits/shorthand';
import { makePlan, planRequestSchema } from '@/core/sitting/planning/plan';
import { kitSchema } from '@/core/session/schema';
import { inspectStill } from '@/media/stills';
import { developPicture, shootPlan, type Mishap } from './card';

const kit = kitSchema.parse({ id: 'kit', filters: parseKitShorthand('ND8 16 64 CPL').filters });
const request = planRequestSchema.parse({
  kit,
  rig: { widest: 2.8, baseIso: 100, highestIso: 6400, fastest: 1 / 8000, slowest: 1, step: 1 / 3 },
  scenes: ['chart', 'screen'],
  ev100: 12,
  fNumber: 2.8,
  slowest: 1,
  repeats: 1,
});
const { takes } = makePlan(request);
const START = Date.parse('2026-05-14T09:00:00Z');
const shoot = (...mishaps: Mishap[]) => shootPlan(takes, kit.filters, 'card', START, mishaps);

test('every planned take is on the card once, in order, with names that say nothing', () => {
  const { pictures } = shoot();
  expect(pictures.map((one) => one.take.id)).toEqual(takes.map((one) => one.id));
  expect(pictures.every((one, i) => i === 0 || one.timeMs > pictures[i - 1].timeMs)).toBe(true);
  expect(pictures.every((one) => /^AG\d{4}\.JPG$/.test(one.name))).toBe(true);
  expect(new Set(pictures.map((one) => one.name)).size).toBe(pictures.length);
});

test('mishaps do what they say and nothing else', () => {
  const sound = shoot().pictures;
  expect(shoot('missed').pictures).toHaveLength(sound.length - 1);
  const filterOf = (list: typeof sound, id: string) => list.find((one) => one.take.id === id)!.take.filter!.id;
  const swapped = shoot('swapped').pictures.filter(({ take }) => take.filter && !take.id.endsWith(take.filter.id));
  const plain = swapped.filter(({ take }) => take.scene === 'chart' && take.setting === undefined);
  expect(plain).toHaveLength(2);
  expect(filterOf(sound, plain[0].take.id)).toBe(plain[1].take.filter!.id);
  const stuck = shoot('ring').pictures.filter(
    ({ take }, i) => take.setting?.ringDegrees !== sound[i].take.setting?.ringDegrees,
  );
  expect(stuck).toHaveLength(1);
  const clouded = shoot('cloud').pictures.filter(({ take }, i) => take.lampStops < sound[i].take.lampStops - 0.3);
  expect(clouded).toHaveLength(1);
});

test('a developed picture carries its exposure and its time', async () => {
  const { bench, pictures } = shoot();
  const folder = await mkdtemp(join(tmpdir(), 'glade-card-test-'));
  try {
    const picture = pictures[2];
    const path = await developPicture(bench, picture, folder);
    const { facts } = await inspectStill(path, picture.name);
    expect(facts.exposure.shutterSeconds).toBeCloseTo(picture.shutterSeconds, 5);
    expect(facts.exposure).toMatchObject({ iso: 100, fNumber: 2.8 });
    expect(Math.abs(Date.parse(facts.capturedAt!) - picture.timeMs)).toBeLessThan(1000);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});
