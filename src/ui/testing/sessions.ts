/** A small session as the stages get it, for tests of components. */
import { DEFAULT_BANDS } from '@/core/judging/rating/bands';
import { parseSession } from '@/core/session/parse';
import type { FilterReadings, Readings } from '@/core/session/readings';
import type { Session } from '@/core/session/schema';
import { beadsOf } from '../beads';
import type { SessionView } from '../sessionView';

const sha = (n: number) => n.toString(16).padStart(64, '0');

/** A chart shot bare, with ND4 and ND8, and bare again; more and other keys on top. */
export function smallSession(more: Record<string, unknown> = {}): Session {
  const take = (id: string, filter: string | null, shutter: string) => ({
    id,
    filter,
    scene: 'chart',
    files: [`${id}.png`],
    exposure: { shutter, iso: 100, fNumber: 2.8 },
  });
  return parseSession({
    format: 'aurora-glade-session',
    version: 1,
    title: 'Bench, first sitting',
    rig: { camera: 'Bench camera', response: { kind: 'srgb' }, bitDepth: 8, apertureFixed: true },
    kits: [
      {
        id: 'foundry',
        name: 'Foundry Set',
        filters: [
          { id: 'nd4', name: 'ND4', kind: 'nd', nominal: { ndFactor: 4 } },
          { id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } },
        ],
      },
    ],
    scenes: [{ id: 'chart', kind: 'chart' }],
    takes: [
      take('bare-1', null, '1/2000'),
      take('nd4', 'nd4', '1/500'),
      take('nd8', 'nd8', '1/250'),
      take('bare-2', null, '1/2000'),
    ],
    patches: [{ id: 'gray', scene: 'chart', role: 'neutral', rect: { x: 0.4, y: 0.4, width: 0.2, height: 0.2 } }],
    ...more,
  });
}

/** Readings of a filter that was measured plainly. */
export function plainReadings(filter: string, stops: number, more: Partial<FilterReadings> = {}): FilterReadings {
  const reading = (value: number, u95 = 0.01) => ({ value, u95 });
  const nominal = Math.round(stops);
  return {
    filter,
    kit: 'foundry',
    nominalStops: nominal,
    density: {
      stops: reading(stops),
      channels: { r: reading(stops), g: reading(stops), b: reading(stops) },
      error: reading(stops - nominal),
      actsLike: { ndFactor: 2 ** nominal },
      byScene: [],
      budget: [{ source: 'noise', u: 0.005, share: 1, degreesOfFreedom: null }],
    },
    cast: {
      a: reading(0.2),
      b: reading(-0.4),
      deltaE00: reading(0.5),
      direction: 'neutral',
      gains: { r: 1, g: 1, b: 1 },
      budget: [],
    },
    verdict: { label: 'true', sentence: 'As labelled.' },
    faults: [],
    ...more,
  } as FilterReadings;
}

export function readingsOf(filters: FilterReadings[], more: Partial<Readings> = {}): Readings {
  return {
    format: 'aurora-glade-readings',
    version: 1,
    generator: 'test',
    createdAt: '2026-05-14T12:00:00Z',
    session: 'Bench, first sitting',
    response: { kind: 'srgb', description: 'sRGB' },
    filters,
    faults: [],
    ...more,
  } as unknown as Readings;
}

export function viewOf(session: Session = smallSession(), more: Partial<SessionView> = {}): SessionView {
  const paths = session.takes.flatMap((take) => take.files);
  const files = Object.fromEntries(paths.map((path, i) => [path, sha(i + 1)]));
  const readings = more.readings ?? null;
  return {
    id: 'session-1',
    session,
    files,
    frames: Object.fromEntries(Object.values(files).map((hash) => [hash, { width: 1200, height: 800 }])),
    readings,
    stale: null,
    bands: DEFAULT_BANDS,
    beads: beadsOf(session, readings),
    ...more,
  };
}
