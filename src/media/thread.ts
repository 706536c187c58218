/** Entry point of a thread that opens stills and frames and reduces them where their pixels are. One picture at a time. */
import { parentPort } from 'node:worker_threads';
import type { Reduced } from '@/core/reading/asked';
import { UnreadablePicture } from '@/core/reading/facts';
import { reduceOpened } from '@/core/reading/opened';
import { readWindows, type OpenPicture } from '@/core/reading/source';
import { proposePatches } from '@/core/sitting/regions/propose';
import { frameOf, openFrame } from './clips/frames';
import { openStill } from './stills';
import type { FromThread, ToThread } from './threads';

const port = parentPort!;
const say = (message: FromThread, handed: ArrayBuffer[] = []) => port.postMessage(message, handed);
let open: OpenPicture | null = null;
let stopping = new AbortController();

port.on('message', (message: ToThread) => {
  if (message.kind === 'stop') return stopping.abort();
  work(message).catch((error: NodeJS.ErrnoException) =>
    say(
      error instanceof UnreadablePicture
        ? { kind: 'unreadable', reason: error.reason }
        : { kind: 'failed', message: error.stack ?? error.message, code: error.code },
    ),
  );
});

async function work(message: Exclude<ToThread, { kind: 'stop' }>): Promise<void> {
  switch (message.kind) {
    case 'open': {
      stopping = new AbortController();
      const frame = frameOf(message.name);
      open = frame
        ? // Other threads decode beside this one.
          await openFrame(message.path, message.name, frame.moments, { signal: stopping.signal, threads: 1 })
        : await openStill(message.path, message.name, stopping.signal);
      return say({ kind: 'opened', facts: open.facts, preview: open.preview });
    }
    case 'reduce': {
      const reduced = await reduceOpened(open!, message.plan);
      return say({ kind: 'reduced', reduced }, reduced.flatMap(buffersOf));
    }
    case 'close':
      open?.close();
      open = null;
      return;
    case 'propose': {
      const { facts, windows } = await readWindows(openStill(message.path, message.name), ({ width, height }) => [
        { x: 0, y: 0, width, height },
      ]);
      const { tables, luminance } = message.decodings[facts.bitDepth === 16 ? 1 : 0];
      return say({ kind: 'proposed', proposals: proposePatches(message.scene, windows[0], tables, luminance) });
    }
  }
}

/** What a view holds goes over to whoever asked for it; a copy would stand here until it is swept away. */
function buffersOf({ view }: Reduced): ArrayBuffer[] {
  if (!view) return [];
  return [...view.light, view.bad, view.fine.data].map(({ buffer }) => buffer as ArrayBuffer);
}
