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

/** The first sittings of all kits, then the second ones, then what else there is. */
export function demoSessions(): DemoSession[] {
  const kits = scenario.kits as unknown as DemoKit[];
  const most = Math.max(...kits.map(({ sessions }) => sessions.length));
  return Array.from({ length: most }, (_, sitting) =>
    kits.flatMap(({ kit, filters, sessions }) => {
      const session = sessions[sitting];
      if (!session) return [];
      const { measure, ending, only, plan, drawnBy } = session;
      const shot = filters.filter(({ id }) => !only || only.includes(id));
      return [{ measure, ending, kit, plan: { ...plan, filters: shot }, ...(drawnBy ? { drawnBy } : {}) }];
    }),
  ).flat();
}

interface DemoShelf {
  /** What is kept of filters beside their labels, by id. */
  filters: Record<string, Record<string, unknown>>;
  rigs: Record<string, unknown>[];
}

/** Kits and rigs of the scenario as a reviewer keeps them. */
export function demoShelf(): { kits: Record<string, unknown>[]; rigs: Record<string, unknown>[] } {
  const shelf = scenario.shelf as unknown as DemoShelf;
  const kits = (scenario.kits as unknown as DemoKit[]).map(({ kit, filters }) => ({
    ...kit,
    filters: filters.map(({ id, name, kind, nominal }) => ({ id, name, kind, nominal, ...shelf.filters[id] })),
  }));
  return { kits, rigs: shelf.rigs };
}
