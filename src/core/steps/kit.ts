/** What a kit's filters say of each other. */
import { kitFaults, ratedFilters } from '../rating';
import type { Filter, FilterReadings, Session } from '../session';

/** Merged steps and suspected order, told on the sheets of both filters. */
export function addKitFaults(readings: FilterReadings[], filters: Filter[], session: Session): void {
  for (const { filters: pair, fault: found } of kitFaults(ratedFilters(readings, filters, session)))
    for (const id of pair) readings.find((one) => one.filter === id)?.faults.push(found);
}
