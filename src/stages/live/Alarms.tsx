import { RotateCcw, TriangleAlert } from 'lucide-react';
import type { Alarm } from '@/core/sitting/live/alarm';
import type { LeftOut } from '@/core/sitting/live/leftOut';
import { Button } from '@/ui/Button';
import { ALARM_WORDS } from './words';

/** What went wrong, the newest first, with what to do before the next take. */
export function Alarms({
  alarms,
  leftOut,
  onAgain,
}: {
  alarms: readonly Alarm[];
  leftOut: readonly LeftOut[];
  /** Leaves a take out and opens it again; absent while the sitting doesn't go on. */
  onAgain?: (take: string, message: string) => void;
}) {
  return (
    <section aria-label="What went wrong" className="grid gap-2 min-w-0">
      <h2>{alarms.length > 0 ? 'Before the next take' : 'Nothing is wrong so far'}</h2>
      <ul className="grid gap-2" aria-live="polite" aria-label="Alarms">
        {alarms.map(({ kind, takes, message, advice, again }) => (
          <li
            key={`${kind} ${takes.join(' ')}`}
            className={`rounded-sheet border-l-4 px-4 py-3 bg-sheet ${again ? 'border-warning' : 'border-ink-4'}`}
          >
            <p className="font-strong flex items-center gap-2 text-lead">
              <TriangleAlert size={17} aria-hidden className={again ? 'text-warning' : 'text-ink-3'} />
              {ALARM_WORDS[kind]}
              <span className="text-label text-ink-3 font-normal truncate">{takes.join(', ')}</span>
            </p>
            <p className="mt-1">{advice}</p>
            <p className="mt-1 text-label text-ink-2 [overflow-wrap:anywhere]">{message}</p>
            {onAgain && takes.length > 0 && (
              <Button look="quiet" className="mt-1 -ml-3" onClick={() => onAgain(takes.at(-1)!, message)}>
                <RotateCcw size={15} aria-hidden /> Leave {takes.at(-1)} out and shoot it again
              </Button>
            )}
          </li>
        ))}
      </ul>
      {leftOut.length > 0 && (
        <ul aria-label="Left out" className="text-label text-ink-2 grid gap-1">
          {leftOut.map(({ take, at, message, advice }) => (
            <li key={`${take} ${at}`} className="[overflow-wrap:anywhere]">
              <b>{take}</b> was left out, to be shot again: {message} {advice}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
