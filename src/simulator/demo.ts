/** The demo's scenario: three kits of a made-up maker, sittings of each on the bench, all with a known truth. */
import scenario from '../../demo/scenario.json';
import type { CameraClass } from './camera/profile';
import type { BenchPlan, TrueFilter } from './truth';

export interface DemoSession {
  /** Whether it is shown measured. */
  measure: boolean;
  ending: 'tif' | 'png';
  kit: Record<string, unknown>;
  plan: BenchPlan;
  /** A camera with a style of its own that draws its pictures; the plan's plain one when left out. */
  drawnBy?: DrawnBy;
}

/** A stand-in camera by class and seed, and the bare pictures that its curve is learned from, stops. */
export interface DrawnBy {
  kind: CameraClass;
  seed: string;
  darker: number[];
}

interface DemoKit {
  kit: Record<string, unknown>;
  filters: TrueFilter[];
  sessions: {
    measure: boolean;
    ending: 'tif' | 'png';
    /** Ids of the filters that were shot; all when left out. */
    only?: string[];
    drawnBy?: DrawnBy;
    plan: Omit<BenchPlan, 'filters'>;
  }[];
}

/** One kit measured again and again: what of it fades, and what the bench itself did. */
interface DemoYears {
  kit: Record<string, unknown>;
  filters: TrueFilter[];
  /** Stops a year by channel, by filter. */
  fades: Record<string, [number, number, number]>;
  /** From this sitting on everything is read so many stops darker. */
  bench: { from: number; stops: number };
  plan: Omit<BenchPlan, 'filters' | 'seed' | 'title' | 'startedAt'>;
  /** When each sitting began. */
  starts: string[];
  /** Another sample of the kit: serial numbers of both by filter, stops that it is off by, and its sittings. */
  second: {
    id: string;
    serials: Record<string, [string, string]>;
    off: Record<string, [number, number, number]>;
    starts: string[];
  };
}

const YEAR_MS = 365.25 * 24 * 3600 * 1000;
const MONTH = new Intl.DateTimeFormat('en', { year: 'numeric', month: 'long', timeZone: 'UTC' });

/** The sittings of one kit over two years, small ones. */
export function demoYears(): DemoSession[] {
  const { starts, kit } = scenario.years as unknown as DemoYears;
  return starts.map((startedAt, i) => yearSitting(startedAt, kit, 0, `ashwick-years-${i + 1}`, i));
}

/** Sittings of another sample of that kit, lent by somebody. */
export function demoSecondSample(): DemoSession[] {
  const { kit, second, starts } = scenario.years as unknown as DemoYears;
  const lent = { ...kit, id: second.id, obtained: 'lent' };
  return second.starts.map((startedAt, i) => {
    const sitting = starts.filter((one) => one < startedAt).length - 1;
    return yearSitting(startedAt, lent, 1, `ashwick-years-second-${i + 1}`, sitting);
  });
}

/** One sitting of a sample, as the bench was and the filters had faded by then. */
function yearSitting(startedAt: string, kit: DemoYears['kit'], sample: 0 | 1, seed: string, i: number): DemoSession {
  const { filters, fades, bench, plan, starts, second } = scenario.years as unknown as DemoYears;
  const years = (Date.parse(startedAt) - Date.parse(starts[0])) / YEAR_MS;
  const off = i >= bench.from ? bench.stops : 0;
  const shown = filters.map((filter) => ({
    ...filter,
    serial: second.serials[filter.id][sample],
    stops: filter.stops.map(
      // The one that was lent lies in its case and doesn't fade.
      (one, c) => one + off + (sample === 1 ? second.off[filter.id][c] : years * (fades[filter.id]?.[c] ?? 0)),
    ) as TrueFilter['stops'],
  }));
  const name = String(kit.name);
  const title = `Ashwick Quarry bench, ${MONTH.format(Date.parse(startedAt))} · ${name}${sample === 1 ? ', lent' : ''}`;
  return { measure: true, ending: 'png', kit, plan: { ...plan, title, seed, startedAt, filters: shown } };
}

/** The first kit's sitting, one kit's over two years, the first sittings of the others, then the second ones, then what else there is. */
export function demoSessions(): DemoSession[] {
  const kits = scenario.kits as unknown as DemoKit[];
  const most = Math.max(...kits.map(({ sessions }) => sessions.length));
  const bySitting = Array.from({ length: most }, (_, sitting) =>
    kits.flatMap(({ kit, filters, sessions }) => {
      const session = sessions[sitting];
      if (!session) return [];
      const { measure, ending, only, plan, drawnBy } = session;
      const shot = filters.filter(({ id }) => !only || only.includes(id));
      return [{ measure, ending, kit, plan: { ...plan, filters: shot }, ...(drawnBy ? { drawnBy } : {}) }];
    }),
  );
  const [[first, ...others], ...later] = bySitting;
  // What is looked at most comes first, and stands above the long row of years all the same: lists begin with the newest.
  return [first, ...demoYears(), ...demoSecondSample(), ...others, ...later.flat()];
}

interface DemoShelf {
  /** What is kept of filters beside their labels, by id. */
  filters: Record<string, Record<string, unknown>>;
  rigs: Record<string, unknown>[];
}

/** Kits and rigs of the scenario as a reviewer keeps them. */
export function demoShelf(): { kits: Record<string, unknown>[]; rigs: Record<string, unknown>[] } {
  const shelf = scenario.shelf as unknown as DemoShelf;
  const kept = [...(scenario.kits as unknown as DemoKit[]), scenario.years as unknown as DemoYears];
  const kits = kept.map(({ kit, filters }) => ({
    ...kit,
    filters: filters.map(({ id, name, kind, nominal }) => ({ id, name, kind, nominal, ...shelf.filters[id] })),
  }));
  return { kits, rigs: shelf.rigs };
}

/** Benches of other people that measured the same kits: one has its camera's curve wrong by a fiftieth, one a dial by a third of a stop. */
export const demoBenches = (): { name: string }[] => scenario.benches;
