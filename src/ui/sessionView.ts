import type { Bands } from '@/core/judging/rating/bands';
import type { Readings } from '@/core/session/readings';
import type { Session } from '@/core/session/schema';
import type { LadderBead } from './ladder/layout';

/** Why figures are not what they would be now. */
export type Stale = 'changed' | 'older version' | null;

/** What a stage gets of a session. */
export interface SessionView {
  id: string;
  session: Session;
  /** SHA-256 by path. */
  files: Record<string, string>;
  /** Upright size of the pictures in pixels, by SHA-256; unreadable files are missing. */
  frames: Record<string, { width: number; height: number }>;
  readings: Readings | null;
  /** Set when something the readings depend on has changed since, or an older version of the program made them. */
  stale: Stale;
  /** Bounds of the words. */
  bands: Bands;
  beads: LadderBead[];
}
