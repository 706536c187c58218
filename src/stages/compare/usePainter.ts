import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import type { View } from './viewport';
import { GlPainter } from './glPainter';
import type { Painter, Room } from './scene';
import { SoftPainter } from './softPainter';

/** A frame that takes longer is too slow for the eye while something moves; a pause of so long is a rest. */
const SLOW_MS = 42;
const RESTS_MS = 450;
/** Changes that follow each other within this are one movement, however slow the frames are. */
const MOVES_MS = 1000;
/** Each pixel stands for as many, either way, at most. */
const MOST_SHRINK = 4;

/** The same room on a canvas of fewer pixels. */
function shrunk(room: Room, by: number): Room {
  if (by <= 1) return room;
  const small = (size: number) => Math.max(1, Math.round(size / by));
  return {
    ...room,
    width: small(room.width),
    height: small(room.height),
    view: { ...room.view, scale: room.view.scale / by },
    cells: room.cells.map((cell) => ({
      ...cell,
      x: Math.round(cell.x / by),
      y: Math.round(cell.y / by),
      width: small(cell.width),
      height: small(cell.height),
      ...(cell.view ? { view: { ...cell.view, scale: cell.view.scale / by } } : {}),
    })),
  };
}

/** Whether something moves from one room to the next: the view, the wipe's line, a clip. A picture that comes or is laid anew doesn't. */
function moves(before: Room | null, after: Room): boolean {
  if (!before || before.cells.length !== after.cells.length) return false;
  const { view, wipe } = before;
  const seen = (at: View, now: View) => at.x !== now.x || at.y !== now.y || at.scale !== now.scale;
  return (
    (before.width === after.width && before.height === after.height && seen(view, after.view)) ||
    wipe.x !== after.wipe.x ||
    wipe.y !== after.wipe.y ||
    wipe.angle !== after.wipe.angle ||
    after.cells.some((cell, i) => {
      const old = before.cells[i];
      if (cell.view && old.view && seen(old.view, cell.view)) return true;
      return [cell.a, cell.b].some((layer, side) => {
        const other = side === 0 ? old.a : old.b;
        return layer && other && layer.key.sha256 === other.key.sha256 && layer.key.at !== other.key.at;
      });
    })
  );
}

/** Gives a canvas the room's pixels; that empties it, so only where it has others. */
function fit(canvas: HTMLCanvasElement, { width, height }: Room): void {
  if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
}

/** Graphics begin after so long, whether a picture has come or not. */
const BEGINS_MS = 400;
/** Pixels of the screen, either way, that one of the early picture stands for. */
const EARLY_SHRINK = 4;

function drawBehind(canvas: HTMLCanvasElement, painter: Painter, room: Room): void {
  const drawn = shrunk(room, EARLY_SHRINK);
  fit(canvas, drawn);
  painter.draw(drawn);
}

/** While tiles come, drawing takes this share of the time at most, so that slow graphics don't keep the rest of them waiting. */
const DRAWING_SHARE = 0.25;
const PATIENT_MS = 1500;

/**
 * Draws a room whenever it changes or tiles come, at most once a frame.
 *
 * @param behind a canvas behind the other one, for what is drawn until graphics have begun
 */
