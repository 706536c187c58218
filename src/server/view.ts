/** A session as the stages get it. */
import { notFound } from 'next/navigation';
import { cache } from 'react';
import { rejudge } from '@/core/judging/rating/rejudge';
import { bandsInForce, staleness } from './judged';
import { beadsOf } from '@/ui/beads';
import type { SessionView } from '@/ui/sessionView';
import { framesOf, inputHash, latestReadings, loadSession, NoSuchSession } from '@/store';

export const loadView = cache(async (id: string): Promise<SessionView> => {
  try {
    const loaded = await loadSession(id);
    const [stored, bands] = await Promise.all([latestReadings(id), bandsInForce()]);
    const readings = stored && rejudge(stored.readings, loaded.session, bands);
    return {
      id,
      session: loaded.session,
      files: Object.fromEntries(loaded.files),
      frames: await framesOf([...loaded.files.values()]),
      readings,
      bands,
      stale: stored === null ? null : staleness(stored, inputHash(loaded)),
      beads: beadsOf(loaded.session, readings),
    };
  } catch (error) {
    if (error instanceof NoSuchSession) notFound();
    throw error;
  }
});
