/** What a picture's file name gives away: its filter, or that it is bare. */
import type { DraftScene } from './draft';
import { nominalStops, parseKitShorthand, type Nominal, type FilterKind } from '../labels';

export interface NamedFilter {
  id: string;
  name: string;
  kind: FilterKind;
  nominal: Nominal;
}

/** The filter a name speaks of: its id, `null` for bare, `undefined` when the name says nothing. */
export function guessFilter(fileName: string, filters: readonly NamedFilter[]): string | null | undefined {
  const stem = fileName.replace(/^.*[/\\]/, '').replace(/\.[^.]+$/, '');
  const words = stem.split(/[\s_,;()]+|-(?=[a-z])|(?<=[a-z\d])-/i).filter(Boolean);
  const exact = filters.filter((filter) => contains(stem, filter.id) || contains(stem, filter.name));
  // The longest name wins: "nd16pl" also contains "nd16".
  const longest = exact.sort((a, b) => Math.max(b.id.length, b.name.length) - Math.max(a.id.length, a.name.length))[0];
  if (longest) return longest.id;
  if (words.some((word) => /^(?:bare|base|baseline|bracket|none|nofilter|without|no)\d*$/i.test(word))) return null;
  for (const word of words) {
    const [read] = parseKitShorthand(word).filters;
    if (!read || /^\d+(\.\d+)?$/.test(word)) continue;
    const match = filters.find((filter) => filter.kind === read.kind && sameStrength(filter.nominal, read.nominal));
    if (match) return match.id;
  }
  return undefined;
}

/** What a name says of the scene and of its part in a bracket. */
export function guessScene(fileName: string): { scene: DraftScene; bracket: boolean } {
  const words = fileName.toLowerCase().split(/[^a-z]+/);
  const says = (...known: string[]) => words.some((word) => known.includes(word));
  return {
    scene: says('flat', 'wall', 'field', 'sheet') ? 'flat' : says('flare', 'lamp', 'ghost') ? 'flare' : 'chart',
    bracket: says('bracket', 'brackets', 'bracketing'),
  };
}

/** Whether a name stands in another as a word of its own: "nd4" is not in "nd40". */
function contains(stem: string, name: string): boolean {
  const flat = (text: string) => text.toLowerCase().replace(/[\s_/-]+/g, '-');
  const at = `-${flat(stem)}-`;
  return name.length > 1 && new RegExp(`[^a-z0-9]${escape(flat(name))}(?![0-9]|[a-z])`).test(at);
}

function escape(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
}

function sameStrength(a: Nominal, b: Nominal): boolean {
  const [first, second] = [nominalStops(a), nominalStops(b)];
  if (first === null || second === null)
    return first === second && JSON.stringify(a.stopsRange) === JSON.stringify(b.stopsRange);
  return Math.abs(first - second) < 0.05;
}
