/** Beads of a session's ladder from its filters and readings. */
import { nominalStops } from '@/core/labels';
import type { Readings, Session } from '@/core/session';
import type { LadderBead } from './ladder/layout';

export function beadsOf(session: Session, readings: Readings | null): LadderBead[] {
  return session.kits
    .flatMap((kit) => kit.filters)
    .map((filter) => {
      const found = readings?.filters.find((one) => one.filter === filter.id);
      return {
        id: filter.id,
        name: filter.name ?? filter.id,
        labelStops: nominalStops(filter.nominal),
        found: found?.density?.stops ?? null,
        verdict: found?.verdict.label ?? null,
      };
    });
}
