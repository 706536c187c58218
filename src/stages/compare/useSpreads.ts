import { useEffect, useState, type RefObject } from 'react';
import { spreadOf, type Spread } from './Instruments';
import type { Painter, Room } from './scene';

/** The view rests for so long before histograms are made of it. */
const RESTS_MS = 250;

/**
 * How light is spread in what is shown.
 *
 * @param room `null` while nobody wants to know
 * @param tiles how many tiles are shown; `null` for two pictures in one
 * @param settled changes when all pictures have come
 */
export function useSpreads(
  painter: RefObject<Painter | null>,
  room: Room | null,
  tiles: number | null,
  settled: boolean,
): Spread[] {
  const [spreads, setSpreads] = useState<Spread[]>([]);
  useEffect(() => {
    if (!room) return;
    const timer = setTimeout(() => {
      const { current } = painter;
      if (!current) return;
      const layers =
        tiles === null
          ? (['a', 'b'] as const).flatMap((which) => (room.cells[0][which] ? [{ cell: 0, which }] : []))
          : Array.from({ length: Math.min(tiles, room.cells.length) }, (_, cell) => ({ cell, which: 'a' as const }));
      setSpreads(
        layers.map(({ cell, which }) => {
          const layer = room.cells[cell][which]!;
          return spreadOf(current.sample(room, cell, which), layer.gains, layer.white);
        }),
      );
      current.draw(room);
    }, RESTS_MS);
    return () => clearTimeout(timer);
  }, [painter, room, tiles, settled]);
  return spreads;
}
