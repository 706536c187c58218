/** What went wrong at the stand-in bench. */
import type { BenchPlan, PlannedTake, Spoiled } from './truth';

/** All that went wrong with one picture. */
export function spoiledOf(plan: BenchPlan, take: PlannedTake, index: number): Partial<Spoiled> {
  const own = (plan.spoiled ?? []).filter((one) => one.take === take.id && (one.index ?? index) === index);
  return Object.assign({}, ...own) as Partial<Spoiled>;
}
