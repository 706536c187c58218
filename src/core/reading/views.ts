/** How pictures lie on the bare view of their scene. */
import type { Rect } from '../session/schema';
import { alignPreviews, type Alignment } from '../laying/align';
import type { Preview } from '../laying/preview';
import type { PictureSource } from './source';
import type { MeasuredPatch } from './reduce';

/** By scene, the places that a polarizer changes by itself: they can't tell whether the camera moved. */
export function changingPlaces(patchesOf: ReadonlyMap<string, MeasuredPatch[]>): Map<string, Rect[]> {
  const places = new Map<string, Rect[]>();
  for (const [scene, patches] of patchesOf)
    if (patches.some(({ role }) => role === 'glare' || role === 'sky'))
      places.set(
        scene,
        patches.flatMap(({ role, rect }) => (role === 'glare' || role === 'sky' || role === 'color' ? [rect] : [])),
      );
  return places;
}

const alignments = new Map<string, Alignment>();
const MOST_ALIGNMENTS = 5000;

/** How one picture lies on another; known pairs of contents aren't laid on each other again. */
export function alignmentOf(
  source: PictureSource,
  files: readonly [bare: string, take: string],
  [bare, take]: readonly [Preview, Preview],
  changing?: readonly Rect[],
): Alignment {
  const ids = files.map((file) => source.identify?.(file));
  if (!ids[0] || !ids[1]) return alignPreviews(bare, take, changing);
  const key = `${ids.join(' ')} ${changing ? JSON.stringify(changing) : ''}`;
  let alignment = alignments.get(key);
  if (!alignment) {
    alignment = alignPreviews(bare, take, changing);
    alignments.set(key, alignment);
    if (alignments.size > MOST_ALIGNMENTS) alignments.delete(alignments.keys().next().value!);
  }
  return alignment;
}
