/**
 * Over many seeded sessions: how often u95 holds the truth, how large errors are, and whether u95 is no wider than it
 * need be. `npm run coverage [sessions] [kind]` looks at strengths and casts of the matched, automatic and locked bench;
 * `npm run coverage -- --whole [sessions] [kind]` at every measure and response, some twenty seconds a session. Kinds are
 * spread over the processor's cores. `npm run coverage -- --kinds [sessions]` looks at polarizers, variable and graduated filters.
 */
import { spawn } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { castColor } from '../src/core/measures/cast/cast';
import { resolveColorSpace, luminanceRow } from '../src/core/formulas/color/spaces';
import { luminousStops } from '../src/core/measures/strength/combineStrengths';
import { measureSession } from '../src/core/measure';
import { meanRadius4, trueCorner, trueMtf50 } from '../src/simulator/expected';
import { simulateSession } from '../src/simulator/session';
import type { Readings } from '../src/core/session/readings';
import { coverageOfKinds } from './coverageKinds';
import { randomPlan, type BenchKind } from '../src/simulator/randomBench';
import type { BenchPlan } from '../src/simulator/truth';

const SPACE = resolveColorSpace('srgb');

interface Tally {
  errors: number[];
  widths: number[];
  held: number;
}

const newTally = (): Tally => ({ errors: [], widths: [], held: 0 });

function record(tally: Tally, error: number, u95: number) {
  tally.errors.push(Math.abs(error));
  tally.widths.push(u95);
  if (Math.abs(error) <= u95) tally.held++;
}

function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)];
}

const BASE: BenchKind = {
  protocol: 'matched',
  bitDepth: 16,
  drift: 0,
  bend: 0,
  flicker: 0,
  repeats: 2,
  scenes: ['chart', 'flat'],
};
const KINDS: [string, BenchKind][] = [
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
const FIGURES = ['stops', 'cast', 'kept', 'corner'] as const;
type Tallies = Record<(typeof FIGURES)[number], Tally>;
const newTallies = (): Tallies => ({ stops: newTally(), cast: newTally(), kept: newTally(), corner: newTally() });

function compare(plan: BenchPlan, readings: Readings, tally: Tallies): void {
  const bareSigma = plan.camera.blurPx;
  for (const truth of plan.filters) {
    const found = readings.filters.find((one) => one.filter === truth.id);
    // The filter's own shading reaches into the patch.
    const trueStops =
      luminousStops(truth.stops, luminanceRow(SPACE)).stops + (truth.cornerStops ?? 0) * meanRadius4(plan);
    if (found?.density) record(tally.stops, found.density.stops.value - trueStops, found.density.stops.u95);
    if (found?.cast)
      record(tally.cast, found.cast.deltaE00.value - castColor(truth.stops, SPACE).deltaE00, found.cast.deltaE00.u95);
    const kept = trueMtf50(Math.hypot(bareSigma, truth.blurPx ?? 0)) / trueMtf50(bareSigma);
    for (const edge of found?.sharpness ?? []) record(tally.kept, edge.retained.value - kept, edge.retained.u95);
    const corner = trueCorner(plan, truth.cornerStops ?? 0);
    for (const one of Object.values(found?.shading?.corners ?? {})) record(tally.corner, one.value - corner, one.u95);
  }
}

async function measureKind(index: number, sessions: number, whole: boolean): Promise<Tallies> {
  const [name, kind] = KINDS[index];
  const tally = newTallies();
  for (let i = 0; i < sessions; i++) {
    const plan = randomPlan(`coverage/${name}/${i}`, kind);
    const { session, source } = simulateSession(whole ? plan : { ...plan, scenes: ['chart'] });
    if (!whole) session.patches = session.patches.filter((patch) => patch.role === 'neutral');
    compare(plan, await measureSession(session, source, { createdAt: plan.startedAt, generator: 'coverage' }), tally);
  }
  return tally;
}

/** The same in a process of its own. */
function measureKindApart(index: number, sessions: number, whole: boolean): Promise<Tallies> {
  const task = JSON.stringify({ index, sessions, whole });
  const child = spawn(process.execPath, [...process.execArgv, process.argv[1], '--task', task], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let text = '';
  child.stdout.on('data', (part: Buffer) => (text += part.toString()));
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('exit', (code) =>
      code === 0 ? resolve(JSON.parse(text)) : reject(new Error(`${KINDS[index][0]} failed`)),
    );
  });
}

async function main() {
  if (process.argv[2] === '--task') {
    const { index, sessions, whole } = JSON.parse(process.argv[3]);
    process.stdout.write(JSON.stringify(await measureKind(index, sessions, whole)));
    return;
  }
  if (process.argv[2] === '--kinds') return coverageOfKinds(Number(process.argv[3] ?? 25));
  const whole = process.argv.includes('--whole');
  const [given, only] = process.argv.slice(2).filter((word) => word !== '--whole');
  const sessions = Number(given ?? (whole ? 300 : 210));
  const chosen = [...KINDS.keys()].filter((index) => {
    const [title, kind] = KINDS[index];
    return (whole || !(kind.bracket || kind.linear || kind.noisy)) && (!only || title.includes(only));
  });
  const perKind = Math.ceil(sessions / chosen.length);
  const all = newTallies();
  console.log(
    'kind                            figure    n    held    median |error|  largest  median u95  ratio  |e|/u (0.67)',
  );
  const waiting = [...chosen];
  const work = async () => {
    for (let index = waiting.shift(); index !== undefined; index = waiting.shift()) {
      const tally = await measureKindApart(index, perKind, whole);
      for (const figure of FIGURES) {
        if (tally[figure].errors.length > 0) print(KINDS[index][0], figure, tally[figure]);
        all[figure].errors.push(...tally[figure].errors);
        all[figure].widths.push(...tally[figure].widths);
        all[figure].held += tally[figure].held;
      }
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, work));
  for (const figure of FIGURES) if (all[figure].errors.length > 0) print('all', figure, all[figure]);
}

function print(name: string, figure: string, tally: Tally) {
  const n = tally.errors.length;
  const error = median(tally.errors);
  const width = median(tally.widths);
  const standardised = median(tally.errors.map((one, i) => (2 * one) / tally.widths[i]));
  console.log(
    `${name.padEnd(32)}${figure.padEnd(7)}${String(n).padStart(4)}  ${((100 * tally.held) / n).toFixed(1).padStart(5)} %  ${error.toFixed(5).padStart(12)}  ${Math.max(
      ...tally.errors,
    )
      .toFixed(5)
      .padStart(
        9,
      )}  ${width.toFixed(5).padStart(9)}  ${(width / error).toFixed(2).padStart(5)}  ${standardised.toFixed(2).padStart(7)}`,
  );
}

void main();
