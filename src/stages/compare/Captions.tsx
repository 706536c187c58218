import type { Probed } from './probe';
import type { Room } from './scene';

/** What each cell shows, at its foot; of a wipe one a side. */
export function Captions({
  room,
  ratio,
  captions,
  wiping,
}: {
  room: Room | null;
  /** Device pixels per CSS pixel. */
  ratio: number;
  captions: readonly string[];
  wiping: boolean;
}) {
  return captions.map((caption, i) => {
    const cell = room?.cells[wiping ? 0 : i];
    if (!cell || caption === '') return null;
    const right = wiping && i === 1;
    return (
      <p
        key={i}
        className="absolute bg-header/90 rounded-md px-2.5 py-1 text-label pointer-events-none max-w-[46%] truncate"
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
  });
}

/** What was read under the pointer. */
export function ProbeNote({
  left,
  top,
  width,
  coarse,
  probed: { stops, deltaE00, direction },
}: {
  left: number;
  top: number;
  /** CSS pixels of the picture's box. */
  width: number;
  /** What is in view was still on its way when it was read: a small view that stands in blurs the place with what is beside it. */
  coarse: boolean;
  probed: Probed;
}) {
  return (
    <p
      className="absolute bg-header rounded-md px-2.5 py-1 text-label pointer-events-none whitespace-nowrap"
      style={{ left: Math.min(left + 16, width - (coarse ? 310 : 220)), top: Math.max(4, top - 36) }}
    >
      {coarse && 'still coarse: '}
      {stops < 0 ? '−' : '+'}
      {Math.abs(stops).toFixed(2)} stops · ΔE00 {deltaE00.toFixed(1)}, {direction}
    </p>
  );
}
