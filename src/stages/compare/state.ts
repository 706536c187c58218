/** What is chosen in the viewing room, and the room that follows from it. */
import { fitView, clampView, type Frame, type View, type Wipe } from './viewport';
import { levelling, type Levelling } from '@/core/viewing/level';
import type { Gamut } from '@/core/viewing/display';
import { invert, multiply, resolveColorSpace } from '@/core/formulas/color/spaces';
import { linearTable } from '@/core/formulas/transfer/transfer';
import { resolveResponse } from '@/core/light/response';
import { IDENTITY } from '@/core/laying/align';
import type { ComparedPicture, ComparedSession, LaidOn } from '@/server/compare';
import { AT_REST, momentOf, type Playback } from './playback';
import type { Cell, CellMode, Layer, Room } from './scene';
import type { Shown } from './shown';

export type Layout = 'wipe' | 'side' | 'stack' | 'tiles' | 'difference' | 'ratio';
export type Level = 'shot' | 'level' | 'channels';

/** A picture with the session that it is of. */
export interface Choice {
  layout: Layout;
  level: Level;
  wipe: Wipe;
  /** `null` is the whole picture. */
  view: View | null;
  marks: boolean;
  /** L* of the room. */
  lightness: number;
  /** `null` is the screen's own. */
  gamut: Gamut | null;
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
  gamut: null,
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

/**
 * What a picture's light is raised by, at the exposures of the moments that are shown; `null` where a figure or an exposure is missing:
 * it would be a guess.
 */
export function levellingOf(shown: Shown, wanted: Level, playback: Playback = AT_REST): Levelling | null {
  const { picture, bare } = shown;
  if (wanted === 'shot' || !picture.strength) return null;
  const own = exposureAt(picture, momentOf(shown, playback));
  const bares = bare && exposureAt(bare, momentOf({ ...shown, picture: bare }, playback));
  if (own === null || bares === null) return null;
  const { stops, channels } = picture.strength;
  return levelling(stops, { take: own, bare: bares }, wanted === 'channels' ? channels : null);
}

/** log2 exposure of a picture; of a clip at a moment, its span's middle when none is chosen. */
function exposureAt({ exposures, film }: ComparedPicture, moment: number | null): number | null {
  const seconds = moment ?? (film ? (film.from + film.to) / 2 : 0);
  return (exposures.findLast((one) => one.from <= seconds + 5e-4) ?? exposures[0])?.log2 ?? null;
}

const SRGB_TO_P3 = multiply(invert(resolveColorSpace('display-p3').toXyz), resolveColorSpace('srgb').toXyz);
const curvesKnown = new Map<string, readonly Float32Array[]>();

/** Light of a clip's eight-bit codes, a table a channel. One object a response and encoding: painters keep what they make of it. */
function curvesOf({ response, film }: ComparedPicture): readonly Float32Array[] {
  const key = JSON.stringify([response, film!.encoding.transfer]);
  let found = curvesKnown.get(key);
  if (!found) {
    const { decode } = resolveResponse(response, film!.encoding, () => '');
    found = decode.map((one) => Float32Array.from(linearTable(one, 8)));
    if (found.length === 1) found = [found[0], found[0], found[0]];
    curvesKnown.set(key, found);
  }
  return found;
}

export function layerOf(
  shown: Shown,
  wanted: Level,
  laid: ReadonlyMap<string, LaidOn>,
  playback: Playback = AT_REST,
  gamut: Gamut = 'srgb',
): Layer {
  const { picture, session } = shown;
  const moment = momentOf(shown, playback);
  const frame = moment === null ? null : playback.frame(picture.sha256, moment, picture.film!.seconds);
  const screen = session.toScreen as [number, number, number, number, number, number, number, number, number];
  return {
    key: {
      sha256: picture.sha256,
      response: picture.response,
      ...(moment === null ? { made: picture.pyramid } : { at: moment }),
    },
    film: frame && { ...frame, curves: curvesOf(picture) },
    passing: moment !== null && playback.moving,
    frame: picture.frame,
    pose: laid.get(picture.sha256)?.pose ?? IDENTITY,
    gains: levellingOf(shown, wanted, playback)?.gains ?? [1, 1, 1],
    white: picture.white,
    toScreen: gamut === 'srgb' ? screen : [...multiply(SRGB_TO_P3, screen)],
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
  playback: Playback = AT_REST,
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
    const layer = (one: Shown) => layerOf(one, choice.level, laid, playback, choice.gamut ?? 'srgb');
    return { ...place, mode, a: layer(a), b: b ? layer(b) : null };
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
    gamut: choice.gamut ?? 'srgb',
    marks: choice.marks,
  };
}
