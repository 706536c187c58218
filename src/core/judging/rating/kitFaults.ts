/** What a kit's strengths say of each other: merged steps, an order that isn't the labels', and labels that are all off alike. */
import { mean } from 'd3-array';
import type { Fault, FilterReadings } from '../../session/readings';
import type { Filter, Session } from '../../session/schema';
import { offAlike, orderSuspect, stepsMerged } from '../../words/kit';
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

/** So many filters make a row; of fewer, two alike are a coincidence. */
const ROW = 3;
/** Strengths that lie so far apart tell one amount from one share of each. */
const ROW_STOPS = 2;
/** Less isn't worth a question; this, and what follows, are our own choice, no source. */
const LEAST_STOPS = 0.15;
/** How nearly the same amount, where ± are smaller. */
const ALIKE_STOPS = 0.05;

/**
 * Labels that are all off by one amount: makers are seldom, while whatever differed between all bare and all filtered pictures (a shutter
 * noted wrong, ISO, a picture style) does just that, and no picture of the session shows it otherwise. `null` where it isn't so.
 */
export function labelsOffAlike(row: readonly RatedFilter[]): Fault | null {
  if (row.length < ROW) return null;
  const labels = row.map(({ nominal }) => nominal);
  if (Math.max(...labels) - Math.min(...labels) < ROW_STOPS) return null;
  const off = row.map(({ stops, nominal }) => stops - nominal);
  const common = mean(off)!;
  const isAlike = row.every(
    ({ u95 }, i) =>
      Math.abs(common) > Math.max(LEAST_STOPS, u95) && Math.abs(off[i] - common) <= Math.max(ALIKE_STOPS, u95),
  );
  return isAlike
    ? offAlike(
        row.flatMap(({ takes }) => takes),
        row.map(({ name }) => name),
        common,
      )
    : null;
}

/** The faults of {@link labelsOffAlike}, of each kit. */
export const kitsOffAlike = (readings: readonly FilterReadings[], session: Session): Fault[] =>
  session.kits.flatMap((kit) => labelsOffAlike(ratedFilters(readings, kit.filters, session)) ?? []);

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
