import { latestJob } from '@/jobs/queue';

export const dynamic = 'force-dynamic';

const POLL_MS = 300;

/** The state of the session's newest job as server-sent events, until it ends. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const encoder = new TextEncoder();
  let stopped = false;
  request.signal.addEventListener('abort', () => (stopped = true));
  const stream = new ReadableStream({
    async start(controller) {
      let last = '';
      try {
        while (!stopped) {
          const job = await latestJob(id);
          const text = JSON.stringify(job);
          if (text !== last) controller.enqueue(encoder.encode(`data: ${text}\n\n`));
          last = text;
          if (!job || !['queued', 'running'].includes(job.state)) break;
          await new Promise((resolve) => setTimeout(resolve, POLL_MS));
        }
        controller.close();
      } catch {
        // The browser connects again by itself.
        if (!stopped) controller.close();
      }
    },
    cancel() {
      stopped = true;
    },
  });
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' },
  });
}
