'use client';

import { MoveHorizontal } from 'lucide-react';
import { useCallback, useEffect, useLayoutEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { panBy, zoomAt, type Frame, type View, type Wipe } from './viewport';
import type { Probed } from './probe';
import type { Room } from './scene';

/** Events that follow each other within this are one gesture. */
const GESTURE_MS = 400;

export interface Pointed {
  cell: number;
  /** Pixels of the cell. */
  x: number;
  y: number;
}

/** The picture: panned and zoomed by hand, wheel and fingers, with the wipe's line to drag and a probe under the pointer. */
export function Stage({
  canvas,
  behind,
  begun,
  room,
  ratio,
  captions,
  wiping,
  onSize,
  onView,
  onWipe,
  onPoint,
  probe,
  settled,
}: {
  canvas: RefObject<HTMLCanvasElement | null>;
  /** Shows what comes before graphics have begun. */
  behind: RefObject<HTMLCanvasElement | null>;
  begun: boolean;
  room: Room | null;
  /** Device pixels per CSS pixel. */
  ratio: number;
  /** A caption a cell; of a wipe one a side. */
  captions: readonly string[];
  wiping: boolean;
  onSize: (size: Frame) => void;
  onView: (view: View) => void;
  onWipe: (wipe: Wipe) => void;
  /** Where the pointer is, for a loupe. */
  onPoint: (at: Pointed | null) => void;
  probe: (at: Pointed) => Probed | null;
  /** Whether all that is in view has come. */
  settled: boolean;
}) {
  const box = useRef<HTMLDivElement>(null);
  const pointers = useRef(new Map<number, { x: number; y: number }>());
  const hovered = useRef<{ clientX: number; clientY: number } | null>(null);
  const [found, setFound] = useState<{ left: number; top: number; probed: Probed } | null>(null);
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
  }, [onSize]);

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
      go((from) => zoomAt(from, 2 ** (-event.deltaY / 300), middle, now.frame, cell));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => {
      observer.disconnect();
      element.removeEventListener('wheel', wheel);
    };
  }, [onSize, go]);

  /** Reads the light under the pointer. */
  function read() {
    const at = room && box.current && hovered.current && pointAt(hovered.current, box.current, room);
    const probed = at && probe(at);
    if (!probed) return setFound(null);
    const rect = box.current!.getBoundingClientRect();
    setFound({ left: hovered.current!.clientX - rect.left, top: hovered.current!.clientY - rect.top, probed });
  }
  const readAgain = useRef(read);
  useEffect(() => {
    readAgain.current = read;
  });
  // What lies under a resting pointer changes too: its tiles come, or the view moves on by keys.
  useEffect(() => {
    if (!settled) return;
    const frame = requestAnimationFrame(() => hovered.current && readAgain.current());
    return () => cancelAnimationFrame(frame);
  }, [settled, room]);

  function moved(event: PointerEvent) {
    if (!room || !box.current) return;
    const before = pointers.current.get(event.pointerId);
    if (!before) {
      hovered.current = { clientX: event.clientX, clientY: event.clientY };
      onPoint(pointAt(event, box.current, room));
      read();
      return;
    }
    const now = { x: event.clientX, y: event.clientY };
    const others = [...pointers.current].filter(([id]) => id !== event.pointerId).map(([, place]) => place);
    pointers.current.set(event.pointerId, now);
    const cell = room.cells[0];
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

  function slid(event: PointerEvent) {
    if (!room || !box.current || event.buttons === 0) return;
    const rect = box.current.getBoundingClientRect();
    const part = (at: number, size: number) => Math.min(1, Math.max(0, at / size));
    onWipe({
      ...room.wipe,
      x: part(event.clientX - rect.left, rect.width),
      y: part(event.clientY - rect.top, rect.height),
    });
  }

  const wipe = room?.wipe;
  return (
    <div
      ref={box}
      className="relative min-h-0 flex-1 overflow-hidden touch-none select-none cursor-grab active:cursor-grabbing"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        if (pointers.current.size === 0) going.current = null;
        pointers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
        hovered.current = null;
        setFound(null);
      }}
      onPointerMove={moved}
      onPointerUp={(event) => pointers.current.delete(event.pointerId)}
      onPointerCancel={(event) => pointers.current.delete(event.pointerId)}
      onPointerLeave={() => {
        hovered.current = null;
        setFound(null);
        onPoint(null);
      }}
    >
      <canvas ref={behind} aria-hidden hidden={begun} className="absolute inset-0 w-full h-full" />
      <canvas
        ref={canvas}
        aria-hidden
        data-testid="picture"
        data-settled={settled}
        className={`absolute inset-0 w-full h-full ${begun ? '' : 'invisible'}`}
      />
      {wiping && wipe && room && (
        <>
          <svg aria-hidden className="absolute inset-0 w-full h-full pointer-events-none">
            <WipeLine wipe={wipe} width={room.width / ratio} height={room.height / ratio} />
          </svg>
          <div
            role="slider"
            tabIndex={0}
            aria-label="The wipe’s line"
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(100 * wipe.x)}
            aria-valuetext={`${Math.round(100 * wipe.x)} % across, ${wipe.angle}° turned`}
            className="absolute size-11 -ml-[22px] -mt-[22px] rounded-full bg-ink text-[#1f1f1f] grid place-items-center cursor-ew-resize"
            style={{ left: `${100 * wipe.x}%`, top: `${100 * wipe.y}%` }}
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
            }}
            onPointerMove={(event) => {
              event.stopPropagation();
              slid(event);
            }}
            onPointerUp={(event) => event.stopPropagation()}
            onKeyDown={(event) => {
              const step = event.shiftKey ? 0.1 : 0.02;
              const turn = event.shiftKey ? 15 : 1;
              const change: Partial<Record<string, Partial<Wipe>>> = {
                ArrowLeft: { x: Math.max(0, wipe.x - step) },
                ArrowRight: { x: Math.min(1, wipe.x + step) },
                ArrowUp: { y: Math.max(0, wipe.y - step) },
                ArrowDown: { y: Math.min(1, wipe.y + step) },
                PageUp: { angle: wipe.angle - turn },
                PageDown: { angle: wipe.angle + turn },
                Home: { x: 0.5, y: 0.5, angle: 0 },
              };
              const next = change[event.key];
              if (!next) return;
              event.preventDefault();
              event.stopPropagation();
              onWipe({ ...wipe, ...next });
            }}
          >
            <MoveHorizontal size={18} aria-hidden style={{ transform: `rotate(${wipe.angle}deg)` }} />
          </div>
        </>
      )}
      {captions.map((caption, i) => {
        const cell = room?.cells[wiping ? 0 : i];
        if (!cell || caption === '') return null;
        const right = wiping && i === 1;
        return (
          <p
            key={i}
            className="absolute bg-header/90 rounded-md px-2.5 py-1 text-[13px] pointer-events-none max-w-[46%] truncate"
            style={{
              ...(right
                ? { right: 12 }
                : { left: cell.x / ratio + 12, maxWidth: wiping ? '46%' : cell.width / ratio - 24 }),
              top: (cell.y + cell.height) / ratio - 40,
            }}
          >
            {caption}
          </p>
        );
      })}
      {found && (
        <p
          className="absolute bg-header rounded-md px-2.5 py-1 text-[13px] pointer-events-none whitespace-nowrap"
          style={{
            left: Math.min(found.left + 16, (room?.width ?? 0) / ratio - 220),
            top: Math.max(4, found.top - 36),
          }}
        >
          {found.probed.stops < 0 ? '−' : '+'}
          {Math.abs(found.probed.stops).toFixed(2)} stops · ΔE00 {found.probed.deltaE00.toFixed(1)},{' '}
          {found.probed.direction}
        </p>
      )}
    </div>
  );
}

