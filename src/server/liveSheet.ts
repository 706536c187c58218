/** A sitting that goes on, as its run sheet shows it and adds to it: short, for a phone in the field. */
import type { Alarm } from '@/core/sitting/live/alarm';
import { titleOf } from '@/stages/live/words';
import { addToInbox, rendition, takeUpload } from '@/store';
import { RequestError } from './http';
import { look } from './live';
import { liveSitting } from './liveSetting';

export interface LiveSheet {
  /** Whether files are laid on this session now. */
  on: boolean;
  /** How it stands, in one line. */
  title: string;
  /** What is to be done before the next take. */
  alarms: Pick<Alarm, 'kind' | 'takes' | 'advice'>[];
  /** What arrived and lies on no take, with the reason. */
  waits: string[];
  measuring: boolean;
  /** Takes whose pictures are there: they were shot, whatever was tapped. */
  laid: string[];
}

/** How a sitting stands. Throws NoSuchSession. */
export async function liveSheet(id: string): Promise<LiveSheet> {
  if ((await liveSitting())?.session !== id)
    return { on: false, title: '', alarms: [], waits: [], measuring: false, laid: [] };
  const { on, view, wanted, unlaid, measuring, laid } = await look(id);
  return {
    on,
    title: titleOf(view, wanted),
    alarms: view.alarms.filter(({ again }) => again).map(({ kind, takes, advice }) => ({ kind, takes, advice })),
    waits: unlaid.map(({ path, why }) => `${path} waits: ${why}`),
    measuring: measuring !== null && ['queued', 'running'].includes(measuring.state),
    laid,
  };
}

/** Takes a complete upload in for a sitting. Throws RequestError where that doesn't go on now, MediaError where it can't be kept. */
export async function takeLivePicture(id: string, upload: string): Promise<{ sha256: string }> {
  if ((await liveSitting())?.session !== id)
    throw new RequestError(
      409,
      'This sitting isn’t looked at now: press Start on its page Live, then send the pictures again.',
    );
  const { name, sha256, facts } = await takeUpload(upload);
  await addToInbox(name, sha256, 'watch');
  // The small view is made in the background: it is what is looked at first.
  if (facts.readable) rendition(sha256, 320, { kind: 'file' }).catch(() => undefined);
  return { sha256 };
}
