import type { Readings, Session } from '@/core/session';
import type { LadderBead } from './ladder/layout';

/** What a stage gets of a session. */
export interface SessionView {
  id: string;
  session: Session;
  /** SHA-256 by path. */
  files: Record<string, string>;
  /** Upright size of the pictures in pixels, by SHA-256; unreadable files are missing. */
  frames: Record<string, { width: number; height: number }>;
  readings: Readings | null;
  /** True when something the readings depend on has changed since. */
  stale: boolean;
  beads: LadderBead[];
}
