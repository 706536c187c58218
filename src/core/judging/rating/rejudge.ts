/** Readings under other bounds: figures stay, words follow. */
import type { FilterReadings, Readings } from '../../session/readings';
import type { Filter, Session } from '../../session/schema';
import { DEFAULT_BANDS, type Bands } from './bands';
import { kitFaults, type RatedFilter } from './kitFaults';
import { judgeFilter } from './verdictByKind';
import { castInWords, judgeQualities } from './verdict';

/** Kinds whose single label makes them a step of a row. */
const PLAIN_KINDS = new Set<Filter['kind']>(['nd', 'nd-polarizer']);
/** Faults that rest on a bound. */
const OF_BOUNDS = new Set(['steps-merged', 'order-suspect']);

/** Filters that are steps of a row, with the takes that they were measured on. */
export function ratedFilters(readings: readonly FilterReadings[], filters: readonly Filter[], session: Session) {
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

/** The readings with the words that these bounds give; the same object where they are the usual ones. */
export function rejudge(readings: Readings, session: Session, bands: Bands): Readings {
  if (bands === DEFAULT_BANDS) return readings;
  const filters = readings.filters.map((one): FilterReadings => {
    const definition = session.kits.flatMap((kit) => kit.filters).find((filter) => filter.id === one.filter);
    const takes = session.takes
      .filter((take) => take.filter === one.filter && take.role === 'measure')
      .reduce((sum, take) => sum + take.files.length, 0);
    const counted = typeof one.verdict.takes === 'number' ? one.verdict.takes : takes;
    const verdict = {
      ...one.verdict,
      repeatsToSettle: undefined,
      ...judgeFilter(one, { kind: definition?.kind ?? 'nd' }, counted, bands),
      ...judgeQualities(one, bands),
      ...(one.cast ? { cast: castInWords(one.cast, bands) } : {}),
    };
    return { ...one, verdict, faults: one.faults.filter(({ code }) => !OF_BOUNDS.has(code)) };
  });
  for (const kit of session.kits)
    for (const { filters: pair, fault } of kitFaults(ratedFilters(filters, kit.filters, session), bands))
      for (const id of pair) filters.find((one) => one.filter === id)?.faults.push(fault);
  return { ...readings, filters };
}
