/** What can go wrong with one take while shooting, for trying a live sitting out with the simulated camera. */
export const SHOT_MISTAKES = [
  'clipped',
  'dark',
  'moved',
  'focus',
  'white balance',
  'wrong filter',
  'wrong angle',
  'light',
] as const;
export type ShotMistake = (typeof SHOT_MISTAKES)[number];
