import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { FilmStore } from './films';
import { AT_REST, momentOf, spanOf, type Playback } from './playback';
import type { Shown } from './shown';

/** A moment that was chosen by hand is looked at closely when nothing has changed for so long. */
const RESTS_MS = 350;
/** A tick longer than this, seconds, was a pause of the browser's, not of the clips. */
const LONGEST_TICK = 0.2;
const SHIFTS_KEPT = 'glade.shifts';

export interface Player {
  playback: Playback;
  playing: boolean;
  loop: boolean;
  span: { from: number; to: number; framesPerSecond: number } | null;
  /** Waits for frames. */
  waiting: boolean;
  play: (on: boolean) => void;
  setLoop: (on: boolean) => void;
  setByRoute: (on: boolean) => void;
  seek: (moment: number) => void;
  /** Moves by frames of bare's clip. */
  step: (frames: number) => void;
  shift: (sha256: string, seconds: number) => void;
  problem: (sha256: string) => string | null;
}

/** Plays clips in step: time goes on only when every one of them has its frame. */
export function usePlayback(shown: readonly Shown[]): Player {
  const [moment, setMoment] = useState<number | null>(null);
  const [playing, setPlaying] = useState(false);
  const [loop, setLoop] = useState(true);
  const [byRoute, setByRoute] = useState(true);
  const [shifts, setShifts] = useState<Readonly<Record<string, number>>>({});
  const [resting, setResting] = useState(true);
  const [waiting, setWaiting] = useState(false);
  const [come, setCome] = useState(0);
  const [store] = useState(() => new FilmStore(() => setCome((count) => count + 1)));
  const span = useMemo(() => spanOf(shown), [shown]);

  useEffect(() => {
    // The page comes from the server, which doesn't know what this browser keeps.
    const later = setTimeout(() => setShifts(keptShifts()), 0);
    return () => clearTimeout(later);
  }, []);

  const playback = useMemo(
    (): Playback => ({
      moment: span ? moment : null,
      moving: playing || !resting,
      byRoute,
      shifts,
      frame: store.frame,
    }),
    // `come` counts what has arrived: the same moment looks different then.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [span, moment, playing, resting, byRoute, shifts, store, come],
  );

  const latest = useRef({ shown, playback, span, loop });
  useEffect(() => {
    latest.current = { shown, playback, span, loop };
  });

  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let frame = 0;
    const tick = (now: number) => {
      frame = requestAnimationFrame(tick);
      const { shown: pictures, playback: at, span: within, loop: again } = latest.current;
      if (!within) return;
      const from = at.moment ?? within.from;
      let next = from + Math.min(LONGEST_TICK, (now - last) / 1000);
      if (next > within.to) {
        if (!again) {
          setMoment(within.to);
          setPlaying(false);
          return;
        }
        next = within.from;
      }
      last = now;
      const there = pictures.every((one) => {
        const own = momentOf(one, { ...at, moment: next });
        const { sha256, film } = one.picture;
        return own === null || store.problem(sha256) !== null || store.frame(sha256, own, film!.seconds) !== null;
      });
      setWaiting(!there);
      if (there) setMoment(next);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [playing, store]);

  const rest = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(rest.current), []);
  const touched = useCallback(() => {
    setResting(false);
    clearTimeout(rest.current);
    rest.current = setTimeout(() => setResting(true), RESTS_MS);
  }, []);

  const seek = useCallback(
    (to: number) => {
      const { span: within } = latest.current;
      if (!within) return;
      setMoment(Math.min(within.to, Math.max(within.from, to)));
      touched();
    },
    [touched],
  );
  const step = useCallback(
    (frames: number) => {
      const { span: within, playback: at } = latest.current;
      if (!within) return;
      setPlaying(false);
      const index = Math.floor((at.moment ?? (within.from + within.to) / 2) * within.framesPerSecond + 0.02) + frames;
      // A little into the frame, so that rounding can't lead to its neighbor.
      seek((index + 0.01) / within.framesPerSecond);
    },
    [seek],
  );
  const play = useCallback((on: boolean) => {
    setWaiting(false);
    setPlaying(on);
  }, []);
  const shift = useCallback(
    (sha256: string, seconds: number) => {
      setShifts((now) => {
        const next = { ...now, [sha256]: seconds };
        try {
          localStorage.setItem(SHIFTS_KEPT, JSON.stringify(next));
        } catch {
          // Without room it holds for this page.
        }
        return next;
      });
      setMoment((now) => now ?? latest.current.span?.from ?? null);
      touched();
    },
    [touched],
  );
  const problem = useCallback((sha256: string) => store.problem(sha256), [store]);
  return {
    playback: span ? playback : AT_REST,
    playing: playing && span !== null,
    loop,
    span,
    waiting,
    play,
    setLoop,
    setByRoute,
    seek,
    step,
    shift,
    problem,
  };
}

/** What can't be read is as if nothing had been shifted. */
function keptShifts(): Record<string, number> {
  try {
    return JSON.parse(localStorage.getItem(SHIFTS_KEPT) ?? '{}') as Record<string, number>;
  } catch {
    return {};
  }
}
