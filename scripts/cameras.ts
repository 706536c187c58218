/**
 * Stand-in cameras that don't tell their curve: how often u95 holds the truth, by class of camera, protocol and what else was shot.
 *
 * `npm run cameras -- [sessions] [class] [protocol] [extras]`: extras are bare pictures beside the plan's own, stops darker: `1,3`.
 */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '../src/core/measure';
import { parseSession } from '../src/core/session/parse';
import { folderSource } from '../src/media/folder';
import { CAMERA_CLASSES, drawProfile, type CameraClass } from '../src/simulator/camera/profile';
import { shootSession } from '../src/simulator/camera/shoot';
import { compareWithTruth, type Comparison } from '../src/simulator/expected/compare';
import { coverageTable } from '../src/simulator/expected/coverage';
import { randomPlan, type BenchKind } from '../src/simulator/randomBench';
import type { BenchPlan } from '../src/simulator/truth';

const KIND: BenchKind = {
  protocol: 'matched',
  bitDepth: 16,
  drift: 0.05,
  bend: 0,
  flicker: 0,
  repeats: 1,
  scenes: ['chart', 'flat'],
};

function planOf(seed: string, protocol: BenchPlan['protocol']): BenchPlan {
  const plan = randomPlan(seed, { ...KIND, protocol });
  return { ...plan, width: 480, height: 320, filters: plan.filters.slice(0, 3) };
}

async function measureShot(plan: BenchPlan, kind: CameraClass, stops: readonly number[]): Promise<Comparison[]> {
  const folder = await mkdtemp(join(tmpdir(), 'cameras-'));
  try {
    await shootSession(plan, drawProfile(plan.seed, kind), folder, stops);
    const session = parseSession(JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8')));
    const readings = await measureSession(session, folderSource(folder), { createdAt: '', generator: '' });
    return compareWithTruth(plan, readings);
  } finally {
    await rm(folder, { recursive: true });
  }
}

async function main(): Promise<void> {
  const [count = '4', classes = CAMERA_CLASSES.join(), protocols = 'matched,locked', extras = 'none;1,3'] =
    process.argv.slice(2);
  for (const kind of classes.split(',') as CameraClass[])
    for (const protocol of protocols.split(',') as BenchPlan['protocol'][])
      for (const extra of extras.split(';')) {
        const stops = extra === 'none' ? [] : extra.split(',').map(Number);
        const rows: Comparison[] = [];
        for (let i = 0; i < Number(count); i++)
          rows.push(...(await measureShot(planOf(`cameras/${kind}/${protocol}/${i}`, protocol), kind, stops)));
        console.log(
          `\n${kind}, ${protocol}, ${stops.length > 0 ? `bare ${stops.join(' and ')} stops darker` : 'nothing more'}`,
        );
        console.log(coverageTable(rows).join('\n'));
      }
}

void main();
