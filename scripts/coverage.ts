/**
 * Over many seeded sessions: how often u95 holds the truth, how large errors are, and whether u95 is no wider than it
 * need be. `npm run coverage [sessions]`.
 */
import { castColor } from '../src/core/cast';
import { resolveColorSpace, luminanceRow } from '../src/core/color';
import { luminousStops } from '../src/core/density';
import { measureSession } from '../src/core/measure';
import { simulateSession } from '../src/simulator/session';
import { randomPlan, type BenchKind } from '../src/simulator/randomBench';

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

const KINDS: [string, BenchKind][] = [
  ['matched, 16 bit', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 3 }],
  ['matched, 8 bit', { protocol: 'matched', bitDepth: 8, drift: 0, bend: 0, flicker: 0, repeats: 1 }],
  [
    'automatic, 16 bit, drift 0.3',
    { protocol: 'automatic', bitDepth: 16, drift: 0.3, bend: 0, flicker: 0, repeats: 2 },
  ],
  ['matched, 8 bit, drift 0.3', { protocol: 'matched', bitDepth: 8, drift: 0.3, bend: 0, flicker: 0, repeats: 3 }],
  [
    'matched, 16 bit, bent drift',
    { protocol: 'matched', bitDepth: 16, drift: 0.2, bend: 0.06, flicker: 0, repeats: 2 },
  ],
  ['matched, 16 bit, flicker', { protocol: 'matched', bitDepth: 16, drift: 0.1, bend: 0, flicker: 0.004, repeats: 3 }],
  ['locked, 16 bit', { protocol: 'locked', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 2 }],
];

async function main() {
  const sessions = Number(process.argv[2] ?? 200);
  const perKind = Math.ceil(sessions / KINDS.length);
  const all = { stops: newTally(), cast: newTally() };
  console.log(
    'kind                            figure   n    held    median |error|  largest  median u95  ratio  |e|/u (0.67)',
  );
  const only = process.argv[3];
  for (const [name, kind] of KINDS.filter(([title]) => !only || title.includes(only))) {
    const tally = { stops: newTally(), cast: newTally() };
    for (let i = 0; i < perKind; i++) {
      const plan = randomPlan(`coverage/${name}/${i}`, kind);
      const { session, source } = simulateSession(plan);
      const readings = await measureSession(session, source, { createdAt: plan.startedAt, generator: 'coverage' });
      for (const truth of plan.filters) {
        const found = readings.filters.find((one) => one.filter === truth.id);
        if (!found?.density || !found.cast) continue;
        const trueStops = luminousStops(truth.stops, luminanceRow(SPACE)).stops;
        const trueCast = castColor(truth.stops, SPACE).deltaE00;
        record(tally.stops, found.density.stops.value - trueStops, found.density.stops.u95);
        record(tally.cast, found.cast.deltaE00.value - trueCast, found.cast.deltaE00.u95);
      }
    }
    for (const figure of ['stops', 'cast'] as const) {
      print(name, figure, tally[figure]);
      all[figure].errors.push(...tally[figure].errors);
      all[figure].widths.push(...tally[figure].widths);
      all[figure].held += tally[figure].held;
    }
  }
  for (const figure of ['stops', 'cast'] as const) print('all', figure, all[figure]);
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
