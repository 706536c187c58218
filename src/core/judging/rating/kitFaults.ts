/** What a kit's strengths say of each other: merged steps, and an order that isn't the labels'. */
import type { Fault, FilterReadings } from '../../session/readings';
import type { Filter, Session } from '../../session/schema';
import { orderSuspect, stepsMerged } from '../../words/kit';
import { DEFAULT_BANDS, type Bands } from './bands';

/** A measured filter with its label. */
export interface RatedFilter {
  filter: string;
  name: string;
  nominal: number;
  stops: number;
  u95: number;
  takes: string[];
}

export interface KitFault {
  filters: [string, string];
  fault: Fault;
}

/**
 * Neighbors by label that do nearly the same, and pairs whose strengths stand the other way round than their labels.
 * A pair is only reported when the two intervals allow no other reading of it.
 */
export function kitFaults(filters: readonly RatedFilter[], bands: Bands = DEFAULT_BANDS): KitFault[] {
  const row = [...filters].sort((a, b) => a.nominal - b.nominal);
  const faults: KitFault[] = [];
  for (let i = 1; i < row.length; i++) {
    const light = row[i - 1];
    const dark = row[i];
    const labelled = dark.nominal - light.nominal;
    const found = dark.stops - light.stops;
    const u = Math.hypot(light.u95, dark.u95);
    const takes = [...light.takes, ...dark.takes];
    // Two filters with one label have no step that could merge.
    if (labelled < 0.2) continue;
    const filters: KitFault['filters'] = [light.filter, dark.filter];
    if (found < -u) faults.push({ filters, fault: orderSuspect(light, dark, wouldFitExchanged(light, dark)) });
    else if (found + u < bands.mergedBelow * labelled)
      faults.push({ filters, fault: stepsMerged(takes, light.name, dark.name, found, labelled) });
  }
  return faults;
}

/** Whether exchanging the two takes would make both labels fit: then it is told more surely. */
function wouldFitExchanged(light: RatedFilter, dark: RatedFilter): boolean {
  const asShot = Math.abs(light.stops - light.nominal) + Math.abs(dark.stops - dark.nominal);
  const exchanged = Math.abs(dark.stops - light.nominal) + Math.abs(light.stops - dark.nominal);
  return exchanged < 0.5 * asShot;
}

/** Kinds whose single label makes them a step of a row. */
const PLAIN_KINDS = new Set<Filter['kind']>(['nd', 'nd-polarizer']);

/** Filters that are steps of a row, with the takes that they were measured on. */
function ratedFilters(
  readings: readonly FilterReadings[],
  filters: readonly Filter[],
  session: Session,
): RatedFilter[] {
  return filters.flatMap((filter): RatedFilter[] => {
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
}

/** The readings with what the filters of each kit say of each other told on the sheets of both. */
export function withKitFaults(
  readings: readonly FilterReadings[],
  session: Session,
  bands: Bands = DEFAULT_BANDS,
): FilterReadings[] {
  const found = session.kits.flatMap((kit) => kitFaults(ratedFilters(readings, kit.filters, session), bands));
  return readings.map((one) => {
    const own = found.filter(({ filters }) => filters.includes(one.filter)).map(({ fault }) => fault);
    return own.length === 0 ? one : { ...one, faults: [...one.faults, ...own] };
  });
}
