/** What is chosen in the viewing room, and the room that follows from it. */
import { fitView, clampView, type Frame, type Levelling, type View, type Wipe } from '@/core/compare';
import { IDENTITY } from '@/core/registration';
import type { ComparedPicture, ComparedSession, LaidOn } from '@/app/server/compare';
import type { Cell, CellMode, Layer, Room } from './scene';

export type Layout = 'wipe' | 'side' | 'stack' | 'tiles' | 'difference' | 'ratio';
export type Level = 'shot' | 'level' | 'channels';

/** A picture with the session that it is of. */
export interface Shown {
  picture: ComparedPicture;
  /** Bare of its own session and scene, that it is laid on and levelled against. */
  bare: ComparedPicture | null;
  session: ComparedSession;
}

export interface Choice {
  layout: Layout;
  level: Level;
  wipe: Wipe;
  /** `null` is the whole picture. */
  view: View | null;
  marks: boolean;
  /** L* of the room. */
  lightness: number;
  /** Bare is shown in place of everything else. */
  bare: boolean;
  instruments: boolean;
  loupe: boolean;
}

export const FIRST_CHOICE: Choice = {
  layout: 'wipe',
  level: 'level',
  wipe: { x: 0.5, y: 0.5, angle: 0 },
  view: null,
  marks: false,
  lightness: 25,
  bare: false,
  instruments: false,
  loupe: false,
};

export const MOST_TILES_SHOWN = 6;

/** Bare of a picture's own scene: the first one that was shot. */
export function bareOf(
  { pictures }: ComparedSession,
  { scene }: Pick<ComparedPicture, 'scene'>,
): ComparedPicture | null {
  return pictures.find((one) => one.scene === scene && one.filter === null) ?? null;
}

export function levellingOf({ level, channels }: ComparedPicture, wanted: Level): Levelling {
  const none: Levelling = { gains: [1, 1, 1], raised: 0 };
  if (wanted === 'shot') return none;
  return (wanted === 'channels' ? channels : null) ?? level ?? none;
}

export function layerOf({ picture, session }: Shown, wanted: Level, laid: ReadonlyMap<string, LaidOn>): Layer {
  return {
    key: { sha256: picture.sha256, response: picture.response },
    frame: picture.frame,
    pose: laid.get(picture.sha256)?.pose ?? IDENTITY,
    gains: levellingOf(picture, wanted).gains,
    white: picture.white,
    toScreen: session.toScreen,
    luminance: session.luminance,
  };
}

/** Room between tiles, CSS pixels. */
const GAP = 4;

/** Cells of a layout, in device pixels. */
export function cellsOf(
  layout: Layout,
  count: number,
  canvas: Frame,
  ratio: number,
): (Frame & { x: number; y: number })[] {
  if (layout === 'wipe' || layout === 'difference' || layout === 'ratio') return [{ x: 0, y: 0, ...canvas }];
  const columns = layout === 'stack' ? 1 : layout === 'side' ? count : count <= 2 ? count : count <= 4 ? 2 : 3;
  const rows = Math.ceil(count / columns);
  const gap = Math.round(GAP * ratio);
  const width = Math.floor((canvas.width - gap * (columns - 1)) / columns);
  const height = Math.floor((canvas.height - gap * (rows - 1)) / rows);
  return Array.from({ length: count }, (_, i) => ({
    x: (i % columns) * (width + gap),
    y: Math.floor(i / columns) * (height + gap),
    width,
    height,
  }));
}

/** A loupe's side and its zoom. */
const LOUPE_PX = 190;
const LOUPE_SCALE = 4;

/** Two small windows in the right upper corner, bare and the other, four times larger than the pictures' own pixels. */
function loupeCells(cells: readonly Cell[], at: { x: number; y: number }, canvas: Frame, ratio: number): Cell[] {
  const side = Math.round(LOUPE_PX * ratio);
  const layers = [cells[0].a, cells[0].b ?? cells[1]?.a].filter((one) => one !== undefined);
  return layers.map((layer, i) => ({
    x: canvas.width - (layers.length - i) * (side + Math.round(2 * ratio)) - Math.round(12 * ratio),
    y: Math.round(12 * ratio),
    width: side,
    height: side,
    mode: 'single',
    a: layer,
    b: null,
    view: { ...at, scale: LOUPE_SCALE * ratio },
  }));
}

/** Everything that is drawn. `shown` begins with bare; a wipe and a difference take the first two. */
export function roomOf(
  choice: Choice,
  shown: readonly Shown[],
  laid: ReadonlyMap<string, LaidOn>,
  canvas: Frame,
  ratio: number,
  loupe: { x: number; y: number } | null = null,
): Room | null {
  if (shown.length === 0 || canvas.width < 2 || canvas.height < 2) return null;
  const [first, second] = shown;
  const frame = first.picture.frame;
  const two = choice.layout === 'wipe' || choice.layout === 'difference' || choice.layout === 'ratio';
  const places = cellsOf(choice.layout, two ? 1 : shown.length, canvas, ratio);
  const cells = places.map((place, i): Cell => {
    const a = choice.bare ? first : two ? first : shown[i];
    const b = two && !choice.bare ? second : undefined;
    const mode: CellMode = !b ? 'single' : choice.layout === 'wipe' ? 'wipe' : (choice.layout as CellMode);
    return { ...place, mode, a: layerOf(a, choice.level, laid), b: b ? layerOf(b, choice.level, laid) : null };
  });
  const view = choice.view ? clampView(choice.view, frame, places[0]) : fitView(frame, places[0]);
  const luminance = ((choice.lightness + 16) / 116) ** 3;
  const gray = luminance <= 0.0031308 ? 12.92 * luminance : 1.055 * luminance ** (1 / 2.4) - 0.055;
  return {
    ...canvas,
    cells: loupe ? [...cells, ...loupeCells(cells, loupe, canvas, ratio)] : cells,
    view,
    frame,
    wipe: choice.wipe,
    gray,
    marks: choice.marks,
  };
}
