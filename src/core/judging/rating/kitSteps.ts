/** What a kit's filters say of each other. */
import { kitFaults } from './kitFaults';
import { ratedFilters } from './rejudge';
import type { Filter, Session } from '../../session/schema';
import type { FilterReadings } from '../../session/readings';

/** Merged steps and suspected order, told on the sheets of both filters. */
export function addKitFaults(readings: FilterReadings[], filters: Filter[], session: Session): void {
  for (const { filters: pair, fault: found } of kitFaults(ratedFilters(readings, filters, session)))
    for (const id of pair) readings.find((one) => one.filter === id)?.faults.push(found);
}
