/**
 * Over many seeded sessions: how often u95 holds the truth, how large errors are, and whether u95 is no wider than it need be.
 *
 * `npm run coverage [sessions] [kind]` looks at strengths and casts of the matched, automatic and locked bench;
 * `npm run coverage -- --whole [sessions] [kind]` at every measure and response, some twenty seconds a session;
 * `npm run coverage -- --kinds [sessions]` at polarizers, variable and graduated filters. Kinds are spread over the processor's cores.
 */
import { spawn } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { measureSession } from '../src/core/measure';
import { compareWithTruth, type Comparison } from '../src/simulator/expected/compare';
import { coverageTable } from '../src/simulator/expected/coverage';
import { randomPlan, type BenchKind } from '../src/simulator/randomBench';
import { randomKinds } from '../src/simulator/randomKinds';
import { simulateSession } from '../src/simulator/session';
import type { BenchPlan } from '../src/simulator/truth';

const BASE: BenchKind = {
  protocol: 'matched',
  bitDepth: 16,
  drift: 0,
  bend: 0,
  flicker: 0,
  repeats: 2,
  scenes: ['chart', 'flat'],
};
const BENCHES: [string, BenchKind][] = [
  ['matched, 16 bit', BASE],
  ['matched, 8 bit', { ...BASE, bitDepth: 8, repeats: 1 }],
  ['automatic, 8 bit, drift 0.3', { ...BASE, protocol: 'automatic', bitDepth: 8, drift: 0.3 }],
  ['matched, 16 bit, bent drift', { ...BASE, drift: 0.2, bend: 0.06 }],
  ['matched, 16 bit, flicker', { ...BASE, drift: 0.1, flicker: 0.004, repeats: 3 }],
  ['automatic, 8 bit, S bracket', { ...BASE, protocol: 'automatic', bitDepth: 8, bracket: true }],
  ['matched, 16 bit, noise × 3', { ...BASE, noisy: true }],
  ['locked, 16 bit', { ...BASE, protocol: 'locked' }],
  ['locked, 8 bit', { ...BASE, protocol: 'locked', bitDepth: 8 }],
  ['locked, 8 bit, S bracket', { ...BASE, protocol: 'locked', bitDepth: 8, bracket: true }],
  ['locked, 8 bit, linear', { ...BASE, protocol: 'locked', bitDepth: 8, linear: true }],
];

/** Kinds of sessions by name, and how one of a seed is drawn. */
type Kinds = Record<string, (index: number) => BenchPlan>;

function kindsOf(mode: string): Kinds {
  if (mode === '--kinds')
    return Object.fromEntries(
      ([16, 8] as const).flatMap((bits) =>
        [0, 0.2].map((drift) => [
          `${bits} bit, drift ${drift} stop`,
          (i: number) => randomKinds(`kinds/${bits}/${drift}/${i}`, bits, drift),
        ]),
      ),
    );
  const whole = mode === '--whole';
  return Object.fromEntries(
    BENCHES.filter(([, kind]) => whole || !(kind.bracket || kind.linear || kind.noisy)).map(([name, kind]) => [
      name,
      (i: number) => ({
        ...randomPlan(`coverage/${name}/${i}`, kind),
        ...(whole ? {} : { scenes: ['chart' as const] }),
      }),
    ]),
  );
}

async function measureKind(mode: string, name: string, sessions: number): Promise<Comparison[]> {
  const rows: Comparison[] = [];
  for (let i = 0; i < sessions; i++) {
    const plan = kindsOf(mode)[name](i);
    const { session, source } = simulateSession(plan);
    if (mode === '') session.patches = session.patches.filter((patch) => patch.role === 'neutral');
    const options = { createdAt: plan.startedAt, generator: 'coverage' };
    rows.push(...compareWithTruth(plan, await measureSession(session, source, options)));
  }
  return rows;
}

/** The same in a process of its own. */
function measureKindApart(mode: string, name: string, sessions: number): Promise<Comparison[]> {
  const task = JSON.stringify({ mode, name, sessions });
  const child = spawn(process.execPath, [...process.execArgv, process.argv[1], '--task', task], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let text = '';
  child.stdout.on('data', (part: Buffer) => (text += part.toString()));
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('exit', (code) => (code === 0 ? resolve(JSON.parse(text)) : reject(new Error(`${name} failed`))));
  });
}

async function main() {
  if (process.argv[2] === '--task') {
    const { mode, name, sessions } = JSON.parse(process.argv[3]);
    process.stdout.write(JSON.stringify(await measureKind(mode, name, sessions)));
    return;
  }
  const mode = process.argv.slice(2).find((word) => word.startsWith('--')) ?? '';
  const [given, only] = process.argv.slice(2).filter((word) => !word.startsWith('--'));
  const names = Object.keys(kindsOf(mode)).filter((name) => !only || name.includes(only));
  const sessions = Number(given ?? { '--whole': 300, '--kinds': 100 }[mode] ?? 210);
  const all: Comparison[] = [];
  const waiting = [...names];
  const work = async () => {
    for (let name = waiting.shift(); name !== undefined; name = waiting.shift()) {
      const rows = await measureKindApart(mode, name, Math.ceil(sessions / names.length));
      console.log(`${name}\n${coverageTable(rows).join('\n')}\n`);
      all.push(...rows);
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, work));
  console.log(`all\n${coverageTable(all).join('\n')}`);
}

void main();
