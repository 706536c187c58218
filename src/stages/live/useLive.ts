import { useCallback, useEffect, useRef, useState } from 'react';
import type { LiveState } from '@/server/live';

/** Between an answer and the next look while the sitting goes on (the server answers when there are news), and while it doesn't. */
const SOON_MS = 50;
const LATER_MS = 3000;

type Asked =
  | { do: 'look'; seen?: string }
  | { do: 'start'; wanted: number }
  | { do: 'end' }
  | { do: 'again'; take: string; message: string };

/** How a sitting stands, looked at again and again while the page is in sight; and what a person asks for in between. */
export function useLive(sessionId: string) {
  const [state, setState] = useState<LiveState | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const on = useRef(false);
  const news = useRef<string | undefined>(undefined);

  const ask = useCallback(
    async (asked: Asked) => {
      try {
        const answer = await fetch(`/api/sessions/${sessionId}/live`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(asked),
        });
        const { news: told, error, ...result } = (await answer.json()) as LiveState & { news?: string; error?: string };
        if (error !== undefined) throw new Error(error);
        on.current = result.on;
        news.current = result.on ? told : undefined;
        // Drawings stay as they are while nothing has changed.
        setState((now) => (JSON.stringify(now) === JSON.stringify(result) ? now : result));
        setProblem(null);
      } catch (error) {
        // The next look waits for nothing, and not at once.
        [on.current, news.current] = [false, undefined];
        setProblem(error instanceof TypeError ? 'The server doesn’t answer; looking again.' : (error as Error).message);
      }
    },
    [sessionId],
  );

  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    let ended = false;
    const look = async () => {
      if (!document.hidden) await ask({ do: 'look', seen: news.current });
      if (!ended) timer = setTimeout(() => void look(), on.current ? SOON_MS : LATER_MS);
    };
    timer = setTimeout(() => void look(), 0);
    return () => {
      ended = true;
      clearTimeout(timer);
    };
  }, [ask]);
  return { state, problem, ask };
}
