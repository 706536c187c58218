/** What waits for a person: files and measurements of all sessions, takes of those sittings in a list that were begun. */
import { waitingJobs } from '@/jobs/queue';
import type { HomeSession } from '@/stages/home/listed';
import type { Waiting } from '@/stages/home/waiting';
import { countInbox } from '@/store';

/** More of a kind are a list of their own. */
const MOST = 5;

/** @param sessions as they are listed, newest first */
export async function whatWaits(sessions: readonly HomeSession[]): Promise<Waiting[]> {
  const [files, jobs] = await Promise.all([countInbox(), waitingJobs(MOST)]);
  const begun = sessions.filter(({ plan }) => plan && plan.done + plan.skipped > 0);
  return [
    ...(files > 0 ? [{ kind: 'files' as const, count: files }] : []),
    ...jobs.map(({ sessionId, title, state, progress: { done, total } }): Waiting =>
      state === 'failed'
        ? { kind: 'failed', session: sessionId, title }
        : { kind: 'job', session: sessionId, title, done, total },
    ),
    ...begun.slice(0, MOST).map(({ id, title, plan }): Waiting => {
      return plan!.left > 0
        ? { kind: 'taps', session: id, title, left: plan!.left }
        : { kind: 'footage', session: id, title };
    }),
  ];
}
