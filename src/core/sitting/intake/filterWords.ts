/** The filter that a file name speaks of, as people write it: hyphens and spaces inside a label, densities, stops, marks, other languages. */
import { FILTER_KINDS, nominalStops } from '../../session/notation';
import { parseKitShorthand, type ShorthandFilter } from '../kits/shorthand';

export interface SaidFilter {
  /** The filter in the shorthand of kits; `null` for one whose strength the name doesn't tell. */
  shorthand: string | null;
  kind: ShorthandFilter['kind'];
  /** What the shorthand says of it. */
  filter: ShorthandFilter | null;
  /** Mark of a variable filter that the name tells. */
  mark: number | null;
}

/** What a name says: a filter, that there was none, or nothing. */
export type FilterWords = SaidFilter | 'bare' | null;

const NUMBER = String.raw`(\d+(?:\.\d+)?)`;
const POLARIZER = String.raw`(?:c ?pl|c ?pol|pl|pol|pola|polfilter|circ(?:ular)? ?pol(?:ari[sz]er)?|pol(?:ari[sz]er|ari[sz]ing|arisateur|arizador|arizzatore))`;
const STOPS = String.raw`(?:stops?|st|ev|blenden?|diaph?s?|pasos?)`;
const word = (source: string) => new RegExp(String.raw`(?<![a-z\d])${source}(?![a-z\d])`);

/** Words that say outright that nothing was before the lens, in several languages. */
const WITHOUT = word(
  String.raw`(?:w ?o|without|no ?(?:filter|nd|glass)|nofilters?|unfiltered|filterless|ohne|kein(?:en)? ?filter|sans|sin ?filtro|sin|senza|zonder|utan|uden|uten|ilman|bez|sem ?filtro|filtre ?yok)(?: ?(?:filt\w*|nd|c?pl))?`,
);
/** Words that say so where no filter is named. */
const BARE = word(String.raw`(?:bare|base|baseline|bracket|none|no|blank|naked|nackt|reference|ref|open|nu)\d*`);

const VARIABLE_START = /(?<![a-z\d])(?:v ?nd|var(?:i|io|iable)? ?nd|nd ?var(?:iable)?|variable|vario)(?![a-z])/;
const RANGE = new RegExp(String.raw`(?:nd ?)?${NUMBER} ?(?:-|to|bis|–) ?(?:nd ?)?${NUMBER}(?: ?${STOPS})?(?![a-z\d.])`);
const NUMERALS = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const MARK = new RegExp(
  String.raw`(?:mark|marke|marca|pos(?:ition)?|at|@|m) ?(\d+(?:\.\d+)?|${NUMERALS.join('|')})(?![a-z\d])`,
);
const BARE_MARK = new RegExp(String.raw`^ ?${NUMBER}(?![a-z\d])`);

const GRADUATED =
  /(?<![a-z\d])(?:g ?nd|gr(?:ad)?(?:uated)? ?nd|grad(?:uated)?|(?:soft|hard|medium|reverse) ?grad|verlauf(?:sfilter)?|degrad[eé])(?![a-z])/;
const HARDNESS = /(?<![a-z])(?:soft|hard|medium|reverse|weich|hart)(?: ?edge)?(?![a-z])/g;

const AFTER_GRADUATED = new RegExp(String.raw`^ ?(?:nd ?)?${NUMBER}(?: ?(${STOPS}))?(?![a-z\d])`);

const COMBINED = [
  word(String.raw`nd ?${NUMBER} ?[+/&x]? ?${POLARIZER}`),
  word(String.raw`${POLARIZER} ?[+/&x]? ?nd ?${NUMBER}`),
  word(String.raw`nd ?${POLARIZER} ?${NUMBER}`),
];
const PLAIN = word(String.raw`nd ?${NUMBER}(?: ?${STOPS})?`);
const IN_STOPS = word(String.raw`${NUMBER} ?${STOPS}`);
/** A single D needs its decimals: cameras are called D and a number. */
const DENSITY = word(String.raw`(?:(?:o ?d|density|dichte|densit[eéà]|densidad) ?(\d+(?:\.\d+)?)|d ?(\d\.\d+))`);
/** What a bracket's pictures are called by: no filter, but an exposure. */
const COMPENSATION = /[+±−-]\s?\d+(?:[.,]\d+)?\s?ev(?![a-z])/gi;
/** Densities as they are engraved, without a word before them. */
const BARE_DENSITY = /(?<![a-z\d.])(0\.[369]|1\.[258]|2\.[147]|3\.0)(?![a-z\d.])/;
const POLARIZED = word(POLARIZER);
const CLEAR = word('(?:uv|clear|protector|protect)');
/** A mist may also lie over a landscape: it is a filter with its grade, or by the word for one. */
const DIFFUSION = word(
  String.raw`(?:(mist|diffusion|diffuser|diffusor) ?(?:1[\u2013 /](\d{1,2})|filter)|(diffusion|diffuser|diffusor|weichzeichner))`,
);
const COLOR = word('(red|orange|yellow|green|blue|cyan|magenta|warming|cooling) ?filter');
const INFRARED = word('(?:uv ?)?(?:ir|infrared) ?cut|uv ?ir|hot ?mirror');

/**
 * Lower case, one space for what separates words, a dot for a decimal comma; without folder, ending, and what a copy adds to a name.
 * Hyphens between digits stay: they are ranges.
 */
