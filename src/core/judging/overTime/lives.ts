/** The lives of a kit's filters: every sitting of each on one line, quality by quality. */
import type { FilterReadings, Reading } from '../../session/readings';
import { kitKey, softestOf, type KitSitting } from '../ranking/figures';
import type { FilterEvent } from '../../sitting/kits/keptKit';
import { mean, median } from '../../formulas/statistics/averages';
import { changeOf, meanOf, stepAt, withoutBench, type Change, type Moment } from './change';
import { eventsOf, serialOf } from './serials';

/** A sitting and the day of it; sittings whose day isn't known have no place on the line. */
export interface DatedSitting extends KitSitting {
  /** Milliseconds since 1970, UTC; `null` where the session has no date. */
  day: number | null;
}

export interface LifePoint extends Moment {
  session: string;
  title: string;
  day: number;
  /** Its serial number, where the sitting's kit tells one. */
  serial: string | null;
}

/** What is followed: its unit, and a change that somebody would notice. */
export const FOLLOWED = {
  strength: { unit: 'stops', noticeable: 0.1 },
  'warm/cool (b*)': { unit: 'b*', noticeable: 1 },
  'green/magenta (a*)': { unit: 'a*', noticeable: 1 },
  'sharpness kept': { unit: 'of 1', noticeable: 0.05 },
  'darkest corner': { unit: 'stops', noticeable: 0.1 },
} as const;
export type Followed = keyof typeof FOLLOWED;

const PICKED: Record<Followed, (one: FilterReadings) => Reading | undefined> = {
  strength: ({ density }) => density?.stops,
  'warm/cool (b*)': ({ cast }) => cast?.b,
  'green/magenta (a*)': ({ cast }) => cast?.a,
  'sharpness kept': softestOf,
  'darkest corner': ({ shading }) => shading?.worst,
};

/** A filter's figure of one quality; absent where it wasn't measured or is withheld. */
export const figureOf = (one: FilterReadings, quality: Followed): Reading | undefined => PICKED[quality](one);

/** What happened to a filter, and what its figure jumped by then; `null` where no sitting stands on one side. */
export interface LifeEvent extends FilterEvent {
  day: number;
  step: Reading | null;
}

export interface FilterLife {
  filter: string;
  name: string;
  /** Of the sample that is there now: since it was last replaced, and of the newest serial number. */
  points: LifePoint[];
  /** Sittings of other samples. */
  earlier: number;
  events: LifeEvent[];
  /** `null` where fewer than two days were measured. */
  change: Change | null;
}

export interface KitLives {
  /** Of the kit's id and name together. */
  id: string;
  kit: string;
  name: string;
  filters: FilterLife[];
  /** Sessions that can't stand on the line, since they have no date. */
  undated: { id: string; title: string }[];
}

const YEAR_MS = 365.25 * 24 * 3600 * 1000;

/** Points of one filter, oldest first. */
function pointsOf(sittings: readonly DatedSitting[], filter: string, quality: Followed): LifePoint[] {
  return sittings
    .flatMap(({ session, title, day, kit, readings }): LifePoint[] => {
      const found = readings.find((one) => one.filter === filter);
      const reading = found && figureOf(found, quality);
      const serial = serialOf(kit.filters.find(({ id }) => id === filter));
      return reading && day !== null ? [{ session, title, day, at: day / YEAR_MS, serial, reading }] : [];
    })
    .sort((a, b) => a.day - b.day);
}

/** In place of a control filter: what most filters of a kit did in a sitting. */
export const TOGETHER = '';
/** Of fewer filters no one can say which of them changed. */
const LEAST_TOGETHER = 3;

/**
 * What most filters of a kit moved by, sitting by sitting: the median of their distances from their own means. Beside one that fades to one
 * side a median leans to that side; so what changes most beside it is left out, one after the other while two are left, and the mean of the
 * others taken. Its ± is that of one of them: in one sitting they share bare. Empty where no sitting has three filters.
 */
