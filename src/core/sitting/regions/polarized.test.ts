import { renderTake } from '@/simulator/bench';
import { planTakes } from '@/simulator/plan';
import { SKY_RECTS, WATER_RECTS } from '@/simulator/polarized';
import { randomKinds } from '@/simulator/randomKinds';
import { proposePatches } from './propose';

const plan = { ...randomKinds('proposals', 16, 0), scenes: ['water', 'sky'] as ('water' | 'sky')[] };
const linear = Float64Array.from({ length: 65536 }, (_, code) => code / 65535);
const propose = (scene: 'water' | 'sky') => {
  const camera = { ...plan.camera, response: 'linear' as const };
  const take = planTakes(plan).find((one) => one.scene === scene && one.filter === null)!;
  return proposePatches(
    scene,
    renderTake({ ...plan, camera }, take, 0),
    [linear, linear, linear],
    [0.2126, 0.7152, 0.0722],
  );
};
/** Whether a proposed rectangle keeps clear of a place. */
const clearOf = (a: { x: number; y: number; width: number; height: number }, b: typeof a) =>
  a.x >= b.x + b.width || b.x >= a.x + a.width || a.y >= b.y + b.height || b.y >= a.y + a.height;

test('a sky is found in the upper part, a reference outside it', () => {
  const { patches, missing } = propose('sky');
  const sky = patches.filter((one) => one.role === 'sky');
  expect(sky.length).toBeGreaterThan(0);
  for (const { rect } of sky) expect([SKY_RECTS.near, SKY_RECTS.far].some((one) => !clearOf(rect, one))).toBe(true);
  const reference = patches.find((one) => one.role === 'reference')!;
  expect(clearOf(reference.rect, SKY_RECTS.near) && clearOf(reference.rect, SKY_RECTS.far)).toBe(true);
  expect(missing).toEqual([]);
});

test('what reflects a person must say; its reference is proposed off leaves and paint', () => {
  const { patches, missing } = propose('water');
  expect(patches.map((one) => one.role)).toEqual(['reference']);
  for (const colored of [WATER_RECTS.leaves, WATER_RECTS.paint]) expect(clearOf(patches[0].rect, colored)).toBe(true);
  expect(missing[0]).toContain('Draw the glare patch');
});
