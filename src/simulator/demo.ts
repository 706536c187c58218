/** The demo's scenario: three kits of a made-up maker, two sittings each, all with a known truth. */
import scenario from '../../demo/scenario.json';
import type { BenchPlan, TrueFilter } from './truth';

export interface DemoSession {
  /** Whether it is shown measured. */
  measure: boolean;
  ending: 'tif' | 'png';
  kit: Record<string, unknown>;
  plan: BenchPlan;
}

interface DemoKit {
  kit: Record<string, unknown>;
  filters: TrueFilter[];
  sessions: { measure: boolean; ending: 'tif' | 'png'; plan: Omit<BenchPlan, 'filters'> }[];
}

/** The first sittings of all kits, then the second ones. */
export function demoSessions(): DemoSession[] {
  const kits = scenario.kits as unknown as DemoKit[];
  return [0, 1].flatMap((sitting) =>
    kits.map(({ kit, filters, sessions }) => {
      const { measure, ending, plan } = sessions[sitting];
      return { measure, ending, kit, plan: { ...plan, filters } };
    }),
  );
}
