/** What a longer shutter would have drawn: frames of a fast one, with frames between them made along the camera's motion, averaged in light. */

/** Linear light of a frame, channels interleaved. */
export interface LightFrame {
  width: number;
  height: number;
  channels: 1 | 3;
  data: Float32Array;
}

/** From a frame to the next: what was at a point is at the point plus this, pixels of the frame; rotation in radians about the center. */
export interface Move {
  dx: number;
  dy: number;
  rotation: number;
}

/** Moments averaged, at most, and how far apart they may lie along the way, pixels. */
const MOST_MOMENTS = 48;
const APART_PX = 1;

/**
 * The light of an exposure that begins at a frame and lasts for a share of the time to the next one.
 *
 * What moves with the camera is drawn along its way; what moves by itself is blended from both frames, which hides how it went.
 *
 * @param share 0 gives the frame itself, 1 an open shutter (360°); clamped to that
 */
export function averagedShutter(first: LightFrame, next: LightFrame, move: Move, share: number): LightFrame {
  const { width, height, channels } = first;
  if (next.width !== width || next.height !== height || next.channels !== channels)
    throw new RangeError('both frames must be of one size');
  const open = Math.min(1, Math.max(0, share));
  const turned = (Math.abs(move.rotation) * Math.hypot(width, height)) / 2;
  const way = (Math.hypot(move.dx, move.dy) + turned) * open;
  const moments = open === 0 ? 1 : Math.min(MOST_MOMENTS, Math.max(3, Math.ceil(way / APART_PX) + 1));
  const out = new Float32Array(first.data.length);
  for (let k = 0; k < moments; k++) {
    const t = moments === 1 ? 0 : (open * (k + 0.5)) / moments;
    add(out, first, move, -t, (1 - t) / moments);
    if (t > 0) add(out, next, move, 1 - t, t / moments);
  }
  return { width, height, channels, data: out };
}

/** Adds a frame as it lies a share of the move on; edges are repeated. */
function add(out: Float32Array, frame: LightFrame, { dx, dy, rotation }: Move, share: number, weight: number): void {
  const { width, height, channels, data } = frame;
  const [cos, sin] = [Math.cos(rotation * share), Math.sin(rotation * share)];
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, v] = [x - cx, y - cy];
      const px = Math.min(width - 1, Math.max(0, cos * u - sin * v + cx + share * dx));
      const py = Math.min(height - 1, Math.max(0, sin * u + cos * v + cy + share * dy));
      const [i, j] = [Math.min(width - 2, Math.floor(px)), Math.min(height - 2, Math.floor(py))];
      const [s, t] = [px - i, py - j];
      const a = (j * width + i) * channels;
      const b = a + width * channels;
      for (let c = 0; c < channels; c++, at++)
        out[at] +=
          weight *
          ((1 - t) * ((1 - s) * data[a + c] + s * data[a + channels + c]) +
            t * ((1 - s) * data[b + c] + s * data[b + channels + c]));
    }
}
