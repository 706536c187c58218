/** Beads of a session's ladder from its filters and readings. */
import { nominalStops } from '@/core/session/notation';
import type { FilterReadings, Readings } from '@/core/session/readings';
import type { Session } from '@/core/session/schema';
import type { LadderBead } from './ladder/layout';

export function beadsOf(session: Pick<Session, 'kits'>, readings: Readings | null): LadderBead[] {
  return session.kits
    .flatMap((kit) => kit.filters)
    .map((filter) => {
      const found = readings?.filters.find((one) => one.filter === filter.id);
      const range = filter.nominal.stopsRange;
      return {
        id: filter.id,
        name: filter.name ?? filter.id,
        labelStops: nominalStops(filter.nominal),
        labelSpan: range ? ([Math.min(...range), Math.max(...range)] as const) : null,
        found: found?.density?.stops ?? null,
        span: found ? spanOf(found) : null,
        verdict: found?.verdict.label ?? null,
      };
    });
}

/** Marks of a variable filter, brightest to darkest of a polarizer, the two halves of a graduated one; `null` for one strength. */
function spanOf({ variable, marks, polarizer, graduation }: FilterReadings): LadderBead['span'] {
  if (variable)
    return {
      low: variable.lightest.value,
      high: variable.darkest.value,
      ticks: (marks ?? []).map((one) => one.stops.value),
    };
  if (graduation)
    return { low: graduation.clearStops.value, high: graduation.denseStops.value, ticks: [], halves: true };
  if (polarizer?.brightest)
    return { low: polarizer.brightest.value, high: polarizer.darkest?.value ?? Infinity, ticks: [] };
  return null;
}
