/** What a kit's filters say of each other. */
import { kitFaults, type RatedFilter } from '../rating';
import type { Filter, FilterReadings, Session } from '../session';

/** Kinds whose single label makes them a step of a row. */
const PLAIN_KINDS = new Set(['nd', 'nd-polarizer']);

/** Merged steps and suspected order, told on the sheets of both filters. */
export function addKitFaults(readings: FilterReadings[], filters: Filter[], session: Session): void {
  const rated: RatedFilter[] = filters.flatMap((filter) => {
    const found = readings.find((one) => one.filter === filter.id);
    if (!found?.density || found.nominalStops === null || !PLAIN_KINDS.has(filter.kind)) return [];
    const { value, u95 } = found.density.stops;
    const takes = session.takes
      .filter((take) => take.filter === filter.id && take.role === 'measure')
      .map((take) => take.id);
    return [
      { filter: filter.id, name: filter.name ?? filter.id, nominal: found.nominalStops, stops: value, u95, takes },
    ];
  });
  for (const { filters: pair, fault: found } of kitFaults(rated))
    for (const id of pair) readings.find((one) => one.filter === id)?.faults.push(found);
}
