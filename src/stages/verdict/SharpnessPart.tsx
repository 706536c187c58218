import type { SharpnessReadings } from '@/core/session';
import { fixed, plusMinus } from '@/ui/format';
import { MtfChart } from '@/ui/charts/MtfChart';

/** Sharpness on a filter's sheet: the response curves of its softest edge, and every edge's figure. */
export function SharpnessPart({ edges, word }: { edges: SharpnessReadings[]; word?: string }) {
  const softest = [...edges].sort((a, b) => a.retained.value - b.retained.value)[0];
  return (
    <section aria-label="Sharpness" className="mt-4 pt-3 border-t border-[#5a5a5a]">
      <h3 className="flex justify-between font-[650]">
        Sharpness kept <span className="font-normal text-ink-2">{word}</span>
      </h3>
      <MtfChart bare={softest.curves.bare} filtered={softest.curves.filtered} />
      <p className="text-[12px] text-ink-3">
        Response of “{softest.patch}”, the softest edge: bare gray, with the filter bright. Half at{' '}
        {fixed(softest.mtf50.value, 3)} cycles/pixel, bare at {fixed(softest.baselineMtf50.value, 3)}.
      </p>
      <dl className="grid grid-cols-[1fr_auto] gap-y-0.5 mt-2 text-[13px]">
        {edges.map((edge) => (
          <div key={edge.patch} className="contents">
            <dt className="text-ink-2">{edge.patch}</dt>
            <dd className="text-right">
              {fixed(edge.retained.value)} <span className="unit">{plusMinus(edge.retained.u95)}</span>
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
