/** A session as the stages get it. */
import { notFound } from 'next/navigation';
import { cache } from 'react';
import { beadsOf } from '@/ui/beads';
import type { SessionView } from '@/ui/sessionView';
import { framesOf, inputHash, latestReadings, loadSession, NoSuchSession } from '@/store';

export const loadView = cache(async (id: string): Promise<SessionView> => {
  try {
    const loaded = await loadSession(id);
    const stored = await latestReadings(id);
    return {
      id,
      session: loaded.session,
      files: Object.fromEntries(loaded.files),
      frames: await framesOf([...loaded.files.values()]),
      readings: stored?.readings ?? null,
      stale: stored !== null && stored.inputHash !== inputHash(loaded),
      beads: beadsOf(loaded.session, stored?.readings ?? null),
    };
  } catch (error) {
    if (error instanceof NoSuchSession) notFound();
    throw error;
  }
});
