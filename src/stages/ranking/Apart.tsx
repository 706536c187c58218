import { sittingKey, type AcrossKit } from '@/core/judging/ranking/figures';
import { fixed, signed } from '@/ui/format';

/** A sitting that stands apart by less than this, stops, isn't asked about: no verdict would notice. The ± is widened all the same. */
const WORTH_ASKING = 0.03;

/** Sittings that stand apart: a person says what becomes of them. */
export function Apart({
  kits,
  leftOut,
  onToggle,
}: {
  kits: readonly AcrossKit[];
  leftOut: ReadonlySet<string>;
  onToggle: (key: string) => void;
}) {
  const asked = kits.flatMap((kit) =>
    kit.notes
      .filter(({ what }) => what === 'strength')
      .flatMap(({ filter, combined }) =>
        (combined.apart.length > 1 ? combined.apart.slice(-1) : combined.apart)
          .filter(({ off }) => Math.abs(off) > WORTH_ASKING)
          .map(({ session, off }) => ({
            key: sittingKey(session, kit.filters.find((one) => one.name === filter)?.filter ?? filter),
            words: `${kit.name}, ${filter}: “${kit.sessions.find((one) => one.id === session)?.title}” stands ${signed(off)} stop from the other sittings, more than their ± allow.`,
          })),
      ),
  );
  const wide = kits.flatMap((kit) =>
    kit.notes
      .filter(({ what, combined }) => what === 'strength' && combined.birgeRatio > 2)
      .map(({ filter, combined }) => `${kit.name} ${filter} (they differ by ${fixed(combined.range)} stop)`),
  );
  if (asked.length === 0 && leftOut.size === 0 && wide.length === 0) return null;
  return (
    <section
      aria-label="Sittings that disagree"
      className="bg-well border-l-[3px] border-warning rounded-r-md px-4 py-3 mt-4"
    >
      {asked.map(({ key, words }) => (
        <p key={key} className="flex items-baseline gap-3 flex-wrap py-0.5">
          <span>{words}</span>
          <button type="button" className="underline" onClick={() => onToggle(key)}>
            Leave it out
          </button>
        </p>
      ))}
      {[...leftOut].map((key) => (
        <p key={key} className="py-0.5 text-ink-2">
          A sitting of {key.split(' ').slice(1).join(' ')} is left out.{' '}
          <button type="button" className="underline" onClick={() => onToggle(key)}>
            Take it in again
          </button>
        </p>
      ))}
      {wide.length > 0 && (
        <p className="py-0.5 text-ink-2">Sittings disagree beyond their ±, which is widened: {wide.join(', ')}.</p>
      )}
    </section>
  );
}
