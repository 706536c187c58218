/** How pictures lie on the bare view of their scene. */
import { alignPreviews, type Alignment } from '../laying/align';
import { judgeView, type ViewState } from '../laying/carry';
import type { Preview } from '../laying/preview';
import type { Rect, Session, Take } from '../session/schema';
import type { MeasuredPatch } from './asked';
import type { OpenPicture, PictureSource } from './source';

/** The bare view of each scene, and how every other picture of the scene lies on it. */
export interface ViewRegistry {
  /**
   * How a picture lies on its scene's bare view. The first bare picture that is placed becomes that view: place one before any other of
   * its scene.
   */
  place(take: Take, file: string, picture: Pick<OpenPicture, 'facts' | 'preview'>): ViewState;
}

const SAME: ViewState = { kind: 'same' };

/** A registry that knows no view yet. */
export function viewRegistry(
  session: Session,
  source: PictureSource,
  patchesOf: ReadonlyMap<string, readonly MeasuredPatch[]>,
): ViewRegistry {
  // Before a polarizer a screen goes dark with all that is on it: its view tells nothing.
  const blind = new Set(session.scenes.filter((scene) => scene.kind === 'screen').map((scene) => scene.id));
  const bareViews = new Map<string, { file: string; preview: Preview }>();
  const changing = changingPlaces(patchesOf);
  return {
    place(take, file, { facts, preview }) {
      if (!preview || blind.has(take.scene)) return SAME;
      const bare = bareViews.get(take.scene);
      if (!bare) {
        if (take.filter === null) bareViews.set(take.scene, { file, preview });
        return SAME;
      }
      if (preview.width !== bare.preview.width || preview.height !== bare.preview.height) return SAME;
      const alignment = alignmentOf(source, [bare.file, file], [bare.preview, preview], changing.get(take.scene));
      return judgeView(alignment, facts);
    },
  };
}

/** By scene, the places that a polarizer changes by itself: they can't tell whether the camera moved. */
function changingPlaces(patchesOf: ReadonlyMap<string, readonly MeasuredPatch[]>): Map<string, Rect[]> {
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
function alignmentOf(
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
