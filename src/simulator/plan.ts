/** The order of the stand-in bench's takes, with settings by the protocol and the lamps' state at each. */
import { passingThrough, type Passing } from './glass';
import { seededRandom, type Random } from './random';
import type { BenchPlan, Lamps, PlannedTake, Setting, SimulatedScene, TrueFilter } from './truth';

export const BARE_SHUTTER_DENOMINATOR = 2000;
const ISO = 100;
const TAKE_MINUTES = 1.5;

/** The takes of a plan in shooting order, with settings by the protocol and the lamps' state at each. */
export function planTakes(plan: BenchPlan): PlannedTake[] {
  const orders = plan.scenes.map((scene) => ({ scene, order: orderOf(plan, scene) }));
  const total = orders.reduce((sum, { order }) => sum + order.length, 0);
  const random = seededRandom(`${plan.seed}/meter`);
  const takes: PlannedTake[] = bracketTakes(plan);
  const before = takes.length;
  for (const { scene, order } of orders) {
    let bares = 0;
    for (const { filter, setting, sweep } of order) {
      const minute = takes.length * TAKE_MINUTES;
      const progress = total > 1 ? (takes.length - before) / (total - 1) : 0;
      const [shutterSeconds, shutterText] = shutterFor(plan, filter, greenStops(plan, filter, scene, setting), random);
      takes.push({
        id: filter ? `${scene}-${filter.id}${suffixOf(setting)}` : `${scene}-bare-${++bares}`,
        filter,
        scene,
        role: sweep ? 'sweep' : 'measure',
        ...(setting ? { setting } : {}),
        minute,
        lampStops: lampStops(plan.lamps, progress),
        shutterSeconds,
        shutterText,
        iso: ISO,
        repeats: scene === 'turn' ? (plan.turn?.pictures ?? 1) : plan.repeats,
      });
    }
  }
  return takes;
}

interface Exposed {
  filter: TrueFilter | null;
  setting?: Setting;
  sweep?: boolean;
}

/** What is shot at a scene, bare takes at both ends and after every n others. */
function orderOf(plan: BenchPlan, scene: SimulatedScene): Exposed[] {
  const filtered = plan.filters.flatMap((filter) => exposuresOf(plan, filter, scene));
  const order: Exposed[] = [{ filter: null }];
  filtered.forEach((one, i) => {
    order.push(one);
    if ((i + 1) % plan.bareEvery === 0 && i + 1 < filtered.length) order.push({ filter: null });
  });
  order.push({ filter: null });
  return order;
}

/** Polarized scenes see polarizers only, at every angle; variable filters are shot at every mark, up and (with backlash) down again. */
function exposuresOf(plan: BenchPlan, filter: TrueFilter, scene: SimulatedScene): Exposed[] {
  const polarized = scene === 'screen' || scene === 'water' || scene === 'sky' || scene === 'turn';
  if (polarized) {
    if (!filter.polarizer) return [];
    // The ring stays where it cuts most while the camera turns about.
    if (scene === 'turn') {
      const ringDegrees = (filter.polarizer.axisDegrees + (plan.polarization?.lightDegrees ?? 0) + 90) % 180;
      return [{ filter, setting: { ringDegrees }, sweep: false }];
    }
    return (plan.sweep ?? [0, 30, 60, 90, 120, 150]).map((ringDegrees) => ({
      filter,
      setting: { ringDegrees },
      sweep: true,
    }));
  }
  if (filter.polarizer)
    return (plan.benchRing ?? [0]).map((ringDegrees) => ({ filter, setting: { ringDegrees }, sweep: false }));
  if (!filter.variable) return [{ filter }];
  const marks = filter.variable.marks.map((one) => one.mark);
  const up = marks.map((mark) => ({ filter, setting: { mark }, sweep: true }));
  if (!filter.variable.backlashStops) return up;
  const down = marks.slice(0, -1).reverse();
  return [...up, ...down.map((mark) => ({ filter, setting: { mark, fromAbove: true }, sweep: true }))];
}

const suffixOf = (setting: Setting | undefined) =>
  setting === undefined
    ? ''
    : `${setting.ringDegrees === undefined ? '' : `-r${setting.ringDegrees}`}${setting.mark === undefined ? '' : `-m${setting.mark}`}${setting.fromAbove ? '-down' : ''}`;

/** Stops that green loses, which a meter would see; never so many that the shutter would stay open for minutes. */
function greenStops(plan: BenchPlan, filter: TrueFilter | null, scene: SimulatedScene, setting?: Setting): number {
  if (!filter) return 0;
  const passing: Passing = { plain: [1, 1, 1], polarized: [1, 1, 1] };
  const { lightDegrees = 0 } = plan.polarization ?? {};
  // Graduated filters are metered through their clear half.
  if (filter.graduation) return filter.stops[1];
  passingThrough(filter, setting, lightDegrees)(0, 0, passing);
  return Math.min(12, -Math.log2(scene === 'screen' ? passing.polarized[1] : passing.plain[1]));
}

/** Bare exposures a stop apart, the brightest one above bare, before the lamps have moved. */
function bracketTakes(plan: BenchPlan): PlannedTake[] {
  return Array.from({ length: plan.bracket ?? 0 }, (_, i) => {
    const shutterSeconds = 2 ** (1 - i) / BARE_SHUTTER_DENOMINATOR;
    return {
      id: `bracket-${i + 1}`,
      filter: null,
      scene: 'chart',
      role: 'bracket',
      minute: i * TAKE_MINUTES,
      lampStops: 0,
      shutterSeconds,
      shutterText: `1/${1 / shutterSeconds}`,
      iso: ISO,
      repeats: 1,
    };
  });
}

function lampStops(lamps: Lamps, progress: number): number {
  const bend = (lamps.bendStops ?? 0) * 4 * progress * (1 - progress);
  const jump = lamps.jump && progress >= lamps.jump.at ? lamps.jump.stops : 0;
  return lamps.driftStops * progress + bend + jump;
}

/** Locked: never moves. Matched: thirds of a stop nearest to bare's level. Automatic: what a meter would set, freely. */
function shutterFor(plan: BenchPlan, filter: TrueFilter | null, strength: number, random: Random): [number, string] {
  const bare = 1 / BARE_SHUTTER_DENOMINATOR;
  const wobble = random.normal() * 0.1;
  if (!filter || plan.protocol === 'locked') return [bare, `1/${BARE_SHUTTER_DENOMINATOR}`];
  const longer = plan.protocol === 'matched' ? Math.round(strength * 3) / 3 : strength + wobble;
  const seconds = bare * 2 ** longer;
  const denominator = 1 / seconds;
  const text = denominator > 3 ? `1/${denominator.toFixed(3)}` : seconds.toFixed(5);
  const written = text.startsWith('1/') ? 1 / Number(text.slice(2)) : Number(text);
  return [written, text];
}
