/** The view as a picture to take away; the browser writes its primaries into the file. */
import type { Gamut } from '@/core/viewing/display';

export interface SavedTile {
  x: number;
  y: number;
  width: number;
  height: number;
  caption: string;
}

/** What the canvas shows, at its own pixels, with a caption below each tile and lines of what else there is to say. */
export async function drawView(
  canvas: HTMLCanvasElement,
  tiles: readonly SavedTile[],
  lines: readonly string[],
  gamut: Gamut,
): Promise<OffscreenCanvas> {
  const line = Math.max(18, Math.round(canvas.width / 70));
  const rows = [...new Set(tiles.map((tile) => tile.y))].sort((a, b) => a - b);
  const offset = (tile: SavedTile) => rows.indexOf(tile.y) * 2 * line;
  const out = new OffscreenCanvas(
    canvas.width,
    canvas.height + rows.length * 2 * line + (0.6 + 1.4 * lines.length) * line,
  );
  const context = out.getContext('2d', { colorSpace: gamut })!;
  context.fillStyle = '#2c2c2c';
  context.fillRect(0, 0, out.width, out.height);
  context.font = `${line}px "Archivo Variable", sans-serif`;
  context.textBaseline = 'middle';
  for (const row of rows) {
    const height = Math.max(...tiles.filter((tile) => tile.y === row).map((tile) => tile.height));
    const at = row + rows.indexOf(row) * 2 * line;
    context.drawImage(canvas, 0, row, canvas.width, height, 0, at, canvas.width, height);
  }
  context.fillStyle = '#ececec';
  const placed = new Map<string, number>();
  for (const tile of tiles) {
    // Two captions of one tile (a wipe) stand left and right.
    const key = `${tile.x} ${tile.y}`;
    const second = placed.has(key);
    placed.set(key, 1);
    context.textAlign = second ? 'right' : 'left';
    const x = second ? tile.x + tile.width - line / 2 : tile.x + line / 2;
    context.fillText(tile.caption, x, tile.y + tile.height + offset(tile) + line, tile.width / (second ? 2 : 1));
  }
  context.textAlign = 'left';
  context.fillStyle = '#b0b0b0';
  lines.forEach((text, i) =>
    context.fillText(text, line / 2, out.height - line * (1 + 1.4 * (lines.length - 1 - i)), out.width - line),
  );
  return out;
}

/** Pixels across of a picture that goes into a report, at most. */
const REPORT_WIDTH = 2000;

/** Stores a drawn view, for a report. Rejects with an Error whose message is a sentence. @returns the picture's hash */
export async function storeView(drawn: OffscreenCanvas): Promise<string> {
  const scale = Math.min(1, REPORT_WIDTH / drawn.width);
  const small = new OffscreenCanvas(Math.round(drawn.width * scale), Math.round(drawn.height * scale));
  // Reports are read everywhere: sRGB.
  const context = small.getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(drawn, 0, 0, small.width, small.height);
  const body = await small.convertToBlob({ type: 'image/jpeg', quality: 0.92 });
  const sent = await fetch('/api/photos?name=compare.jpg', { method: 'POST', body });
  const answer = (await sent.json().catch(() => ({}))) as { sha256?: string; error?: string };
  if (!sent.ok || !answer.sha256) throw new Error(answer.error ?? 'The picture was not taken in.');
  return answer.sha256;
}
