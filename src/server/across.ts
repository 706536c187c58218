/** Figures over many sessions: for ranking, pick and reports. */
import pLimit from 'p-limit';
import { cache } from 'react';
import { rejudge } from '@/core/judging/rating/rejudge';
import type { FilterReadings, Readings } from '@/core/session/readings';
import type { Kit, Session } from '@/core/session/schema';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import { sittingsOf, softestOf, type KitSitting } from '@/core/judging/ranking/figures';
import { allKits, inputHash, latestReadings, listKits, loadSession, measuredIds, nullIfGone } from '@/store';
import type { Stale } from '@/ui/sessionView';
import { bandsInForce, staleness } from './judged';

/** Measured sessions that are looked at for figures, newest first: a page carries them all. */
const MOST_SESSIONS = 200;

export interface MeasuredSession {
  id: string;
  title: string;
  measuredAt: string;
  /** The day it was shot, milliseconds since 1970; `null` where neither the session nor its pictures say. */
  day: number | null;
  stale: Stale;
  sittings: KitSitting[];
}

export interface WholeSession {
  id: string;
  session: Session;
  /** SHA-256 by path. */
  files: ReadonlyMap<string, string>;
  readings: Readings;
  stale: Stale;
  readingId: number;
}

/** Without curves and maps: a few kilobytes each. */
const remembered = new Map<string, { key: string; measured: MeasuredSession }>();
/** Sessions read whole beside each other. */
const AT_ONCE = 4;
const MOST_REMEMBERED = 2 * MOST_SESSIONS;

/** Kits of the shelf, asked for once a request. */
const shelfKits = cache(allKits);

/** A session with its newest figures under the bounds in force; `null` where it isn't measured. Throws NoSuchSession. */
export async function wholeSession(id: string): Promise<WholeSession | null> {
  const [loaded, stored, bands, shelf] = await Promise.all([
    loadSession(id),
    latestReadings(id),
    bandsInForce(),
    shelfKits(),
  ]);
  if (!stored) return null;
  return {
    id,
    session: { ...loaded.session, kits: loaded.session.kits.map((kit) => withShelf(kit, shelf)) },
    files: loaded.files,
    readings: rejudge(stored.readings, loaded.session, bands),
    stale: staleness(stored, inputHash(loaded)),
    readingId: stored.id,
  };
}

/**
 * A session's kit with what its namesake on the shelf says of price, handling, events and how it was obtained, where the session's own copy is
 * silent: such things are often noted after a sitting.
 */
export function withShelf(kit: Kit, shelf: readonly KeptKit[]): Kit {
  const kept = shelf.find((one) => one.id === kit.id && one.name === kit.name);
  if (!kept) return kit;
  return {
    ...kit,
    price: kit.price ?? kept.price,
    obtained: (kit as { obtained?: unknown }).obtained ?? kept.obtained,
    filters: kit.filters.map((filter) => {
      const other = kept.filters.find((one) => one.id === filter.id);
      const told = Object.entries({ handling: other?.handling, events: other?.events }).filter(([, one]) => one);
      return { ...Object.fromEntries(told), ...filter };
    }),
  };
}

export interface Library {
  /** Newest first, without curves and maps. */
  sessions: MeasuredSession[];
  /** How many of the newest are looked at, where there are more. */
  lookedAt: number | null;
}

/** What was measured in the newest sessions. */
export async function measuredSessions(): Promise<Library> {
  const [found, bands, shelf] = await Promise.all([measuredIds(MOST_SESSIONS + 1), bandsInForce(), listKits()]);
  const shelfAt = Math.max(0, ...shelf.map((one) => one.updatedAt.getTime()));
  const room = pLimit(AT_ONCE);
  const measured = await Promise.all(
    found.slice(0, MOST_SESSIONS).map(({ id, updatedAt, readingId }) =>
      room(async () => {
        const key = `${updatedAt.getTime()} ${readingId} ${shelfAt} ${JSON.stringify(bands)}`;
        const known = remembered.get(id);
        if (known?.key === key) return known.measured;
        // One that was put away since the list was made.
        const whole = await wholeSession(id).catch(nullIfGone);
        if (!whole) return null;
        const light = measuredOf(whole);
        remembered.delete(id);
        remembered.set(id, { key, measured: light });
        for (const old of remembered.keys()) {
          if (remembered.size <= MOST_REMEMBERED) break;
          remembered.delete(old);
        }
        return light;
      }),
    ),
  );
  return {
    sessions: measured.filter((one) => one !== null),
    lookedAt: found.length > MOST_SESSIONS ? MOST_SESSIONS : null,
  };
}

export function measuredOf({ id, session, readings, stale }: WholeSession): MeasuredSession {
  return {
    id,
    title: session.title,
    measuredAt: readings.createdAt,
    day: dayOf(session),
    stale,
    sittings: sittingsOf(id, session, readings.filters.map(withoutCurves)),
  };
}

/** The day that a session names, or that its first picture was taken on. */
function dayOf({ date, takes }: Session): number | null {
  const said = [date, takes.find(({ capturedAt }) => capturedAt)?.capturedAt];
  // A file's date is any text: of "14 May 2026" the first ten letters would be a day of the year 202.
  const days = said.flatMap((one) => (one && /^\d{4}-\d{2}-\d{2}/.test(one) ? [Date.parse(one.slice(0, 10))] : []));
  return days.find(Number.isFinite) ?? null;
}

/** What ranking and picking need of a filter's figures. */
function withoutCurves(one: FilterReadings): FilterReadings {
  const softest = softestOf(one);
  return {
    filter: one.filter,
    kit: one.kit,
    nominalStops: one.nominalStops,
    verdict: { label: one.verdict.label, sentence: one.verdict.sentence },
    faults: [],
    ...(one.density && {
      density: { ...one.density, byScene: [], budget: [], sensitivities: undefined, advice: undefined },
    }),
    ...(one.cast && { cast: { ...one.cast, budget: [] } }),
    ...(softest && {
      sharpness: [
        {
          ...one.sharpness!.find((edge) => edge.retained === softest)!,
          curves: { bare: [], filtered: [] },
          budget: [],
        },
      ],
    }),
    ...(one.shading?.worst && {
      shading: {
        ...one.shading,
        profile: [],
        budget: [],
        map: { columns: 0, rows: 0, stops: [] },
        lens: { columns: 0, rows: 0, stops: [] },
      },
    }),
    ...(one.polarizer?.extinctionStops && { polarizer: { extinctionStops: one.polarizer.extinctionStops } }),
    ...(one.variable && { variable: one.variable }),
  };
}
