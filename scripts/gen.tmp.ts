import { access } from 'node:fs/promises';
import { join } from 'node:path';
import { drawProfile, type CameraClass } from '@/simulator/camera/profile';
import { shootSession } from '@/simulator/camera/shoot';
import { randomPlan } from '@/simulator/randomBench';
export const KIND: any = { protocol: 'matched', bitDepth: 16, drift: 0.05, bend: 0, flicker: 0, repeats: 1, scenes: ['chart', 'flat'] };
export function planOf(seed: string, protocol: any) {
  const plan = randomPlan(seed, { ...KIND, protocol });
  return { ...plan, width: 480, height: 320, filters: plan.filters.slice(0, 3) };
}
export async function ensure(kind: CameraClass, protocol: string, i: number) {
  const seed = `cameras/${kind}/${protocol}/${i}`;
  const folder = join('/tmp/cams', `${kind}-${protocol}-${i}`);
  const plan = planOf(seed, protocol);
  try { await access(join(folder, 'session.glade.json')); } catch {
    await shootSession(plan as any, drawProfile(seed, kind), folder, { stops: [-1, -3] });
  }
  return { plan, folder };
}
async function main() {
  const [from, to, classes, protocols] = process.argv.slice(2);
  for (let i = Number(from); i < Number(to); i++)
    for (const kind of classes.split(',')) for (const protocol of protocols.split(',')) await ensure(kind as any, protocol, i);
  console.log('done');
}
if (process.argv[1].endsWith('gen.tmp.ts')) void main();