export function usePainter(
  canvas: RefObject<HTMLCanvasElement | null>,
  behind: RefObject<HTMLCanvasElement | null>,
  room: Room | null,
) {
  const painter = useRef<Painter | null>(null);
  const early = useRef<Painter | null>(null);
  const wanted = useRef<Room | null>(null);
  const whole = useRef<Room | null>(null);
  const drawNow = useRef<(shrink: number) => void>(() => undefined);
  const frame = useRef(0);
  const [settled, setSettled] = useState(false);
  const [begun, setBegun] = useState(false);
  const [soft, setSoft] = useState(false);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    let [last, cost] = [0, 0];
    let later: ReturnType<typeof setTimeout> | undefined;
    const redraw = () => {
      if (frame.current !== 0) return;
      const rest = painter.current?.settled ? 0 : last + Math.min(PATIENT_MS, cost / DRAWING_SHARE) - performance.now();
      clearTimeout(later);
      if (rest > 0) {
        later = setTimeout(redraw, rest);
        return;
      }
      frame.current = requestAnimationFrame(() => {
        frame.current = 0;
        if (wanted.current && painter.current) {
          fit(element, wanted.current);
          painter.current.draw(wanted.current);
        }
        if (painter.current?.begun) {
          requestAnimationFrame(markFirst);
          setBegun(true);
        }
        last = performance.now();
        // The next frame comes when this one is drawn: what that took is known then.
        requestAnimationFrame(() => requestAnimationFrame(() => (cost = performance.now() - last)));
        setSoft(painter.current instanceof SoftPainter);
        // A coarse drawing of what moves is not the picture yet.
        const sharp = wanted.current !== null && wanted.current === whole.current;
        setSettled(sharp && (painter.current?.settled ?? false));
      });
    };
    let first = true;
    const markFirst = () => {
      if (first) performance.mark('first picture');
      first = false;
    };
    const start = () => {
      if (painter.current || !early.current) return;
      // `?plain` asks for the plain canvas, to see what browsers without graphics show.
      const plain = new URLSearchParams(location.search).has('plain');
      try {
        if (plain) throw new Error('asked for');
        painter.current = new GlPainter(element, redraw);
      } catch {
        painter.current = new SoftPainter(element, redraw);
      }
      redraw();
    };
    // Graphics take a while to begin, longest where they are done in software: what comes first is drawn without them.
    const patience = setTimeout(start, BEGINS_MS);
    const drawEarly = () => {
      // What comes later is drawn by graphics; the small picture isn't waited a frame for.
      if (!early.current || !whole.current || painter.current) return;
      drawBehind(behind.current!, early.current, whole.current);
      // The next frame begins when this one has been handed over.
      if (early.current.begun)
        requestAnimationFrame(() => {
          markFirst();
          requestAnimationFrame(start);
        });
    };
    early.current = new SoftPainter(behind.current!, drawEarly, true);
    return () => {
      cancelAnimationFrame(frame.current);
      for (const one of [later, patience]) clearTimeout(one);
      frame.current = 0;
      painter.current?.dispose();
      early.current?.dispose();
      [painter.current, early.current] = [null, null];
    };
  }, [canvas, behind]);

  // Where graphics are slow, what moves is drawn coarser, and sharp again as soon as it rests.
  const pace = useRef({ shrink: 1, last: 0 });
  useEffect(() => {
    const before = whole.current;
    wanted.current = room;
    whole.current = room;
    if (!room) return;
    if (early.current && !painter.current) drawBehind(behind.current!, early.current, room);
    const draw = (shrink: number) => {
      const element = canvas.current;
      if (!element || !painter.current) return;
      const drawn = shrunk(room, shrink);
      wanted.current = drawn;
      fit(element, drawn);
      painter.current.draw(drawn);
      if (painter.current.begun) setBegun(true);
      setSettled(shrink === 1 && painter.current.settled);
    };
    drawNow.current = draw;
    const movement = moves(before, room);
    const next = requestAnimationFrame((now) => {
      const apart = now - pace.current.last;
      const moving = movement && apart < MOVES_MS;
      if (moving && apart > SLOW_MS) pace.current.shrink = Math.min(MOST_SHRINK, 2 * pace.current.shrink);
      if (movement) pace.current.last = now;
      draw(moving ? pace.current.shrink : 1);
    });
    const rest = setTimeout(() => {
      if (pace.current.shrink > 1) draw(1);
    }, RESTS_MS);
    return () => {
      cancelAnimationFrame(next);
      clearTimeout(rest);
    };
  }, [canvas, behind, room]);

  /** Draws the room at all of its pixels now, however fast it moves: to be taken away. */
  const sharpen = useCallback(() => drawNow.current(1), []);

  return { painter, begun, settled, soft, sharpen };
}
