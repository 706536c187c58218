import { MoveHorizontal } from 'lucide-react';
import type { KeyboardEvent, PointerEvent, RefObject } from 'react';
import type { Room } from './scene';
import type { Wipe } from './viewport';

/** Share of the picture that an arrow moves the line by, and degrees that a page key turns it by; with Shift the second. */
const [STEP, STRIDE] = [0.02, 0.1];
const [TURN, QUICK_TURN] = [1, 15];
const within = (part: number) => Math.min(1, Math.max(0, part));

/**
 * The wipe's line with its handle. By hand, not a slider of the library's: it goes in two directions and turns.
 */
export function WipeHandle({
  box,
  room,
  ratio,
  onWipe,
}: {
  box: RefObject<HTMLDivElement | null>;
  room: Room;
  ratio: number;
  onWipe: (wipe: Wipe) => void;
}) {
  const { wipe } = room;

  function slid(event: PointerEvent) {
    event.stopPropagation();
    if (!box.current || event.buttons === 0) return;
    const { left, top, width, height } = box.current.getBoundingClientRect();
    onWipe({ ...wipe, x: within((event.clientX - left) / width), y: within((event.clientY - top) / height) });
  }
  function keyed(event: KeyboardEvent) {
    const next = nextWipe(wipe, event.key, event.shiftKey);
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    onWipe(next);
  }
  return (
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
        className="absolute size-11 -ml-[22px] -mt-[22px] rounded-full bg-ink text-on-ink grid place-items-center cursor-ew-resize"
        style={{ left: `${100 * wipe.x}%`, top: `${100 * wipe.y}%` }}
        onPointerDown={(event) => {
          event.stopPropagation();
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={slid}
        onPointerUp={(event) => event.stopPropagation()}
        onKeyDown={keyed}
      >
        <MoveHorizontal size={18} aria-hidden style={{ transform: `rotate(${wipe.angle}deg)` }} />
      </div>
    </>
  );
}

/** The line after a key; `null` for keys that don't move it. */
export function nextWipe(wipe: Wipe, key: string, shift: boolean): Wipe | null {
  const step = shift ? STRIDE : STEP;
  const turn = shift ? QUICK_TURN : TURN;
  const change: Partial<Record<string, Partial<Wipe>>> = {
    ArrowLeft: { x: within(wipe.x - step) },
    ArrowRight: { x: within(wipe.x + step) },
    ArrowUp: { y: within(wipe.y - step) },
    ArrowDown: { y: within(wipe.y + step) },
    PageUp: { angle: wipe.angle - turn },
    PageDown: { angle: wipe.angle + turn },
    Home: { x: 0.5, y: 0.5, angle: 0 },
  };
  const next = change[key];
  return next ? { ...wipe, ...next } : null;
}

function WipeLine({ wipe, width, height }: { wipe: Wipe; width: number; height: number }) {
  const radians = (wipe.angle * Math.PI) / 180;
  const reach = width + height;
  const [x, y] = [wipe.x * width, wipe.y * height];
  const [dx, dy] = [-Math.sin(radians) * reach, Math.cos(radians) * reach];
  return <line x1={x - dx} y1={y - dy} x2={x + dx} y2={y + dy} className="stroke-ink" strokeWidth={2} />;
}
