/**
 * Coverage and accuracy of polarizers, variable and graduated filters over seeded sessions: `npm run coverage -- --kinds [sessions]`. For each
 * figure the share of truths inside u95, the largest error and the median u95.
 */
import { luminanceRow, resolveColorSpace } from '../src/core/formulas/color/spaces';
import { luminousStops } from '../src/core/measures/strength/combineStrengths';
import { measureSession } from '../src/core/measure';
import type { FilterReadings, Reading } from '../src/core/session/readings';
import { trueCut } from '../src/simulator/polarized';
import { expectedUnevenness, stopsAtCenter } from '../src/simulator/expected';
import { randomKinds } from '../src/simulator/randomKinds';
import { simulateSession } from '../src/simulator/session';
import type { BenchPlan } from '../src/simulator/truth';

const LUMINANCE = luminanceRow(resolveColorSpace('srgb'));

interface Seen {
  held: number;
  errors: number[];
  widths: number[];
  absent: number;
}
type Table = Map<string, Seen>;

function note(table: Table, name: string, found: Reading | undefined, truth: number, wrap = 0): void {
  const seen = table.get(name) ?? { held: 0, errors: [], widths: [], absent: 0 };
  table.set(name, seen);
  if (!found) {
    seen.absent++;
    return;
  }
  let error = found.value - truth;
  if (wrap > 0) error -= wrap * Math.round(error / wrap);
  seen.errors.push(Math.abs(error));
  seen.widths.push(found.u95);
  if (Math.abs(error) <= found.u95) seen.held++;
}

function compare(table: Table, plan: BenchPlan, filters: readonly FilterReadings[]): void {
  for (const truth of plan.filters) {
    const found = filters.find((one) => one.filter === truth.id)!;
    const strength = luminousStops(truth.stops, LUMINANCE).stops;
    if (truth.polarizer && plan.polarization) {
      const { extinctionStops, axisDegrees } = truth.polarizer;
      const brightest = strength - 1 + Math.log2(1 + 2 ** -extinctionStops);
      const { polarizer } = found;
      note(table, 'brightest', polarizer?.brightest, brightest);
      note(table, 'darkest', polarizer?.darkest, brightest + extinctionStops);
      note(table, 'extinction', polarizer?.extinctionStops, extinctionStops);
      note(table, 'axis', polarizer?.axisDegrees, axisDegrees + plan.polarization.lightDegrees, 180);
      note(table, 'glare cut', polarizer?.glareCut, trueCut('water', plan.polarization, truth));
      note(table, 'sky', polarizer?.skyDarkening, trueCut('sky', plan.polarization, truth));
    }
    for (const mark of truth.variable ? (found.marks ?? []) : []) {
      note(table, 'mark', mark.stops, stopsAtCenter(plan, truth, mark.mark));
      note(table, 'unevenness', mark.unevenness, expectedUnevenness(plan, truth, mark.mark));
    }
    if (truth.graduation) {
      const { denseStops, midline, width, angleDegrees } = truth.graduation;
      const graduation = found.graduation;
      note(table, 'clear', graduation?.clearStops, strength);
      note(table, 'dense', graduation?.denseStops, luminousStops(denseStops, LUMINANCE).stops);
      note(table, 'midline', graduation?.midline, midline);
      note(table, 'width', graduation?.transitionWidth, width);
      note(table, 'tilt', graduation?.angleDegrees, angleDegrees, 360);
    }
  }
}

/** Prints a table a kind of session. */
export async function coverageOfKinds(sessions: number): Promise<void> {
  for (const bitDepth of [16, 8] as const)
    for (const drift of [0, 0.2]) {
      const table: Table = new Map();
      for (let i = 0; i < sessions; i++) {
        const plan = randomKinds(`kinds/${bitDepth}/${drift}/${i}`, bitDepth, drift);
        const { session, source } = simulateSession(plan);
        const readings = await measureSession(session, source, { createdAt: '', generator: '' });
        compare(table, plan, readings.filters);
      }
      console.log(`${bitDepth} bit, drift ${drift} stop, ${sessions} sessions`);
      for (const [name, { held, errors, widths, absent }] of table) {
        const middle = [...widths].sort((a, b) => a - b)[widths.length >> 1] ?? NaN;
        console.log(
          `  ${name.padEnd(11)} held ${((100 * held) / Math.max(1, errors.length)).toFixed(1).padStart(5)} % of ${errors.length}, largest error ${Math.max(...errors).toFixed(4)}, u95 ${middle.toFixed(4)}${absent > 0 ? `, ${absent} withheld` : ''}`,
        );
      }
    }
}
