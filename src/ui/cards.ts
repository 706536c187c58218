/** Cards for a video: figures on a picture of its own, wide or upright, drawn by the browser with the page's own type. */
import { saveBlob } from './saveBlob';

export interface Card {
  title: string;
  subtitle: string;
  /** Large figures with what they are. */
  figures: { value: string; unit: string; what: string }[];
  /** Rows of a table: name, figure, word. */
  rows: { name: string; value: string; word: string }[];
  foot: string;
}

export type CardShape = 'wide' | 'upright';
const SIZES: Record<CardShape, [number, number]> = { wide: [1920, 1080], upright: [1080, 1920] };
const FACE = '"Archivo Variable", system-ui, sans-serif';
const [INK, QUIET, LINE, FLOOR] = ['#ececec', '#bababa', '#5f5f5f', '#333333'];

/** Draws a card; text that would run over is made narrower. */
export function drawCard({ title, subtitle, figures, rows, foot }: Card, shape: CardShape): OffscreenCanvas {
  const [width, height] = SIZES[shape];
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  const edge = 90;
  const inside = width - 2 * edge;
  const write = (
    text: string,
    x: number,
    y: number,
    size: number,
    { ink = INK, weight = 400, align = 'left' as CanvasTextAlign, room = inside } = {},
  ) => {
    context.font = `${weight} ${size}px ${FACE}`;
    context.fillStyle = ink;
    context.textAlign = align;
    context.fillText(text, x, y, room);
  };
  context.fillStyle = FLOOR;
  context.fillRect(0, 0, width, height);
  context.textBaseline = 'alphabetic';
  write(title, edge, edge + 74, 84, { weight: 640 });
  write(subtitle, edge, edge + 134, 40, { ink: QUIET });
  const top = edge + 210;
  // Wide: figures left, rows right; upright: one below the other.
  const left = shape === 'wide' ? inside * 0.42 : inside;
  let y = top;
  for (const { value, unit, what } of figures) {
    write(value, edge, y + 112, 128, { weight: 560, room: left * 0.72 });
    const wide = Math.min(context.measureText(value).width, left * 0.72);
    write(unit, edge + wide + 18, y + 112, 40, { ink: QUIET, room: left - wide - 18 });
    write(what, edge, y + 166, 36, { ink: QUIET, room: left });
    y += 210;
  }
  const x = shape === 'wide' && figures.length > 0 ? edge + inside * 0.48 : edge;
  const room = shape === 'wide' && figures.length > 0 ? inside * 0.52 : inside;
  let row = shape === 'wide' ? top : figures.length > 0 ? y + 30 : top;
  const step = Math.min(96, (height - edge - 90 - row) / Math.max(1, rows.length));
  for (const { name, value, word } of rows) {
    context.strokeStyle = LINE;
    context.lineWidth = 2;
    context.beginPath();
    context.moveTo(x, row + step);
    context.lineTo(x + room, row + step);
    context.stroke();
    const base = row + step * 0.66;
    const size = Math.min(44, step * 0.5);
    write(name, x, base, size, { weight: 600, room: room * 0.4 });
    write(value, x + room * 0.68, base, size, { align: 'right', room: room * 0.27 });
    write(word, x + room, base, size * 0.8, { ink: QUIET, align: 'right', room: room * 0.3 });
    row += step;
  }
  write(foot, edge, height - edge + 20, 30, { ink: QUIET });
  return canvas;
}

/** Saves a card as PNG. */
export async function saveCard(card: Card, shape: CardShape, name: string): Promise<void> {
  await document.fonts.ready;
  saveBlob(await drawCard(card, shape).convertToBlob({ type: 'image/png' }), `${name}-${shape}.png`);
}
