import { useEffect, useRef, useState, type RefObject } from 'react';
import { GlPainter } from './glPainter';
import type { Painter, Room } from './scene';
import { SoftPainter } from './softPainter';

/** Draws a room whenever it changes or tiles come, at most once a frame. */
export function usePainter(canvas: RefObject<HTMLCanvasElement | null>, room: Room | null) {
  const painter = useRef<Painter | null>(null);
  const wanted = useRef<Room | null>(null);
  const frame = useRef(0);
  const [arrived, setArrived] = useState(0);
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
        setArrived((n) => n + 1);
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

  useEffect(() => {
    wanted.current = room;
    if (!room || !canvas.current) return;
    const next = requestAnimationFrame(() => {
      const element = canvas.current;
      if (!element || !painter.current) return;
      if (element.width !== room.width || element.height !== room.height)
        [element.width, element.height] = [room.width, room.height];
      painter.current.draw(room);
      setArrived((n) => n + 1);
    });
    return () => cancelAnimationFrame(next);
  }, [canvas, room]);

  return { painter, arrived, soft };
}
