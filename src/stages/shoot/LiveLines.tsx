import { TriangleAlert } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { LiveSheet } from '@/server/liveSheet';
import { ALARM_WORDS } from '../live/words';

/** Between two looks while the sitting is live, and while it isn't. */
const SOON_MS = 1500;
const LATER_MS = 8000;

/** How a live sitting stands, looked at while the sheet is in sight; `null` while it isn't live, or there is no line. */
export function useLiveSheet(sessionId: string): LiveSheet | null {
  const [sheet, setSheet] = useState<LiveSheet | null>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    let ended = false;
    const look = async () => {
      let next = LATER_MS;
      try {
        if (!document.hidden) {
          const answer = await fetch(`/api/sessions/${sessionId}/live/sheet`, { method: 'POST' });
          // Who may only look isn't shown what looking does.
          if (answer.status === 403) return;
          const found = (await answer.json()) as LiveSheet;
          setSheet((now) => (!found.on ? null : JSON.stringify(now) === JSON.stringify(found) ? now : found));
          if (found.on) next = SOON_MS;
        }
      } catch {
        // Without a line the sheet goes on by itself; what it said last may be old.
        setSheet(null);
      }
      if (!ended) timer = setTimeout(() => void look(), next);
    };
    timer = setTimeout(() => void look(), 0);
    return () => {
      ended = true;
      clearTimeout(timer);
    };
  }, [sessionId]);
  return sheet;
}

/** What a live sitting says before the next take. */
export function LiveLines({ sheet: { title, alarms, waits, measuring } }: { sheet: LiveSheet }) {
  return (
    <section aria-label="Live" className="mt-2">
      <p className="text-label text-ink-3" role="note">
        Live: {title}
        {measuring ? ' · measuring …' : ''}
      </p>
      <ul aria-live="assertive" aria-label="Before the next take" className="grid gap-1.5">
        {alarms.map(({ kind, takes, advice }) => (
          <li
            key={`${kind} ${takes.join(' ')}`}
            className="mt-1.5 rounded-sheet border-l-4 border-warning bg-sheet px-3 py-2"
          >
            <p className="font-strong flex items-center gap-2">
              <TriangleAlert size={16} aria-hidden className="text-warning shrink-0" />
              {ALARM_WORDS[kind]}
              <span className="text-label text-ink-3 font-normal truncate">{takes.join(', ')}</span>
            </p>
            <p className="mt-0.5 text-body">{advice}</p>
          </li>
        ))}
        {waits.map((line) => (
          <li key={line} className="mt-1.5 border-l-4 border-warning pl-3 text-label [overflow-wrap:anywhere]">
            {line}
          </li>
        ))}
      </ul>
    </section>
  );
}
