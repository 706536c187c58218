import type { ComparedPicture, ComparedSession } from '@/server/compare';

/** A session of the viewing room without pictures or kits. */
export const comparedSession: ComparedSession = {
  id: 'one',
  title: 'One',
  pictures: [],
  kits: [],
  toScreen: [1, 0, 0, 0, 1, 0, 0, 0, 1],
  luminance: [0.2126, 0.7152, 0.0722],
};

/** A picture through the filter of that name, or bare; nothing is measured or found. */
export function comparedPicture(name: string, more: Partial<ComparedPicture> = {}): ComparedPicture {
  return {
    file: `${name}.tif`,
    sha256: name,
    take: `chart-${name}`,
    scene: 'chart',
    filter: name === 'bare' ? null : name,
    name,
    caption: '1/100 s',
    frame: { width: 1200, height: 800 },
    response: { kind: 'srgb' },
    white: 1,
    strength: null,
    exposures: [],
    film: null,
    pyramid: null,
    laid: null,
    found: null,
    ...more,
  };
}
