/** Entry point of a thread that reads stills and reduces them where their pixels are. One picture at a time. */
import { parentPort } from 'node:worker_threads';
import { reduceWindow, type ReadPlan } from '@/core/gather';
import { proposePatches } from '@/core/regions';
import { UnreadablePicture } from '@/core/source';
import { readStill } from './stills';
import type { FromThread, ToThread } from './threads';

const port = parentPort!;
const say = (message: FromThread) => port.postMessage(message);
let planned: ((plan: ReadPlan) => void) | null = null;

port.on('message', (message: ToThread) => {
  if (message.kind === 'plan') planned?.(message.plan);
  else
    work(message).catch((error: Error) =>
      say(
        error instanceof UnreadablePicture
          ? { kind: 'unreadable', reason: error.reason }
          : { kind: 'failed', message: error.stack ?? error.message },
      ),
    );
});

async function work(message: Exclude<ToThread, { kind: 'plan' }>): Promise<void> {
  if (message.kind === 'propose') {
    const { facts, windows } = await readStill(message.path, message.name, ({ width, height }) => [
      { x: 0, y: 0, width, height },
    ]);
    const { tables, luminance } = message.decodings[facts.bitDepth === 16 ? 1 : 0];
    say({ kind: 'proposed', proposals: proposePatches(message.scene, windows[0], tables, luminance) });
    return;
  }
  let plan: ReadPlan | null = null;
  const { facts, windows } = await readStill(message.path, message.name, async (found, preview) => {
    say({ kind: 'opened', facts: found, preview });
    plan = await new Promise<ReadPlan>((resolve) => (planned = resolve));
    return plan.requests.map((request) => request.pixels);
  });
  const { requests, decoding } = plan!;
  say({
    kind: 'reduced',
    reduced: windows.map((window, i) => reduceWindow(window, requests[i], facts.width, decoding)),
  });
}
