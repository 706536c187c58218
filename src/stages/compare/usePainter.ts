import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
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

/** Draws a room whenever it changes or tiles come, at most once a frame. */
export function usePainter(canvas: RefObject<HTMLCanvasElement | null>, room: Room | null) {
  const painter = useRef<Painter | null>(null);
  const wanted = useRef<Room | null>(null);
  const whole = useRef<Room | null>(null);
  const frame = useRef(0);
  const [settled, setSettled] = useState(false);
  const [soft, setSoft] = useState(false);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const redraw = () => {
      if (frame.current !== 0) return;
      frame.current = requestAnimationFrame(() => {
        frame.current = 0;
        if (wanted.current && painter.current) painter.current.draw(wanted.current);
        setSoft(painter.current instanceof SoftPainter);
        // A coarse drawing of what moves is not the picture yet.
        const sharp = wanted.current !== null && wanted.current === whole.current;
        setSettled(sharp && (painter.current?.settled ?? false));
      });
    };
    // `?plain` asks for the plain canvas, to see what browsers without graphics show.
    const plain = new URLSearchParams(location.search).has('plain');
    try {
      if (plain) throw new Error('asked for');
      painter.current = new GlPainter(element, redraw);
    } catch {
      painter.current = new SoftPainter(element, redraw);
    }
    redraw();
    return () => {
      cancelAnimationFrame(frame.current);
      frame.current = 0;
      painter.current?.dispose();
      painter.current = null;
    };
  }, [canvas]);

  // Where graphics are slow, what moves is drawn coarser, and sharp again as soon as it rests.
  const drawNow = useRef<(shrink: number) => void>(() => undefined);
  const pace = useRef({ shrink: 1, last: 0 });
  useEffect(() => {
    wanted.current = room;
    whole.current = room;
    if (!room) return;
    const draw = (shrink: number) => {
      const element = canvas.current;
      if (!element || !painter.current) return;
      const drawn = shrunk(room, shrink);
      wanted.current = drawn;
      if (element.width !== drawn.width || element.height !== drawn.height)
        [element.width, element.height] = [drawn.width, drawn.height];
      painter.current.draw(drawn);
      setSettled(shrink === 1 && painter.current.settled);
    };
    drawNow.current = draw;
    const next = requestAnimationFrame((now) => {
      const apart = now - pace.current.last;
      const moving = apart < MOVES_MS;
      if (moving && apart > SLOW_MS) pace.current.shrink = Math.min(MOST_SHRINK, 2 * pace.current.shrink);
      pace.current.last = now;
      draw(moving ? pace.current.shrink : 1);
    });
    const rest = setTimeout(() => {
      if (pace.current.shrink > 1) draw(1);
    }, RESTS_MS);
    return () => {
      cancelAnimationFrame(next);
      clearTimeout(rest);
    };
  }, [canvas, room]);

  /** Draws the room at all of its pixels now, however fast it moves: to be taken away. */
  const sharpen = useCallback(() => drawNow.current(1), []);

  return { painter, settled, soft, sharpen };
}
