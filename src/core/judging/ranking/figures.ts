/** From sessions' readings to kits that can be compared. */
import { mean } from '../../formulas/statistics/averages';
import { HANDLING } from '../../sitting/kits/keptKit';
import type { FilterReadings, Reading } from '../../session/readings';
import { isRated } from '../../session/notation';
import type { Kit, Session } from '../../session/schema';
import { combineSittings, type Combined, type Sitting } from './sittings';
import type { RankedFilter, RankedKit } from './kitAsSet';

/** One sitting of a kit. */
export interface KitSitting {
  session: string;
  title: string;
  kit: Kit;
  readings: readonly FilterReadings[];
}

/** What several sittings of a filter say of one quality, where they were combined. */
export interface CombinedNote {
  filter: string;
  what: string;
  combined: Combined;
}

export interface AcrossKit extends RankedKit {
  sessions: { id: string; title: string }[];
  notes: CombinedNote[];
}

/** Sittings of one kit have its id and its name. */
export const kitKey = ({ id, name }: Pick<Kit, 'id' | 'name'>) => `${id} ${name ?? ''}`;

/** A sitting of one filter that the reviewer has left out of the means. */
export const sittingKey = (session: string, filter: string) => `${session} ${filter}`;

/** The sittings that a measured session holds, one a kit. */
export function sittingsOf(
  session: string,
  { title, kits }: Pick<Session, 'title' | 'kits'>,
  readings: readonly FilterReadings[],
): KitSitting[] {
  return kits.map((kit) => ({
    session,
    title,
    kit,
    readings: readings.filter((one) => kit.filters.some((filter) => filter.id === one.filter)),
  }));
}

/**
 * Sittings to go by: figures that no longer stand only count for kits that have no others, so that the two are never mixed.
 *
 * @returns the sittings, and the kits (by {@link kitKey}) whose figures stand
 */
export function soundSittings(sessions: readonly { stale: unknown; sittings: readonly KitSitting[] }[]): {
  sittings: KitSitting[];
  sound: ReadonlySet<string>;
} {
  const of = (stale: boolean) =>
    sessions.filter((one) => (one.stale !== null) === stale).flatMap((one) => one.sittings);
  const standing = of(false);
  const sound = new Set(standing.map((one) => kitKey(one.kit)));
  return { sittings: [...standing, ...of(true).filter((one) => !sound.has(kitKey(one.kit)))], sound };
}

/** The softest edge's sharpness kept. */
export const softestOf = ({ sharpness }: Pick<FilterReadings, 'sharpness'>): Reading | undefined =>
  [...(sharpness ?? [])].sort((a, b) => a.retained.value - b.retained.value)[0]?.retained;

/**
 * Kits over all their sittings, those without a rated filter left out; a filter that was measured several times gets the combined
 * figure.
 *
 * @param leftOut sittings of filters that don't count, by {@link sittingKey}
 */
export function kitsAcross(sittings: readonly KitSitting[], leftOut: ReadonlySet<string> = new Set()): AcrossKit[] {
  const byKit = new Map<string, KitSitting[]>();
  for (const sitting of sittings) {
    const key = kitKey(sitting.kit);
    byKit.set(key, [...(byKit.get(key) ?? []), sitting]);
  }
  const kits = [...byKit].map(([id, own]): AcrossKit => {
    const notes: CombinedNote[] = [];
    const last = own[own.length - 1].kit;
    const ids = [...new Set(own.flatMap(({ kit }) => kit.filters.filter(isRated).map((one) => one.id)))];
    const filters = ids.flatMap((filter): RankedFilter[] => {
      const definition = own.flatMap(({ kit }) => kit.filters.find((one) => one.id === filter) ?? []).at(-1)!;
      const name = definition.name ?? filter;
      const counted = own
        .filter(({ session }) => !leftOut.has(sittingKey(session, filter)))
        .flatMap(({ session, readings }) => {
          const found = readings.find((one) => one.filter === filter);
          return found ? [{ session, found }] : [];
        });
      const over = (what: string, pick: (one: FilterReadings) => Reading | undefined): Reading | undefined => {
        const parts = counted.flatMap(({ session, found }): Sitting[] => {
          const reading = pick(found);
          return reading ? [{ session, reading }] : [];
        });
        if (parts.length === 0) return undefined;
        if (parts.length === 1) return parts[0].reading;
        const combined = combineSittings(parts);
        notes.push({ filter: name, what, combined });
        return { value: combined.value, u95: combined.u95 };
      };
      const veil = Math.max(0, ...own.flatMap(({ readings }) => veilOf(readings.find((one) => one.filter === filter))));
      const nominal = counted[0]?.found.nominalStops ?? null;
      const [a, b] = [over('cast a*', (one) => one.cast?.a), over('cast b*', (one) => one.cast?.b)];
      return [
        {
          filter,
          name,
          nominal,
          stops: over('strength', (one) => withVeil(one.density?.stops, one, veil)),
          error: over('error', (one) => withVeil(one.density?.error, one, veil)),
          ...(a && b ? { cast: { a, b, gains: gainsOf(counted.map(({ found }) => found)) } } : {}),
          kept: over('sharpness', softestOf),
          corner: over('corners', (one) => one.shading?.worst),
          extinction: over('extinction', (one) => one.polarizer?.extinctionStops),
          handling: handlingOf(definition as { handling?: unknown }),
        },
      ];
    });
    const price =
      last.price?.amount !== undefined ? { amount: last.price.amount, currency: last.price.currency } : undefined;
    return {
      id,
      name: last.name ?? last.id,
      filters,
      ...(price ? { price } : {}),
      sessions: own.map(({ session, title }) => ({ id: session, title })),
      // An error is a strength less a label: it would be told twice.
      notes: notes.filter(({ what }) => what !== 'error'),
    };
  });
  return kits.filter(({ filters }) => filters.length > 0);
}

/** The veil that a sitting found, as a share; none where flare wasn't measured. */
const veilOf = (found: FilterReadings | undefined): number[] =>
  found?.flare ? [Math.max(0, found.flare.veilPercent.value + found.flare.veilPercent.u95) / 100] : [];

/**
 * A strength with what the filter's veil may do to it. Over an ordinary scene a filter scatters light of the whole view into every place,
 * a bench's dark surroundings hardly any: it takes less there, by up to the veil that a lamp beside the frame showed.
 */
function withVeil(reading: Reading | undefined, { density }: FilterReadings, veil: number): Reading | undefined {
  const ordinary = density?.byScene.length && density.byScene.every(({ role }) => role === 'frame');
  return reading && ordinary && veil > 0 ? { ...reading, u95: Math.hypot(reading.u95, Math.log2(1 + veil)) } : reading;
}

function gainsOf(found: readonly FilterReadings[]): { r: number; g: number; b: number } {
  const casts = found.flatMap(({ cast }) => (cast ? [cast.gains] : []));
  const common = (channel: 'r' | 'g' | 'b') => 2 ** mean(casts.map((gains) => Math.log2(gains[channel])));
  return { r: common('r'), g: common('g'), b: common('b') };
}

function handlingOf({ handling }: { handling?: unknown }): RankedFilter['handling'] {
  if (typeof handling !== 'object' || handling === null) return undefined;
  const answers = handling as Record<string, unknown>;
  const told = HANDLING.filter(({ key }) => typeof answers[key] === 'boolean');
  return told.length === 0
    ? undefined
    : { answered: told.length, good: told.filter(({ key, good }) => answers[key] === good).length };
}
