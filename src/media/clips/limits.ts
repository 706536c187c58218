/** What children that read clips may open, and how much they may take. */

/** Only files, only these containers: a playlist or a stream that points elsewhere is refused. */
export const SAFE_INPUT = [
  '-protocol_whitelist',
  'file,pipe',
  '-format_whitelist',
  'mov,mp4,m4a,3gp,3g2,mj2,matroska,webm',
];
export const CLIP_LIMITS = { seconds: 60, memory: 6_000_000_000 } as const;
