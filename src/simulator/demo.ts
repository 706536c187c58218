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
}

const YEAR_MS = 365.25 * 24 * 3600 * 1000;
const MONTH = new Intl.DateTimeFormat('en', { year: 'numeric', month: 'long', timeZone: 'UTC' });

/** The sittings of one kit over two years, small ones. */
export function demoYears(): DemoSession[] {
  const { kit, filters, fades, bench, plan, starts } = scenario.years as unknown as DemoYears;
  return starts.map((startedAt, i) => {
    const years = (Date.parse(startedAt) - Date.parse(starts[0])) / YEAR_MS;
    const off = i >= bench.from ? bench.stops : 0;
    const shown = filters.map((filter) => ({
      ...filter,
      stops: filter.stops.map((one, c) => one + off + years * (fades[filter.id]?.[c] ?? 0)) as TrueFilter['stops'],
    }));
    const title = `Ashwick Quarry bench, ${MONTH.format(Date.parse(startedAt))} · ${String(kit.name)}`;
    const seed = `ashwick-years-${i + 1}`;
    return { measure: true, ending: 'png', kit, plan: { ...plan, title, seed, startedAt, filters: shown } };
  });
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
  return [first, ...demoYears(), ...others, ...later.flat()];
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
