'use client';

import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Patch, Rect } from '@/core/session/schema';
import type { ProposedPatch } from '@/core/sitting/regions/propose';
import { patchName } from '@/ui/format';
import { dragged, nudged, rectBetween, type Grip } from './rects';

const GRIPS: readonly [Grip, string, string][] = [
  ['nw', 'left-0 top-0', 'nwse-resize'],
  ['n', 'left-1/2 top-0', 'ns-resize'],
  ['ne', 'left-full top-0', 'nesw-resize'],
  ['e', 'left-full top-1/2', 'ew-resize'],
  ['se', 'left-full top-full', 'nwse-resize'],
  ['s', 'left-1/2 top-full', 'ns-resize'],
  ['sw', 'left-0 top-full', 'nesw-resize'],
  ['w', 'left-0 top-1/2', 'ew-resize'],
];

type Gesture = { kind: 'draw'; x: number; y: number } | { kind: 'drag'; grip: Grip; x: number; y: number; from: Rect };

/** A picture with patches on it: drag on free ground draws the selected patch anew, drag a patch moves it, its grips size it. */
export function PictureWithPatches({
  src,
  frame,
  patches,
  proposed,
  selected,
  onSelect,
  onChange,
  onRemove,
}: {
  src: string;
  frame: { width: number; height: number };
  patches: readonly Patch[];
  /** Places that are only proposed: drawn, not to be dragged. */
  proposed: readonly ProposedPatch[];
  selected: string | null;
  onSelect: (id: string) => void;
  onChange: (rect: Rect) => void;
  onRemove: () => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const [gesture, setGesture] = useState<Gesture | null>(null);

  const at = (event: PointerEvent) => {
    const bounds = box.current!.getBoundingClientRect();
    return { x: (event.clientX - bounds.left) / bounds.width, y: (event.clientY - bounds.top) / bounds.height };
  };
  function begin(event: PointerEvent, patch?: Patch, grip: Grip = 'move') {
    if (event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    box.current!.setPointerCapture(event.pointerId);
    const point = at(event);
    if (patch) {
      onSelect(patch.id);
      box.current!.querySelector<HTMLElement>(`[data-patch="${CSS.escape(patch.id)}"]`)?.focus();
      setGesture({ kind: 'drag', grip, ...point, from: patch.rect });
    } else setGesture({ kind: 'draw', ...point });
  }
  function move(event: PointerEvent) {
    if (!gesture) return;
    const point = at(event);
    if (gesture.kind === 'drag')
      onChange(dragged(gesture.from, gesture.grip, point.x - gesture.x, point.y - gesture.y));
    else if (Math.hypot(point.x - gesture.x, point.y - gesture.y) > 0.004)
      onChange(rectBetween(gesture.x, gesture.y, point.x, point.y));
  }
  function end() {
    setGesture(null);
  }
  function key(event: KeyboardEvent, patch: Patch) {
    if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      onRemove();
      return;
    }
    const rect = nudged(patch.rect, event.key, { shift: event.shiftKey, far: event.ctrlKey || event.metaKey, frame });
    if (!rect) return;
    event.preventDefault();
    onSelect(patch.id);
    onChange(rect);
  }

  return (
    <div
      ref={box}
      onPointerDown={(event) => begin(event)}
      onPointerMove={move}
      onPointerUp={end}
      onPointerCancel={end}
      className="relative select-none touch-none cursor-crosshair bg-well"
      style={{ aspectRatio: `${frame.width} / ${frame.height}` }}
      data-testid="picture"
    >
      <img src={src} alt="The bare picture" draggable={false} className="absolute inset-0 w-full h-full" />
      {proposed.map(({ id, rect, reason }) => (
        <span
          key={`proposed ${id}`}
          data-proposed={id}
          title={reason}
          aria-hidden
          className="absolute border border-dashed border-white"
          style={{
            left: `${100 * rect.x}%`,
            top: `${100 * rect.y}%`,
            width: `${100 * rect.width}%`,
            height: `${100 * rect.height}%`,
            outline: '1px solid rgb(0 0 0 / 0.6)',
          }}
        />
      ))}
      {patches.map((patch) => {
        const active = patch.id === selected;
        const { x, y, width, height } = patch.rect;
        return (
          <div
            key={patch.id}
            data-patch={patch.id}
            role="button"
            tabIndex={0}
            aria-pressed={active}
            aria-label={`Patch ${patchName(patch)}: ${Math.round(width * frame.width)} by ${Math.round(height * frame.height)} pixels at ${Math.round(x * frame.width)}, ${Math.round(y * frame.height)}. Arrow keys move it, with Shift they size it.`}
            onPointerDown={(event) => begin(event, patch)}
            onFocus={() => onSelect(patch.id)}
            onKeyDown={(event) => key(event, patch)}
            className="absolute cursor-move outline-offset-4"
            style={{
              left: `${100 * x}%`,
              top: `${100 * y}%`,
              width: `${100 * width}%`,
              height: `${100 * height}%`,
              boxShadow: active
                ? '0 0 0 2px #9fe3c4, 0 0 0 4px rgb(0 0 0 / 0.55)'
                : '0 0 0 1.5px #ffffff, 0 0 0 3px rgb(0 0 0 / 0.55)',
            }}
          >
            {active && (
              <span className="absolute left-0 bottom-full mb-1.5 text-small font-semibold bg-header/80 px-1.5 rounded whitespace-nowrap">
                {patchName(patch)}
              </span>
            )}
            {active &&
              GRIPS.map(([grip, place, cursor]) => (
                <span
                  key={grip}
                  data-grip={grip}
                  onPointerDown={(event) => begin(event, patch, grip)}
                  className={`absolute size-5 -translate-x-1/2 -translate-y-1/2 grid place-items-center ${place}`}
                  style={{ cursor }}
                >
                  <span className="size-2 bg-accent outline outline-1 outline-black/60" />
                </span>
              ))}
          </div>
        );
      })}
    </div>
  );
}
