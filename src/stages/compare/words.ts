import { fixed } from '@/ui/format';
import { levellingOf, type Choice, type Layout, type Level, type Shown } from './state';

export const LAYOUTS: readonly { layout: Layout; name: string; key: string }[] = [
  { layout: 'wipe', name: 'Wipe', key: 'w' },
  { layout: 'side', name: 'Side by side', key: 's' },
  { layout: 'stack', name: 'Stacked', key: 't' },
  { layout: 'tiles', name: 'Tiles', key: 'g' },
  { layout: 'difference', name: 'Difference', key: 'd' },
  { layout: 'ratio', name: 'Ratio map', key: 'r' },
];

/** What was done to a picture's light, for its caption. */
export function levelWords({ picture }: Shown, level: Level): string {
  if (picture.filter === null || level === 'shot') return '';
  if (!picture.level) return 'no figure to level by, as shot';
  const { raised } = levellingOf(picture, level);
  const stops = `${raised < 0 ? 'lowered' : 'raised'} ${fixed(Math.abs(raised))} stops`;
  return level === 'channels' && picture.channels ? `${stops}, cast taken out` : stops;
}

export function captionOf(shown: Shown, level: Level, name = shown.picture.name): string {
  return [name, shown.picture.caption, levelWords(shown, level)].filter(Boolean).join(', ');
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
export function spoken(choice: Choice, shown: readonly Shown[], scale: number, names: readonly string[]): string {
  const layout = LAYOUTS.find((one) => one.layout === choice.layout)!.name;
  const zoom = `${Math.round(100 * scale)} %`;
  if (choice.bare) return `Bare alone, ${zoom}.`;
  const list = shown.map((one, i) => captionOf(one, choice.level, names[i])).join('; ');
  return `${layout}, ${zoom}: ${list}.`;
}
