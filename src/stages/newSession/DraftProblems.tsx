import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import { clockIsOff, duration } from '@/core/sitting/intake/cameraClock';
import type { Laying } from '@/core/sitting/intake/laidFile';

/** What still has to be said, what is left out and why. */
export function DraftProblems({
  missing,
  damaged,
  laying,
  problem,
}: {
  missing: readonly string[];
  damaged: readonly ArrivedFile[];
  laying: Laying;
  problem: string | null;
}) {
  const off = clockIsOff(laying) ? laying.clockOffsetSeconds! : null;
  if (missing.length === 0 && damaged.length === 0 && off === null && problem === null) return null;
  return (
    <ul
      className="mt-4 bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5 grid gap-1"
      aria-label="What is missing"
    >
      {missing.map((sentence) => (
        <li key={sentence}>{sentence}</li>
      ))}
      {damaged.map((picture) => (
        <li key={picture.path}>
          {picture.path} is left out: {picture.stored.facts.readable ? '' : picture.stored.facts.reason}
        </li>
      ))}
      {off !== null && (
        <li>
          The camera’s clock is {duration(Math.abs(off))} {off > 0 ? 'ahead of' : 'behind'} the log’s; that is taken
          off.
        </li>
      )}
      {problem && (
        <li role="alert" className="text-failure">
          {problem}
        </li>
      )}
    </ul>
  );
}
