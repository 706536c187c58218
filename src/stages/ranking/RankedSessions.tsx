import type { MeasuredSession } from '@/server/across';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Link } from '@/ui/Link';
import { OnlyNewest } from '@/ui/OnlyNewest';

const STALE = {
  changed: 'from before a change: measure it again, or take it as it is',
  'older version': 'measured by an older version of the program',
} as const;

/** The sessions whose figures are ranked. */
export function RankedSessions({
  sessions,
  lookedAt,
  chosen,
  onToggle,
}: {
  sessions: readonly MeasuredSession[];
  /** How many of the newest are looked at, where there are more. */
  lookedAt: number | null;
  chosen: ReadonlySet<string>;
  onToggle: (id: string) => void;
}) {
  return (
    <section aria-label="Sessions" className="bg-sheet rounded-sheet px-[18px] py-4">
      <h2>From these sessions</h2>
      <ul className="mt-2">
        {sessions.map((one) => (
          <li key={one.id} className="flex items-baseline justify-between gap-2 py-1">
            <Checkbox className="min-w-0 flex-1" checked={chosen.has(one.id)} onChange={() => onToggle(one.id)}>
              {one.title}
              {one.stale && <span className="text-warning block text-small">{STALE[one.stale]}</span>}
            </Checkbox>
            <Link href={`/sessions/${one.id}/verdict`} className="underline text-ink-2 text-label">
              figures
            </Link>
          </li>
        ))}
      </ul>
      {lookedAt !== null && <OnlyNewest count={lookedAt} />}
      <p className="text-ink-3 text-small mt-2">
        A kit that was measured in several sessions gets their mean, weighted by 1/u² and widened where they disagree.
      </p>
    </section>
  );
}
