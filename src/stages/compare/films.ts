/** Small frames of clips as they come from the server, a couple of seconds at a time (see `media/clips/reel`), decoded shortly before they are shown. */
import { REEL_SECONDS } from '@/core/viewing/pyramid';

/** Frames decoded ahead of what is shown, and kept: two megabytes each. */
const AHEAD = 6;
const MOST_FRAMES = 120;
const MOST_PARTS = 40;

export interface FilmFrame {
  id: string;
  picture: ImageBitmap;
}

interface Part {
  times: number[];
  frames: Blob[];
}

function partOf(bytes: ArrayBuffer): Part {
  const length = new DataView(bytes).getUint32(0, true);
  const { times, sizes } = JSON.parse(new TextDecoder().decode(bytes.slice(4, 4 + length))) as {
    times: number[];
    sizes: number[];
  };
  let at = 4 + length;
  return { times, frames: sizes.map((size) => new Blob([bytes.slice(at, (at += size))], { type: 'image/jpeg' })) };
}

/** Calls back whenever something has come. */
export class FilmStore {
  private readonly parts = new Map<string, Part | 'asked' | { problem: string }>();
  private readonly frames = new Map<string, ImageBitmap | 'asked'>();

  constructor(private readonly onChange: () => void) {}

  /** The frame that is on the screen at a moment, or `null` while it comes; it and the next ones are asked for. */
  readonly frame = (sha256: string, seconds: number, length: number): FilmFrame | null => {
    const here = Math.floor((seconds + 5e-4) / REEL_SECONDS);
    const part = this.part(sha256, here);
    if (!part) return null;
    const index = Math.max(
      0,
      part.times.findLastIndex((time) => time <= seconds + 5e-4),
    );
    for (let next = index; next < Math.min(part.times.length, index + AHEAD); next++) this.ask(sha256, part, next);
    const more = (here + 1) * REEL_SECONDS < length;
    if (more && part.times.length - index < 3 * AHEAD) this.part(sha256, here + 1);
    const id = `${sha256} ${part.times[index]}`;
    const picture = this.frames.get(id);
    if (picture === undefined || picture === 'asked') return null;
    // What is looked at is forgotten last.
    this.frames.delete(id);
    this.frames.set(id, picture);
    return { id, picture };
  };

  /** Why a clip can't be played; `null` where it can. */
  problem(sha256: string): string | null {
    for (const [key, part] of this.parts)
      if (key.startsWith(`${sha256} `) && part !== 'asked' && 'problem' in part) return part.problem;
    return null;
  }

  private part(sha256: string, index: number): Part | null {
    const key = `${sha256} ${index}`;
    const found = this.parts.get(key);
    if (found === undefined) void this.load(sha256, index);
    return found === undefined || found === 'asked' || 'problem' in found || found.times.length === 0 ? null : found;
  }

  private async load(sha256: string, index: number): Promise<void> {
    const key = `${sha256} ${index}`;
    this.parts.set(key, 'asked');
    for (const old of this.parts.keys()) {
      if (this.parts.size <= MOST_PARTS) break;
      this.parts.delete(old);
    }
    try {
      const answer = await fetch(`/api/files/${sha256}/reel?part=${index}`);
      if (answer.ok) this.parts.set(key, partOf(await answer.arrayBuffer()));
      else {
        const { error } = (await answer.json()) as { error?: string };
        this.parts.set(key, { problem: error ?? 'It can’t be played.' });
      }
    } catch {
      this.parts.delete(key);
    }
    this.onChange();
  }

  private ask(sha256: string, part: Part, index: number): void {
    const id = `${sha256} ${part.times[index]}`;
    if (this.frames.has(id)) return;
    this.frames.set(id, 'asked');
    // The clip's own codes: the browser must not turn them into its own colors.
    void createImageBitmap(part.frames[index], { colorSpaceConversion: 'none' }).then(
      (picture) => {
        this.frames.set(id, picture);
        for (const [old, one] of this.frames) {
          if (this.frames.size <= MOST_FRAMES) break;
          if (one !== 'asked') one.close();
          this.frames.delete(old);
        }
        this.onChange();
      },
      () => this.frames.delete(id),
    );
  }
}