function plainName(path: string): string {
  return path
    .replace(/^.*[/\\]/, '')
    .replace(/\.[a-z]\w{0,4}$/i, '')
    .replace(COMPENSATION, ' ')
    .toLowerCase()
    .replace(/(?:[\s_-]*\(\d+\)|[\s_-]+(?:copy|kopie|copie|copia)(?:[\s_-]*\d+)?)+$/g, '')
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/w[/\\]o/g, 'wo')
    .replace(/(?<=\d)[ _]*[-–][ _]*(?=(?:nd)?\d)/g, '\u2013')
    .replace(/[\s_\-()[\],;]+/g, ' ')
    .replace(/\.(?!\d)|(?<!\d)\./g, ' ')
    .trim();
}

/** What a file name says of the filter. */
export function filterInName(path: string): FilterWords {
  const name = plainName(path);
  if (WITHOUT.test(name)) return 'bare';
  const variable = VARIABLE_START.exec(name);
  if (variable) return variableFilter(name.slice(variable.index + variable[0].length), name);
  const graduated = GRADUATED.exec(name);
  if (graduated) {
    const rest = name.replace(HARDNESS, ' ').replace(/ +/g, ' ');
    const at = GRADUATED.exec(rest);
    const after = at ? rest.slice(at.index + at[0].length) : rest;
    const strength = AFTER_GRADUATED.exec(after);
    return said('graduated-nd', strength && `GND${strength[1]}${strength[2] ? 'st' : ''}`);
  }
  for (const pattern of COMBINED) {
    const match = pattern.exec(name);
    if (match) return said('nd-polarizer', `ND${match[1]}/PL`);
  }
  const plain = PLAIN.exec(name);
  if (plain) return said('nd', /[a-z]$/.test(plain[0]) ? `${plain[1]}stops` : `ND${plain[1]}`);
  // A strength without a word before it says less than a word for none.
  if (BARE.test(name)) return 'bare';
  const stops = IN_STOPS.exec(name);
  if (stops) return said('nd', `${stops[1]}stops`);
  const density = DENSITY.exec(name) ?? BARE_DENSITY.exec(name);
  if (density) return said('nd', `D${density[1] ?? density[2]}`);
  const polarizer = POLARIZED.exec(name);
  if (polarizer) return said('polarizer', polarizer[0] === 'pl' ? 'PL' : 'CPL');
  const diffusion = DIFFUSION.exec(name);
  if (diffusion) {
    const [, graded, grade, plain] = diffusion;
    return said(
      'diffusion',
      `${plain === 'weichzeichner' ? 'diffusion' : (graded ?? plain)}${grade ? `1/${grade}` : ''}`,
    );
  }
  const color = COLOR.exec(name);
  if (color) return said('color', color[1]);
  if (INFRARED.test(name)) return said('infrared-cut', 'IR-CUT');
  if (CLEAR.test(name)) return said('clear', /(?<![a-z])uv(?![a-z])/.test(name) ? 'UV' : 'CLEAR');
  return null;
}

/** @returns `null` for a plain filter of a strength that none has: nothing else is said of it */
function said(kind: SaidFilter['kind'], shorthand: string | null, mark: number | null = null): SaidFilter | null {
  const [filter] = shorthand === null ? [] : parseKitShorthand(shorthand).filters;
  if (!filter && (kind === 'nd' || kind === 'nd-polarizer')) return null;
  return { shorthand: filter ? shorthand : null, kind, filter: filter ?? null, mark };
}

function variableFilter(after: string, name: string): SaidFilter | null {
  const told = after.replaceAll('\u2013', '-');
  const range = RANGE.exec(told);
  const rest = range ? told.slice(0, range.index) + told.slice(range.index + range[0].length) : told;
  const match = MARK.exec(rest) ?? MARK.exec(name) ?? (range ? null : BARE_MARK.exec(rest));
  const numeral = match && NUMERALS.indexOf(match[1]);
  const mark = match ? (numeral! >= 0 ? numeral! : Number(match[1])) : null;
  return said('variable-nd', range && `VND${/nd/.test(range[0]) ? 'ND' : ''}${range[1]}-${range[2]}`, mark);
}

/** Kinds whose filters no strength tells apart. */
export const UNNUMBERED: ReadonlySet<string> = new Set(['diffusion', 'color']);

/** The kit that names themselves spell out, in its shorthand, the lightest first. */
export function kitInNames(paths: readonly string[]): string {
  const found: { shorthand: string; strength: number; key: string }[] = [];
  for (const path of paths) {
    const words = filterInName(path);
    if (words === null || words === 'bare' || !words.filter) continue;
    const { kind, nominal } = words.filter;
    const strength = nominalStops(nominal) ?? nominal.stopsRange?.[0] ?? 0;
    const same = found.some(
      (one) =>
        one.key === kind &&
        (!UNNUMBERED.has(kind) || one.shorthand === words.shorthand) &&
        Math.abs(one.strength - strength) < 0.05,
    );
    if (!same) found.push({ shorthand: words.shorthand!, strength, key: kind });
  }
  const order: readonly string[] = FILTER_KINDS;
  return found
    .sort((a, b) => order.indexOf(a.key) - order.indexOf(b.key) || a.strength - b.strength)
    .map((one) => one.shorthand)
    .join(' ');
}
