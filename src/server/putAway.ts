/** What was put away, as its page shows it. */
import { listPutAway, type PutAwayKind } from '@/store';

export interface PutAwayEntry {
  kind: PutAwayKind;
  id: string;
  name: string;
  /** ISO 8601. */
  at: string;
  /** `null` where it stays. */
  until: string | null;
}

export async function putAwayView(): Promise<PutAwayEntry[]> {
  return (await listPutAway()).map(({ at, until, ...one }) => ({
    ...one,
    at: at.toISOString(),
    until: until?.toISOString() ?? null,
  }));
}
