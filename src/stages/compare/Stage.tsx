'use client';

import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { Captions, ProbeNote } from './Captions';
import type { Probed } from './probe';
import type { Room } from './scene';
import { pointAt, useGestures, type Pointed } from './useGestures';
import type { Frame, View, Wipe } from './viewport';
import { WipeHandle } from './WipeHandle';

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
  const hovered = useRef<{ clientX: number; clientY: number } | null>(null);
  const [found, setFound] = useState<{ left: number; top: number; probed: Probed; coarse: boolean } | null>(null);

  /** Reads the light under the pointer. */
  function read() {
    const at = room && box.current && hovered.current && pointAt(hovered.current, box.current, room);
    const probed = at && probe(at);
    if (!probed) return setFound(null);
    const rect = box.current!.getBoundingClientRect();
    const { clientX, clientY } = hovered.current!;
    setFound({ left: clientX - rect.left, top: clientY - rect.top, probed, coarse: !settled });
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

  function hover(event: PointerEvent) {
    hovered.current = { clientX: event.clientX, clientY: event.clientY };
    onPoint(pointAt(event, box.current!, room!));
    read();
  }
  const { onPointerDown, ...gestures } = useGestures({ box, room, ratio, onSize, onView, onHover: hover });
  return (
    <div
      ref={box}
      className="relative min-h-0 flex-1 overflow-hidden touch-none select-none cursor-grab active:cursor-grabbing"
      {...gestures}
      onPointerDown={(event) => {
        onPointerDown(event);
        hovered.current = null;
        setFound(null);
      }}
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
      {wiping && room && <WipeHandle box={box} room={room} ratio={ratio} onWipe={onWipe} />}
      <Captions room={room} ratio={ratio} captions={captions} wiping={wiping} />
      {found && <ProbeNote {...found} coarse={found.coarse || !settled} width={(room?.width ?? 0) / ratio} />}
    </div>
  );
}
