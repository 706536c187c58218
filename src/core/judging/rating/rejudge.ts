/** Readings under other bounds: figures stay, words follow. */
import type { FilterReadings, Readings } from '../../session/readings';
import type { Session } from '../../session/schema';
import { DEFAULT_BANDS, type Bands } from './bands';
import { withKitFaults } from './kitFaults';
import { judgeFilter } from './verdictByKind';
import { castInWords, judgeQualities } from './verdict';

/** Faults that rest on a bound. */
const OF_BOUNDS = new Set(['steps-merged', 'order-suspect']);

/** The readings with the words that these bounds give; the same object where they are the usual ones. */
export function rejudge(readings: Readings, session: Session, bands: Bands): Readings {
  if (bands === DEFAULT_BANDS) return readings;
  const filters = readings.filters.map((one): FilterReadings => {
    const definition = session.kits.flatMap((kit) => kit.filters).find((filter) => filter.id === one.filter);
    const takes = session.takes
      .filter((take) => take.filter === one.filter && take.role === 'measure')
      .reduce((sum, take) => sum + take.files.length, 0);
    const counted = typeof one.verdict.takes === 'number' ? one.verdict.takes : takes;
    const kind = definition?.kind ?? 'nd';
    const verdict = {
      ...one.verdict,
      repeatsToSettle: undefined,
      ...judgeFilter(one, { kind }, counted, bands),
      ...judgeQualities(one, kind, bands),
      ...(one.cast ? { cast: castInWords(one.cast, kind, bands) } : {}),
    };
    return { ...one, verdict, faults: one.faults.filter(({ code }) => !OF_BOUNDS.has(code)) };
  });
  return { ...readings, filters: withKitFaults(filters, session, bands) };
}
