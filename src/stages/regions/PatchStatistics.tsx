import { useEffect, useState } from 'react';
import type { WindowStatistics } from '@/server/statistics';
import type { Patch, Rect } from '@/core/session/schema';
import { fixed, percent } from '@/ui/format';

const ASK_AFTER_MS = 120;
/** A patch of fewer pixels than this has more noise than it need have. */
const GOOD_PIXELS = 5000;

/** What the selected patch holds on the bare picture, with a word of advice. */
export function PatchStatistics({
  statistics,
  role,
}: {
  statistics: WindowStatistics | string | null;
  role: Patch['role'];
}) {
  if (typeof statistics === 'string')
    return (
      <p role="alert" className="text-failure mt-4">
        {statistics}
      </p>
    );
  const channels = ['R', 'G', 'B'];
  const triple = (values: number[] | undefined, decimals: number) =>
    channels.map((name, c) => (
      <td key={name} className="text-right pl-3">
        {values ? fixed(100 * values[c], decimals) : '–'}
      </td>
    ));
  return (
    <div className="mt-4 min-h-[190px]" aria-live="polite" data-testid="statistics">
      <table className="w-full">
        <thead>
          <tr className="text-ink-3 text-small">
            <th className="text-left font-medium">bare, in %</th>
            {channels.map((name) => (
              <th key={name} className="text-right font-medium">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th className="text-left font-normal text-ink-2">mean code</th>
            {triple(statistics?.meanCode, 1)}
          </tr>
          <tr>
            <th className="text-left font-normal text-ink-2">noise and structure</th>
            {triple(statistics?.noise, 1)}
          </tr>
        </tbody>
      </table>
      <dl className="grid grid-cols-[1fr_auto] gap-y-0.5 mt-2">
        <dt className="text-ink-2">pixels</dt>
        <dd className="text-right">{statistics ? statistics.pixels.toLocaleString('en-US') : '–'}</dd>
        <dt className="text-ink-2">clipped</dt>
        <dd className="text-right">{statistics ? percent(statistics.clipped, 2) : '–'}</dd>
        <dt className="text-ink-2">at code 0</dt>
        <dd className="text-right">{statistics ? percent(statistics.black, 2) : '–'}</dd>
      </dl>
      {statistics && <p className="mt-2">{advice(statistics, role)}</p>}
    </div>
  );
}

function advice(statistics: WindowStatistics, role: Patch['role']): string {
  if (statistics.clipped > 0.001)
    return 'Clipped here: no strength can be measured. Choose a darker area, or shoot bare with less exposure.';
  if (role === 'edge') return 'An edge is judged when it is measured: its angle, contrast and length.';
  if (role === 'field') return 'The whole even surface: what the filter does to its corners is measured here.';
  if (Math.max(...statistics.noise) > 0.08) return 'Not even: an edge or a shade runs through. Make it smaller.';
  if (statistics.pixels < GOOD_PIXELS) return 'Even, but small: a larger patch has less noise.';
  return 'Even, unclipped and large: a good patch.';
}

/** Statistics of a rectangle on the bare picture, asked for when it rests a moment. A sentence on failure. */
export function useStatistics(
  sessionId: string,
  file: string | undefined,
  rect: Rect | null,
): WindowStatistics | string | null {
  const [statistics, setStatistics] = useState<WindowStatistics | string | null>(null);
  const key = rect && JSON.stringify(rect);
  useEffect(() => {
    if (!file || !key) return;
    const controller = new AbortController();
    const wait = setTimeout(async () => {
      try {
        const response = await fetch(`/api/sessions/${sessionId}/statistics`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ file, rect: JSON.parse(key) }),
          signal: controller.signal,
        });
        const answer = await response.json();
        setStatistics(response.ok ? answer : answer.error);
      } catch {
        if (!controller.signal.aborted) setStatistics('The server does not answer; the patch is kept here.');
      }
    }, ASK_AFTER_MS);
    return () => {
      clearTimeout(wait);
      controller.abort();
    };
  }, [sessionId, file, key]);
  return statistics;
}
