import { writeShutter } from '@/core/formulas/optics/exposure';
import { reachOf, targetSeconds } from '@/core/sitting/planning/target';
import type { PlanRequest } from '@/core/sitting/planning/plan';
import { fixed, signed } from '@/ui/format';

/** Which filter brings the shutter to what the pictures are for, at this light and by the labels. */
export function TargetReach({ request, nameOf }: { request: PlanRequest; nameOf: (id: string) => string }) {
  const { target, kit, ev100, fNumber, rig } = request;
  const wanted = target ? targetSeconds(target) : null;
  if (!target || wanted === null) return null;
  const reach = reachOf(target, kit.filters, ev100, fNumber, rig.baseIso);
  const [best] = reach;
  const name = best.filter === null ? 'bare' : nameOf(best.filter);
  return (
    <section aria-label="The target" className="mt-5">
      <h2>
        {Math.abs(best.off) < 1 / 3
          ? `${name} brings the shutter to ${writeShutter(wanted)} at this light`
          : `No filter brings the shutter to ${writeShutter(wanted)} at this light; ${name} comes nearest`}
      </h2>
      <ul className="mt-2 flex flex-wrap gap-x-6 gap-y-1 text-ink-2">
        {[...reach]
          .sort((a, b) => a.seconds - b.seconds)
          .map(({ filter, seconds, off }) => (
            <li key={filter ?? 'bare'}>
              <b className="text-ink">{filter === null ? 'bare' : nameOf(filter)}</b> {writeShutter(seconds)},{' '}
              {Math.abs(off) < 0.05 ? 'just right' : `${signed(off, 1)} stops`}
            </li>
          ))}
      </ul>
      <p className="text-ink-3 text-small mt-1">
        At ISO {fixed(rig.baseIso, 0)} and f/{fNumber}, by the labels; plus is slower than wanted.
      </p>
    </section>
  );
}
