import { useCallback, useEffect, useLayoutEffect, useRef, type PointerEvent, type RefObject } from 'react';
import type { Room } from './scene';
import { panBy, zoomAt, type Frame, type View } from './viewport';

/** Events that follow each other within this are one gesture. */
const GESTURE_MS = 400;
/** Wheel travel that doubles the scale. */
const WHEEL_PER_STOP = 300;

export interface Pointed {
  cell: number;
  /** Pixels of the cell. */
  x: number;
  y: number;
}

/** Panning by one pointer, zooming by two or by the wheel; the size of the box in device pixels is told at once and when it changes. */
export function useGestures({
  box,
  room,
  ratio,
  onSize,
  onView,
  onHover,
}: {
  box: RefObject<HTMLDivElement | null>;
  room: Room | null;
  /** Device pixels per CSS pixel. */
  ratio: number;
  onSize: (size: Frame) => void;
  onView: (view: View) => void;
  /** A pointer moves over the picture with nothing pressed. */
  onHover: (event: PointerEvent) => void;
}) {
  const pointers = useRef(new Map<number, { x: number; y: number }>());
  const latest = useRef({ room, onView });
  // Where the view goes: events come faster than rooms are drawn, so within one gesture each goes on from the one before.
  const going = useRef<{ view: View; at: number } | null>(null);
  useEffect(() => {
    latest.current = { room, onView };
  });
  const go = useCallback((next: (from: View) => View) => {
    const { room: drawn, onView: tell } = latest.current;
    if (!drawn) return;
    const now = performance.now();
    const { current } = going;
    const fresh = current && now - current.at < GESTURE_MS ? current.view : drawn.view;
    going.current = { view: next(fresh), at: now };
    tell(going.current.view);
  }, []);

  // Told before the first frame: pictures are asked for by it.
  useLayoutEffect(() => {
    if (box.current) onSize(inDevicePixels({ width: box.current.clientWidth, height: box.current.clientHeight }));
  }, [box, onSize]);

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => onSize(inDevicePixels(entry.contentRect)));
    observer.observe(element);
    // React listens to wheels passively, and the page must not scroll away.
    const wheel = (event: WheelEvent) => {
      const { room: now } = latest.current;
      const at = now && pointAt(event, element, now);
      if (!now || !at) return;
      event.preventDefault();
      const cell = now.cells[at.cell];
      const middle = { x: at.x - cell.width / 2, y: at.y - cell.height / 2 };
      go((from) => zoomAt(from, 2 ** (-event.deltaY / WHEEL_PER_STOP), middle, now.frame, cell));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => {
      observer.disconnect();
      element.removeEventListener('wheel', wheel);
    };
  }, [box, onSize, go]);

  function moved(event: PointerEvent) {
    if (!room || !box.current) return;
    const before = pointers.current.get(event.pointerId);
    if (!before) return onHover(event);
    const now = { x: event.clientX, y: event.clientY };
    const others = [...pointers.current].filter(([id]) => id !== event.pointerId).map(([, place]) => place);
    pointers.current.set(event.pointerId, now);
    const [cell] = room.cells;
    if (others.length === 0) {
      go((from) => panBy(from, (now.x - before.x) * ratio, (now.y - before.y) * ratio, room.frame, cell));
      return;
    }
    // Two fingers: what lies between them stays there.
    const [other] = others;
    const spread = (one: { x: number; y: number }) => Math.hypot(one.x - other.x, one.y - other.y);
    const rect = box.current.getBoundingClientRect();
    const middle = {
      x: ((now.x + other.x) / 2 - rect.left) * ratio - cell.x - cell.width / 2,
      y: ((now.y + other.y) / 2 - rect.top) * ratio - cell.y - cell.height / 2,
    };
    go((from) => zoomAt(from, spread(now) / Math.max(1, spread(before)), middle, room.frame, cell));
  }

  return {
    onPointerDown: (event: PointerEvent) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      if (pointers.current.size === 0) going.current = null;
      pointers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
    },
    onPointerMove: moved,
    onPointerUp: (event: PointerEvent) => void pointers.current.delete(event.pointerId),
    onPointerCancel: (event: PointerEvent) => void pointers.current.delete(event.pointerId),
  };
}

/** The cell under a pointer, and where in it. */
export function pointAt(event: { clientX: number; clientY: number }, element: HTMLElement, room: Room): Pointed | null {
  const rect = element.getBoundingClientRect();
  const ratio = room.width / rect.width;
  const [x, y] = [(event.clientX - rect.left) * ratio, (event.clientY - rect.top) * ratio];
  const cell = room.cells.findIndex(
    (one) => x >= one.x && x < one.x + one.width && y >= one.y && y < one.y + one.height,
  );
  return cell < 0 ? null : { cell, x: x - room.cells[cell].x, y: y - room.cells[cell].y };
}

const inDevicePixels = ({ width, height }: Frame): Frame => ({
  width: Math.round(width * window.devicePixelRatio),
  height: Math.round(height * window.devicePixelRatio),
});
