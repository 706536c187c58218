/** What a picture's file name gives away: its filter, or that it is bare. */
import type { DraftScene } from './draft';
import { nominalStops, type Nominal, type FilterKind } from '../../session/notation';
import { filterInName, UNNUMBERED, type SaidFilter } from './filterWords';

export interface NamedFilter {
  id: string;
  name: string;
  kind: FilterKind;
  nominal: Nominal;
}

/** The filter a name speaks of: its id, `null` for bare, `undefined` when the name says nothing. */
export function guessFilter(fileName: string, filters: readonly NamedFilter[]): string | null | undefined {
  const words = filterInName(fileName);
  if (words === 'bare') return null;
  const fitting = words === null ? [] : filters.filter((filter) => isSaid(filter, words));
  // A kit with two of one label names them apart: "ND8 (2)".
  if (fitting.length === 1) return fitting[0].id;
  const stem = fileName.replace(/^.*[/\\]/, '').replace(/\.[^.]*$/, '');
  const exact = (fitting.length > 0 ? fitting : filters).filter(
    (filter) => contains(stem, filter.id) || contains(stem, filter.name),
  );
  // Another strength than any of the kit has is no filter of it, whatever else of the name is like one.
  if (words?.filter && fitting.length === 0) return exact.find(({ kind }) => kind === words.kind)?.id;
  // The longest name wins: "nd16pl" also contains "nd16".
  const longest = exact.sort((a, b) => Math.max(b.id.length, b.name.length) - Math.max(a.id.length, a.name.length))[0];
  return longest?.id;
}

/** Whether a filter of a kit is what a name says; a variable or graduated one, or a polarizer, also where no strength is told. */
function isSaid({ kind, nominal, name }: NamedFilter, { kind: said, filter }: SaidFilter): boolean {
  if (kind !== said) return false;
  // A word without a grade may mean any of its kind.
  if (UNNUMBERED.has(kind)) return filter === null || !/\d/.test(filter.name) || sameWords(name, filter.name);
  return filter === null || kind === 'polarizer' || kind === 'clear' || sameStrength(nominal, filter.nominal);
}

/** All that a name says. */
export interface SaidByName {
  /** Filter id, `null` for bare, `undefined` where it says nothing. */
  filter: string | null | undefined;
  scene: DraftScene | null;
  bracket: boolean;
  ringDegrees: number | null;
  mark: number | null;
  /** Which repeat. */
  take: number | null;
}

const SCENE_WORDS: Readonly<Record<DraftScene, readonly string[]>> = {
  chart: ['chart', 'target'],
  flat: ['flat', 'wall', 'field', 'sheet'],
  flare: ['flare', 'lamp', 'ghost'],
  screen: ['screen', 'monitor', 'display'],
  water: ['water', 'glare', 'reflection', 'puddle', 'window'],
  sky: ['sky', 'skies'],
};
const BRACKET_WORDS = ['bracket', 'brackets', 'bracketing'];

/** Reads a name such as `flat_nd16_pl 45deg take2.tif`. Folders speak too, where the name itself is silent. */
export function readName(path: string, filters: readonly NamedFilter[]): SaidByName {
  const parts = path.split(/[/\\]/);
  const name = parts.pop()!;
  const own = readPart(name, filters);
  return parts.reverse().reduce((found, folder) => {
    const other = readPart(`${folder}.`, filters);
    return {
      filter: found.filter === undefined ? other.filter : found.filter,
      scene: found.scene ?? other.scene,
      bracket: found.bracket || other.bracket,
      ringDegrees: found.ringDegrees ?? other.ringDegrees,
      mark: found.mark ?? other.mark,
      take: found.take ?? other.take,
    };
  }, own);
}

function readPart(name: string, filters: readonly NamedFilter[]): SaidByName {
  const words = name.toLowerCase().split(/[^a-z]+/);
  const says = (known: readonly string[]) => words.some((word) => known.includes(word));
  const number = (pattern: RegExp) => {
    const match = pattern.exec(name);
    return match ? Number(match[1]) : null;
  };
  return {
    filter: guessFilter(name, filters),
    scene: (Object.keys(SCENE_WORDS) as DraftScene[]).find((scene) => says(SCENE_WORDS[scene])) ?? null,
    bracket: says(BRACKET_WORDS),
    ringDegrees: number(/(?<![\d.])(\d{1,3})\s?(?:deg(?:rees)?|°)(?![a-z])/i),
    mark: number(/(?<![a-z])mark[\s_-]?(\d+(?:\.\d+)?)/i) ?? markIn(name),
    take: number(/(?<![a-z])(?:take|t)[\s_-]?(\d{1,3})(?!\d)/i),
  };
}

/** A variable filter's mark, in whatever words. */
function markIn(name: string): number | null {
  const words = filterInName(name);
  return words === null || words === 'bare' ? null : words.mark;
}

/** What a name says of the scene and of its part in a bracket. */
export function guessScene(path: string): { scene: DraftScene; bracket: boolean } {
  const { scene, bracket } = readName(path, []);
  return { scene: scene ?? 'chart', bracket };
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

/** "Diffusion 1/4" and "mist 1/4" are one grade. */
function sameWords(a: string, b: string): boolean {
  const grade = (text: string) => /\d+(?:\/\d+)?/.exec(text)?.[0];
  return grade(a) === grade(b);
}

function sameStrength(a: Nominal, b: Nominal): boolean {
  const [first, second] = [nominalStops(a), nominalStops(b)];
  if (first === null || second === null)
    return first === second && JSON.stringify(a.stopsRange) === JSON.stringify(b.stopsRange);
  return Math.abs(first - second) < 0.05;
}
