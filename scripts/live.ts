/**
 * Sittings looked at while they go on, by seed: whether each mistake is told before the next take but one, whether a clean one is left alone, and
 * whether provisional and final strengths agree. `npm run live [-- [count] [mistake]]`: so many with each mistake, and as many clean ones.
 */
import { shootLive } from '../src/core/testing/liveSitting';
import type { AlarmKind } from '../src/core/sitting/live/alarm';
import { drawSitting, MISTAKES, type Mistake } from '../src/simulator/randomSitting';

/** What may be told of a mistake: any of these makes a person look at the right thing. */
const TOLD: Record<Mistake, readonly AlarmKind[]> = {
  clipped: ['clipped'],
  dark: ['dark'],
  moved: ['moved'],
  focus: ['soft'],
  shake: ['soft'],
  light: ['light', 'wrong filter', 'exposure'],
  'white balance told': ['white balance'],
  'white balance untold': ['white balance', 'settings'],
  'wrong filter': ['wrong filter', 'light'],
  'wrong angle': ['wrong angle'],
  // Far too bright, it says to look where the ring stands.
  'wrong mark': ['wrong mark', 'clipped'],
};

async function main(): Promise<void> {
  const [count = '5', only] = process.argv.slice(2);
  const verbose = process.env.LIVE_VERBOSE !== undefined;
  let [pairs, inside] = [0, 0];
  for (const mistake of [
    ...MISTAKES.filter((one) => !only || one === only),
    ...(only && only !== 'clean' ? [] : [null]),
  ]) {
    let [told, early, falsely] = [0, 0, 0];
    for (let i = 0; i < Number(count); i++) {
      const { plan, from } = drawSitting(`live ${mistake ?? 'clean'} ${i}`, mistake);
      const steps = await shootLive(plan);
      const at = steps.findIndex(({ take }) => take === from);
      const shown = steps.map(({ view }) => view.alarms);
      if (mistake === null) {
        const wrong = shown.findIndex((alarms) => alarms.length > 0);
        if (wrong >= 0) {
          falsely++;
          if (verbose) console.log(i, steps[wrong].take, JSON.stringify(shown[wrong]));
        }
        const last = steps.at(-1)!;
        for (const { view } of steps)
          for (const { filter, stops } of view.beads) {
            const final = last.view.beads.find((one) => one.filter === filter)?.stops;
            if (!stops || !final) continue;
            pairs++;
            inside += Number(Math.abs(stops.value - final.value) <= Math.hypot(stops.u95, final.u95));
          }
        continue;
      }
      if (shown.slice(0, at).some((alarms) => alarms.length > 0)) {
        early++;
        if (verbose) console.log('early', i, JSON.stringify(shown.slice(0, at).find((alarms) => alarms.length > 0)));
      }
      const soon = shown.slice(at, at + 2).some((alarms) => alarms.some(({ kind }) => TOLD[mistake].includes(kind)));
      told += Number(soon);
      if (!soon && verbose)
        console.log(
          'missed',
          i,
          from,
          JSON.stringify(shown.slice(at, at + 3)),
          JSON.stringify(plan.spoiled ?? plan.lamps),
        );
    }
    console.log(
      mistake === null
        ? `clean: ${falsely} of ${count} with an alarm; provisional and final agree within their ± in ${inside} of ${pairs}`
        : `${mistake}: ${told} of ${count} told before the next take but one, ${early} alarmed before it`,
    );
  }
}

void main();
