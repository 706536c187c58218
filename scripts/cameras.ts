/**
 * Stand-in cameras that don't tell their curve: how often u95 holds the truth, by class of camera, protocol and what else was shot.
 *
 * `npm run cameras -- [sessions] [class] [protocol] [extras] [kind]`: extras are bare pictures beside the plan's own, stops darker: `1,3`; or
 * `none`, or `check` for a check of the camera on another day. Kinds: `bench` (left out), `turned` (polarizers, variable, graduated), `flare`
 * (a veil, the chart beside it), `film` (the bench in clips), `walk` and `filmed-walk` (an ordinary scene, the bench's gray card before it).
 */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '../src/core/measure';
import { parseSession } from '../src/core/session/parse';
import { folderSource } from '../src/media/folder';
import { shootCheck } from '../src/simulator/camera/check';
import { CAMERA_CLASSES, drawProfile, type CameraClass, type CameraProfile } from '../src/simulator/camera/profile';
import { shootSession } from '../src/simulator/camera/shoot';
import { compareWithTruth, type Comparison } from '../src/simulator/expected/compare';
import { coverageTable } from '../src/simulator/expected/coverage';
import { CHART_AND_WALL, randomPlan } from '../src/simulator/randomBench';
import { randomKinds } from '../src/simulator/randomKinds';
import { randomWalk } from '../src/simulator/randomWalk';
import type { BenchPlan, ClipPlan } from '../src/simulator/truth';

type Protocol = BenchPlan['protocol'];

const bench = (seed: string, protocol: Protocol): BenchPlan => {
  const plan = randomPlan(seed, { ...CHART_AND_WALL, protocol });
  return { ...plan, width: 480, height: 320, filters: plan.filters.slice(0, 3) };
};

/** Before the walk the gray card: what the camera's curve is learned from. */
function walk(seed: string, protocol: Protocol): BenchPlan {
  const drawn = randomWalk(seed, { protocol, width: 480, height: 320, filters: 2, landscapes: 2 });
  return { ...drawn, scenes: ['chart', 'outdoor'] };
}

/** Share of white that each filter scatters over its frame. */
const VEILS = [0.002, 0.006, 0.02];

const FILMED: ClipPlan = { codec: 'h264', bits: 8, quality: 18, chroma: '420', range: 'limited', framesPerSecond: 12, frames: 8, telemetry: true }; // prettier-ignore

const PLANS: Record<string, (seed: string, protocol: Protocol) => BenchPlan> = {
  bench,
  film: (seed, protocol) => ({ ...bench(seed, protocol), clips: FILMED }),
  flare: (seed, protocol) => {
    const plan = bench(seed, protocol);
    const filters = plan.filters.map((filter, i) => ({ ...filter, veil: VEILS[i] }));
    return { ...plan, scenes: ['chart', 'flare'], filters };
  },
  turned: (seed, protocol) => ({ ...randomKinds(seed, 16, 0.05), width: 480, height: 320, protocol }),
  walk,
  'filmed-walk': (seed, protocol) => ({ ...walk(seed, protocol), width: 960, height: 540, clips: FILMED }),
};

async function measureShot(plan: BenchPlan, kind: CameraClass, extra: string): Promise<Comparison[]> {
  const folder = await mkdtemp(join(tmpdir(), 'cameras-'));
  try {
    const profile = drawProfile(plan.seed, kind);
    const stops = /^[\d.,]+$/.test(extra) ? extra.split(',').map(Number) : [];
    await shootSession(plan, profile, folder, stops);
    const file = JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8')) as { rig: object };
    if (extra === 'check') Object.assign(file.rig, { check: await checkOf(plan, profile) });
    const session = parseSession(file);
    const readings = await measureSession(session, folderSource(folder), { createdAt: '', generator: '' });
    return compareWithTruth(plan, readings);
  } finally {
    await rm(folder, { recursive: true });
  }
}

/** The camera's check, on another day. */
async function checkOf(plan: BenchPlan, profile: CameraProfile) {
  const folder = await mkdtemp(join(tmpdir(), 'checks-'));
  try {
    await shootCheck({ ...plan, seed: `${plan.seed}/check` }, profile, folder);
    const session = parseSession(JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8')));
    const { check } = await measureSession(session, folderSource(folder), { createdAt: '2026-05-01', generator: '' });
    return check;
  } finally {
    await rm(folder, { recursive: true });
  }
}

async function main(): Promise<void> {
  const [
    count = '4',
    classes = CAMERA_CLASSES.join(),
    protocols = 'matched,locked',
    extras = 'none;1,3',
    shot = 'bench',
  ] = process.argv.slice(2);
  for (const kind of classes.split(',') as CameraClass[])
    for (const protocol of protocols.split(',') as BenchPlan['protocol'][])
      for (const extra of extras.split(';')) {
        const rows: Comparison[] = [];
        for (let i = 0; i < Number(count); i++)
          rows.push(...(await measureShot(PLANS[shot](`cameras/${kind}/${protocol}/${i}`, protocol), kind, extra)));
        console.log(
          `\n${shot}, ${kind}, ${protocol}, ${{ none: 'nothing more', check: 'camera checked' }[extra] ?? `bare ${extra} stops darker`}`,
        );
        console.log(coverageTable(rows).join('\n'));
      }
}

void main();
