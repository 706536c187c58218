/** Light by the look of the day, where no meter is at hand: a rough start, and said to be one. */
export interface RoughLight {
  words: string;
  /** EV at ISO 100. */
  ev100: number;
}

/** Exposure tables as they are printed with film and meters (common practice, no source); each is good to a stop or so. */
export const ROUGH_LIGHT: readonly RoughLight[] = [
  { words: 'sun on snow or white sand', ev100: 16 },
  { words: 'bright sun, hard shadows', ev100: 15 },
  { words: 'hazy sun, soft shadows', ev100: 14 },
  { words: 'bright cloud, no shadows', ev100: 13 },
  { words: 'dull cloud, open shade', ev100: 12 },
  { words: 'dusk or dawn, sun just gone', ev100: 10 },
  { words: 'a bright street at night', ev100: 7 },
];
