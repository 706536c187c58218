/** Entry point of a thread that reads stills and frames and reduces them where their pixels are. One picture at a time. */
import { parentPort } from 'node:worker_threads';
import { reduceWindow, type Reduced } from '@/core/reading/reduce';
import type { ReadPlan } from '@/core/reading/readReduced';
import { proposePatches } from '@/core/sitting/regions/propose';
import type { Preview } from '@/core/laying/preview';
import { UnreadablePicture, type PictureFacts, type WindowRect } from '@/core/reading/source';
import { frameOf, readFrame } from './clips/frames';
import { readStill } from './stills';
import type { FromThread, ToThread } from './threads';

const port = parentPort!;
const say = (message: FromThread, handed: ArrayBuffer[] = []) => port.postMessage(message, handed);
let planned: ((plan: ReadPlan) => void) | null = null;
let stopping = new AbortController();

port.on('message', (message: ToThread) => {
  if (message.kind === 'plan') planned?.(message.plan);
  else if (message.kind === 'stop') stopping.abort();
  else {
    stopping = new AbortController();
    work(message).catch((error: Error) =>
      say(
        error instanceof UnreadablePicture
          ? { kind: 'unreadable', reason: error.reason }
          : { kind: 'failed', message: error.stack ?? error.message },
      ),
    );
  }
});

async function work(message: Exclude<ToThread, { kind: 'plan' | 'stop' }>): Promise<void> {
  if (message.kind === 'propose') {
    const { facts, windows } = await readStill(message.path, message.name, ({ width, height }) => [
      { x: 0, y: 0, width, height },
    ]);
    const { tables, luminance } = message.decodings[facts.bitDepth === 16 ? 1 : 0];
    say({ kind: 'proposed', proposals: proposePatches(message.scene, windows[0], tables, luminance) });
    return;
  }
  let plan: ReadPlan | null = null;
  const choose = async (found: PictureFacts, preview: Preview | null): Promise<WindowRect[]> => {
    say({ kind: 'opened', facts: found, preview });
    plan = await new Promise<ReadPlan>((resolve) => (planned = resolve));
    return plan.requests.map((request) => request.pixels);
  };
  const { path, name } = message;
  const frame = frameOf(name);
  const { facts, windows } = frame
    ? // Other threads decode beside this one.
      await readFrame(path, name, frame.moments, choose, { signal: stopping.signal, threads: 1 })
    : await readStill(path, name, choose);
  const { requests, decoding } = plan!;
  const reduced = windows.map((window, i) => reduceWindow(window, requests[i], facts.width, decoding));
  say({ kind: 'reduced', reduced }, reduced.flatMap(buffersOf));
}

/** What a view holds goes over to whoever asked for it; a copy would stand here until it is swept away. */
function buffersOf({ view }: Reduced): ArrayBuffer[] {
  if (!view) return [];
  return [...view.light, view.bad, view.fine.data].map(({ buffer }) => buffer as ArrayBuffer);
}
