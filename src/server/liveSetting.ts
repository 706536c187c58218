/** Which sitting is looked at while it goes on, and which files are its own. */
import { z } from 'zod';
import { listInbox, readSetting, type InboxFile } from '@/store';
import { idSchema } from './asked';

/** ± that may be asked for, stops. */
export const wantedSchema = z.number().min(0.001).max(1);

const liveSchema = z.object({
  session: idSchema,
  wanted: wantedSchema,
  /** Files that had arrived before aren't this sitting's. */
  after: z.number().int(),
  since: z.string(),
});
export type LiveSitting = z.infer<typeof liveSchema>;

/** The sitting that goes on; `null` where none does. */
export async function liveSitting(): Promise<LiveSitting | null> {
  return liveSchema.safeParse(await readSetting('live')).data ?? null;
}

/** Files that a watched folder brought since the sitting began and that lie on no take yet; what is dropped on New session is that page's. */
export async function waitingFor({ after }: Pick<LiveSitting, 'after'>): Promise<InboxFile[]> {
  return (await listInbox()).filter((one) => one.id > after && one.source === 'watch');
}
