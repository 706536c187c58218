import { useEffect, useMemo, useRef, useState } from 'react';
import type { LaidOn } from '@/server/compare';
import { AT_REST, momentOf, type Playback } from './playback';
import type { Shown } from './shown';

/** How a picture lay on bare at a moment; `null` for a still, and for a clip's middle. */
interface LaidAt {
  at: number | null;
  laid: LaidOn;
}

/** While clips play, how they lie is asked for this often, seconds of the clip, and taken evenly in between. */
const GRID_SECONDS = 1;
/** Moments as far apart, seconds, are not taken evenly between. */
const FAR_SECONDS = 2.5;

/** How pictures lie on their bares, at the moments that are shown. By the picture's hash. */
export function useLaid(shown: readonly Shown[], playback: Playback = AT_REST): ReadonlyMap<string, LaidOn> {
  const [known, setKnown] = useState<ReadonlyMap<string, readonly LaidAt[]>>(new Map());
  const asked = useRef(new Set<string>());
  /** Moments chosen by hand that are under way: who goes on to another one no longer waits for them. */
  const chosen = useRef(new Map<string, AbortController>());
  const running = useRef(0);
  const { moving, moment } = playback;
  useEffect(() => {
    const grid = moment === null ? null : Math.round(moment / GRID_SECONDS) * GRID_SECONDS;
    const then = moving ? { ...playback, moment: grid } : playback;
    const wanted = new Set<string>();
    for (const one of shown) {
      const { picture, bare, session } = one;
      if (!bare) continue;
      const [at, bareAt] = [momentOf(one, then), momentOf({ ...one, picture: bare }, then)];
      if (at === null && bareAt === null && picture.laid) continue;
      const key = `${picture.sha256} ${at} ${bareAt}`;
      wanted.add(key);
      if (asked.current.has(key) || (moving && running.current > 0)) continue;
      asked.current.add(key);
      running.current++;
      const given = new AbortController();
      if (!moving) chosen.current.set(key, given);
      const query = new URLSearchParams({ file: picture.file, bare: bare.file });
      if (at !== null) query.set('at', String(at));
      if (bareAt !== null) query.set('bareAt', String(bareAt));
      void fetch(`/api/sessions/${session.id}/pose?${query}`, { signal: given.signal })
        .then((answer) => answer.json())
        .then((laid: LaidOn & { error?: string }) => {
          if (laid.error !== undefined) return;
          setKnown((now) =>
            new Map(now).set(picture.sha256, [...(now.get(picture.sha256) ?? []), { at, laid }].sort(byTime)),
          );
        })
        .catch(() => {
          if (!given.signal.aborted) asked.current.delete(key);
        })
        .finally(() => {
          running.current--;
          if (chosen.current.get(key) === given) chosen.current.delete(key);
        });
    }
    for (const [key, given] of chosen.current) {
      if (wanted.has(key)) continue;
      given.abort();
      chosen.current.delete(key);
      asked.current.delete(key);
    }
  }, [shown, playback, moving, moment]);
  return useMemo(() => {
    const found = new Map<string, LaidOn>();
    for (const one of shown) {
      const at = momentOf(one, playback);
      const laid = laidAt(known.get(one.picture.sha256) ?? [], at) ?? (at === null ? one.picture.laid : null);
      if (laid) found.set(one.picture.sha256, laid);
    }
    return found;
  }, [shown, known, playback]);
}

const byTime = (a: LaidAt, b: LaidAt) => (a.at ?? -1) - (b.at ?? -1);

/** As it was told for a moment; between two moments that were told evenly from one to the other; else as at the nearest. */
export function laidAt(known: readonly LaidAt[], moment: number | null): LaidOn | null {
  if (moment === null) return known.find((one) => one.at === null)?.laid ?? null;
  const told = known.flatMap(({ at, laid }) => (at === null ? [] : [{ at, laid }]));
  const after = told.findIndex((one) => one.at >= moment);
  if (after < 0) return told.at(-1)?.laid ?? known[0]?.laid ?? null;
  const [a, b] = [told[after - 1], told[after]];
  const apart = a && b.at - a.at;
  if (!a || b.at === moment || apart > FAR_SECONDS || a.laid.problem || b.laid.problem)
    return a && moment - a.at < b.at - moment ? a.laid : b.laid;
  const part = (moment - a.at) / apart;
  const mix = (x: number, y: number) => x + part * (y - x);
  const [from, to] = [a.laid.pose, b.laid.pose];
  return {
    pose: { dx: mix(from.dx, to.dx), dy: mix(from.dy, to.dy), a: mix(from.a, to.a), b: mix(from.b, to.b) },
    problem: null,
    movedPx: mix(a.laid.movedPx, b.laid.movedPx),
  };
}
