/** What a session should give as a filter's strength. */
import type { BenchPlan, TrueFilter } from '../truth';
import { expectedLuminousStops } from './color';
import { meanRadius4 } from './shading';

/** Luminous stops on the gray card, into which the filter's own fall reaches a little. */
export function expectedStrength(plan: BenchPlan, { stops, cornerStops = 0 }: TrueFilter): number {
  return expectedLuminousStops(stops) + cornerStops * meanRadius4(plan);
}