/** The cell under a pointer, and where in it. */
function pointAt(event: { clientX: number; clientY: number }, element: HTMLElement, room: Room): Pointed | null {
  const rect = element.getBoundingClientRect();
  const ratio = room.width / rect.width;
  const [x, y] = [(event.clientX - rect.left) * ratio, (event.clientY - rect.top) * ratio];
  const cell = room.cells.findIndex(
    (one) => x >= one.x && x < one.x + one.width && y >= one.y && y < one.y + one.height,
  );
  return cell < 0 ? null : { cell, x: x - room.cells[cell].x, y: y - room.cells[cell].y };
}

function WipeLine({ wipe, width, height }: { wipe: Wipe; width: number; height: number }) {
  const radians = (wipe.angle * Math.PI) / 180;
  const reach = width + height;
  const [x, y] = [wipe.x * width, wipe.y * height];
  const [dx, dy] = [-Math.sin(radians) * reach, Math.cos(radians) * reach];
  return <line x1={x - dx} y1={y - dy} x2={x + dx} y2={y + dy} stroke="#ececec" strokeWidth={2} />;
}

const inDevicePixels = ({ width, height }: Frame): Frame => ({
  width: Math.round(width * window.devicePixelRatio),
  height: Math.round(height * window.devicePixelRatio),
});
