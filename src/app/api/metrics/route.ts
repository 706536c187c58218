import { answer } from '@/server/http';
import { metricsText } from '@/server/metrics';

export const dynamic = 'force-dynamic';

/** How the program stands, in the text format of Prometheus. */
export function GET(): Promise<Response> {
  return answer(async () => {
    const { text, type } = await metricsText();
    return new Response(text, { headers: { 'content-type': type, 'cache-control': 'no-store' } });
  });
}
