/** What a filter does to an aircraft's take-off mass. */
import type { KeptFilter } from './keptKit';

export interface Aircraft {
  /** Ready to fly, with its battery, without a filter. */
  massGrams: number;
  /** The limit of the class it flies in, as local rules and the maker say; nobody but the pilot knows which applies. */
  limitGrams: number;
}

export interface MassFinding {
  /** Filters whose mass isn't known. */
  unknown: string[];
  /** Filters that lift the aircraft over the limit, with by how much. */
  over: { filter: string; grams: number }[];
  /** Grams left under the limit with the heaviest filter whose mass is known; `null` where none is. */
  left: number | null;
}

/** Checks each filter alone on the aircraft against the class limit. */
export function checkMass(filters: readonly KeptFilter[], { massGrams, limitGrams }: Aircraft): MassFinding {
  const known = filters.flatMap(({ id, massGrams: own }) =>
    own === undefined ? [] : [{ id, total: massGrams + own }],
  );
  const heaviest = Math.max(...known.map((one) => one.total));
  return {
    unknown: filters.filter((one) => one.massGrams === undefined).map((one) => one.id),
    over: known
      .filter((one) => one.total > limitGrams)
      .map((one) => ({ filter: one.id, grams: one.total - limitGrams })),
    left: known.length === 0 ? null : limitGrams - heaviest,
  };
}
