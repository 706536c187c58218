import { fixed, percent } from '@/ui/format';
import { AT_REST, momentOf, type Playback } from './playback';
import { levellingOf, type Choice, type Layout, type Level } from './state';
import type { Shown } from './shown';

export const LAYOUTS: readonly { layout: Layout; name: string; key: string }[] = [
  { layout: 'wipe', name: 'Wipe', key: 'w' },
  { layout: 'side', name: 'Side by side', key: 's' },
  { layout: 'stack', name: 'Stacked', key: 't' },
  { layout: 'tiles', name: 'Tiles', key: 'g' },
  { layout: 'difference', name: 'Difference', key: 'd' },
  { layout: 'ratio', name: 'Ratio map', key: 'r' },
];

/** What was done to a picture's light, for its caption. */
export function levelWords(shown: Shown, level: Level, playback: Playback = AT_REST): string {
  const { picture } = shown;
  if (picture.filter === null || level === 'shot') return '';
  const found = levellingOf(shown, level, playback);
  if (!found) return 'no figure to level by, as shot';
  const stops = `${found.raised < 0 ? 'lowered' : 'raised'} ${fixed(Math.abs(found.raised))} stops`;
  return level === 'channels' && picture.strength?.channels ? `${stops}, cast taken out` : stops;
}

export function captionOf(shown: Shown, level: Level, name = shown.picture.name, playback: Playback = AT_REST): string {
  const moment = momentOf(shown, playback);
  const at = moment === null ? '' : `at ${fixed(moment)} s`;
  return [name, shown.picture.caption, at, levelWords(shown, level, playback)].filter(Boolean).join(', ');
}

/** Captions of a layout's cells; a wipe has one a side, a difference one for both. */
export function captionsOf(layout: Layout, captions: readonly string[]): string[] {
  if (layout === 'wipe') return captions.slice(0, 2);
  if (layout === 'difference') return [`${captions[1]}, less bare; codes stretched four times, gray is no difference`];
  if (layout === 'ratio')
    return [
      `${captions[1]}, against bare: gray as bright, blue darker, orange brighter, a tenth of a stop a step, one stop at the ends`,
    ];
  return [...captions];
}

/** What is seen, for those who listen. */
export function spoken(
  choice: Choice,
  shown: readonly Shown[],
  scale: number,
  names: readonly string[],
  playback: Playback = AT_REST,
): string {
  const layout = LAYOUTS.find((one) => one.layout === choice.layout)!.name;
  const zoom = `${Math.round(100 * scale)} %`;
  if (choice.bare) return `Bare alone, ${zoom}.`;
  const list = shown.map((one, i) => captionOf(one, choice.level, names[i], playback)).join('; ');
  return `${layout}, ${zoom}: ${list}.`;
}

/** What was measured of the filters that are shown, a line each. */
export function figureLines(shown: readonly Shown[]): string[] {
  const lines = shown.flatMap(({ picture: { name, found } }) => {
    if (!found) return [];
    const kept = found.kept === null ? '' : `, sharpness kept ${percent(found.kept)}`;
    return [`${name}: ${fixed(found.stops)} stops, cast ΔE00 ${fixed(found.deltaE00, 1)}${kept}`];
  });
  return [...new Set(lines)];
}

/** How the kits that are shown came to the reviewer; what nobody has said is said to be unsaid. */
export function disclosures(shown: readonly Shown[]): string[] {
  const used = shown.flatMap(({ picture: { filter }, session }) =>
    session.kits.filter((kit) => filter !== null && kit.filters.includes(filter)),
  );
  return [
    ...new Set(used.map(({ name, disclosure }) => `${name}: ${disclosure ?? 'how it was obtained isn’t noted'}`)),
  ];
}
