/** The windows that a picture's patches need, by what the measures ask, and how each is reduced at once. */
import { carryRect, type ViewState } from '../laying/carry';
import { reduceView } from '../laying/sceneView';
import { reducePlaces } from '../light/camera/placeGrid';
import type { Decoding } from '../light/decoding';
import { reduceField } from '../measures/shading/field';
import { fieldWindow } from '../measures/shading/requests';
import { reduceEdge } from '../measures/sharpness/reduceEdge';
import { edgeWindow } from '../measures/sharpness/requests';
import { reduceLevel } from '../measures/strength/reduceLevel';
import { levelWindow } from '../measures/strength/requests';
import type { AskWindow, MeasuredPatch, Reduced, WindowRequest } from './asked';
import type { PictureFacts } from './facts';
import { pixelsOfRect, type Picture, type PixelRect } from './window';

/** Strength and cast, shading, sharpness: all other measures work on what these see. */
const ASKED: readonly AskWindow[] = [levelWindow, fieldWindow, edgeWindow];

/** The windows that a picture's patches need. */
export function requestsOf(patches: readonly MeasuredPatch[], facts: PictureFacts, view: ViewState): WindowRequest[] {
  return patches.flatMap((patch) => {
    const pixels = pixelsOf(patch, facts, view);
    return ASKED.flatMap((ask) => ask(patch, pixels, facts) ?? []);
  });
}

function pixelsOf(patch: MeasuredPatch, facts: PictureFacts, view: ViewState): PixelRect {
  // A wall is even: it is looked at where the frame is, not where the wall went.
  const rect = view.kind === 'moved' && patch.role !== 'field' ? carryRect(patch.rect, view.pose, facts) : patch.rect;
  return (
    pixelsOfRect(rect, facts.width, facts.height) ?? {
      x: Math.min(facts.width - 1, Math.floor(rect.x * facts.width)),
      y: Math.min(facts.height - 1, Math.floor(rect.y * facts.height)),
      width: 1,
      height: 1,
    }
  );
}

/** Reduces one window by its request. */
export function reduceWindow(window: Picture, request: WindowRequest, frameWidth: number, decoding: Decoding): Reduced {
  switch (request.kind) {
    case 'level':
      return { level: reduceLevel(window, decoding) };
    case 'field':
      return { field: reduceField(window, decoding.tables, Math.floor(0.05 * frameWidth)) };
    case 'edge':
      return { edge: reduceEdge(window, decoding) };
    case 'codes':
      return { codes: window };
    case 'places':
      return { places: reducePlaces(window, decoding.tables) };
    case 'view':
      return { view: reduceView(window, decoding) };
  }
}
