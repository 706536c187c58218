/** Which sample of a filter a sitting was of: by its serial number, and by when it was replaced. */
import { filterEventSchema, type FilterEvent } from '../../sitting/kits/keptKit';
import type { KitSitting } from '../ranking/figures';

type Definition = KitSitting['kit']['filters'][number];

/** A filter's serial number as the sitting's kit tells it; `null` where it doesn't. Kits of session files hold whatever was written there. */
export function serialOf(definition: Definition | undefined): string | null {
  const told = (definition as { serial?: unknown } | undefined)?.serial;
  return typeof told === 'string' && told.trim() !== '' ? told.trim() : null;
}

/** What its kit tells to have happened to a filter, oldest first, each once. */
export function eventsOf(sittings: readonly KitSitting[], filter: string): (FilterEvent & { day: number })[] {
  const definitions = sittings.flatMap(({ kit }) => kit.filters.filter(({ id }) => id === filter));
  const told = definitions.flatMap((one) => {
    const events = (one as { events?: unknown }).events;
    return Array.isArray(events) ? (events as unknown[]) : [];
  });
  const events = told.flatMap((one) => filterEventSchema.safeParse(one).data ?? []);
  const once = new Map(events.map((one) => [`${one.date} ${one.what}`, one]));
  return [...once.values()].map((one) => ({ ...one, day: Date.parse(one.date) })).sort((a, b) => a.day - b.day);
}

/** Days on which a filter was replaced. */
export const replacedOn = (sittings: readonly KitSitting[], filter: string): number[] =>
  eventsOf(sittings, filter).flatMap(({ what, day }) => (what === 'replaced' ? [day] : []));
