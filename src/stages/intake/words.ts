import { factsOf, type ArrivedFile } from '@/core/sitting/intake/arrived';

/** Size, kind and time in a line. */
export function describeFacts(file: ArrivedFile): string {
  const { width, height, bitDepth, capturedAt, encoding, clip } = factsOf(file);
  const time = capturedAt ? ` · ${capturedAt.slice(0, 19).replace('T', ' ')}` : '';
  if (clip)
    return `${width} × ${height}, ${clip.codec}, ${clip.seconds.toFixed(1)} s at ${clip.framesPerSecond.toFixed(2)} fps${time}`;
  return `${width} × ${height}, ${bitDepth} bit${encoding.profile ? `, ${encoding.profile}` : ''}${time}`;
}