export function togetherOf(filters: readonly Pick<FilterLife, 'points'>[]): LifePoint[] {
  let together = overSittings(filters, LEAST_TOGETHER, median);
  let still = filters;
  while (still.length > 2) {
    const moves = new Map(together.map((one) => [one.session, one]));
    const sizes = still.map(({ points }) => {
      const over = changeOf(withoutBench(points, moves), Infinity)?.over;
      return over ? Math.abs(over.value) / over.u95 : 0;
    });
    const most = sizes.indexOf(Math.max(...sizes));
    if (sizes[most] <= 1) break;
    still = still.filter((_, i) => i !== most);
    together = overSittings(still, 2, mean);
  }
  return together;
}

function overSittings(
  filters: readonly Pick<FilterLife, 'points'>[],
  least: number,
  middle: (values: number[]) => number,
): LifePoint[] {
  const off = filters.flatMap(({ points }) => {
    const usual = meanOf(points);
    return usual ? points.map((one) => ({ ...one, value: one.reading.value - usual.value })) : [];
  });
  return [...new Set(off.map(({ session }) => session))].flatMap((session): LifePoint[] => {
    const here = off.filter((one) => one.session === session);
    if (here.length < least) return [];
    const { title, day, at } = here[0];
    const u95 = median(here.map(({ reading }) => reading.u95));
    return [{ session, title, day, at, serial: null, reading: { value: middle(here.map(({ value }) => value)), u95 } }];
  });
}

/** What the bench is judged by: one filter's life, or what most filters did together; `null` where there is no such. */
export function controlOf({ filters }: KitLives, control: string): FilterLife | null {
  if (control !== TOGETHER) return filters.find(({ filter }) => filter === control) ?? null;
  const points = togetherOf(filters).sort((a, b) => a.day - b.day);
  if (points.length === 0) return null;
  return { filter: TOGETHER, name: 'all filters together', points, earlier: 0, events: [], change: null };
}

/**
 * Kits that were measured, each with its filters' lives in one quality; those with the most sittings first.
 *
 * @param bench what it did by itself, by sitting: taken out of every other filter's figures ({@link controlOf})
 */
export function livesOf(
  sittings: readonly DatedSitting[],
  quality: Followed,
  bench: FilterLife | null = null,
): KitLives[] {
  const moves = bench && new Map(bench.points.map((one) => [one.session, one]));
  const keys = [...new Set(sittings.map(({ kit }) => kitKey(kit)))];
  return keys
    .map((id): KitLives => {
      const own = sittings.filter(({ kit }) => kitKey(kit) === id);
      const filters = new Map(
        own.flatMap(({ kit }) => kit.filters.map((one) => [one.id, one.name ?? one.id] as const)),
      );
      return {
        id,
        kit: own[0].kit.id,
        name: own[0].kit.name ?? own[0].kit.id,
        undated: own.flatMap(({ session, title, day }) => (day === null ? [{ id: session, title }] : [])),
        filters: [...filters].flatMap(([filter, name]): FilterLife[] => {
          const all = pointsOf(own, filter, quality);
          const told = eventsOf(own, filter);
          const replaced = Math.max(-Infinity, ...told.filter(({ what }) => what === 'replaced').map(({ day }) => day));
          const serial = all.findLast((one) => one.serial !== null)?.serial;
          // Where a sitting doesn't tell, it is taken to be of the sample that is there now.
          const since = all.filter((one) => one.day >= replaced && (one.serial === null || one.serial === serial));
          const points = moves && filter !== bench.filter ? withoutBench(since, moves) : since;
          if (points.length === 0) return [];
          const change = changeOf(points, FOLLOWED[quality].noticeable);
          const events = told
            .filter(({ what, day }) => what !== 'replaced' && day >= replaced)
            .map((one) => ({ ...one, step: stepAt(points, one.day / YEAR_MS, change?.birgeRatio ?? 0) }));
          return [{ filter, name, points, earlier: all.length - since.length, events, change }];
        }),
      };
    })
    .sort((a, b) => most(b) - most(a));
}

const most = ({ filters }: KitLives) => Math.max(0, ...filters.map(({ points }) => points.length));
