/**
 * Kit shorthand: one typed line becomes a kit. `ND4 8 16 32 64 CPL`, `0.3 0.6 0.9`, `3 6 10 stops`, `VND 2-5`,
 * `ND8/PL`, `GND0.9`, `UV`, `mist 1/4`, `IR-cut`, `yellow`, `unmarked`.
 *
 * A number keeps the notation of the word before it, since people write the prefix once; a word such as "stops" also
 * reaches back over the bare numbers before it. Without any word, whole numbers of the standard row are filter
 * factors and decimals are optical densities: that is how each is engraved.
 */
import { stopsFromFactor, type FilterKind, type Nominal } from '../../session/notation';

export interface ShorthandFilter {
  /** Unique in the result, fit for a file name. */
  id: string;
  /** As engraved, for people. */
  name: string;
  kind: FilterKind;
  nominal: Nominal;
}

export interface ShorthandProblem {
  word: string;
  /** A sentence that says what to type instead. */
  message: string;
}

export interface ShorthandResult {
  filters: ShorthandFilter[];
  problems: ShorthandProblem[];
}

type Notation = 'factor' | 'stops' | 'density';
interface Context {
  kind: FilterKind;
  notation: Notation | null;
}

const NUMBER = String.raw`\d+(?:\.\d+)?`;
const POLARIZED = String.raw`(?:[/+&-]?(?:C?PL|CP|POLARI[SZ]ER|POL))`;
const STOP_WORD = /^(?:STOPS?|ST|EV|-STOPS?)$/;
const PREFIX = String.raw`(V(?:ARI(?:ABLE)?)?[- ]?ND|G(?:RAD(?:UATED)?)?[- ]?ND|GRAD|GND|ND|OD|D)`;

const RANGE = new RegExp(`^${PREFIX}?(ND)?(${NUMBER})(?:-|–|TO|\\.\\.)(ND)?(${NUMBER})(STOPS?|ST|EV)?$`);
const SINGLE = new RegExp(`^${PREFIX}?(${NUMBER})(-?STOPS?|ST|EV|X)?(${POLARIZED})?$`);
/** Grades of diffusion are fractions or numbers of no unit. */
const DIFFUSION = /^(MIST|DIFFUSION|DIFFUS[EO]R)(\d\/\d{1,2}|\d)?$/;
const COLOR = /^(?:RED|ORANGE|YELLOW|GREEN|BLUE|CYAN|MAGENTA|WARM(?:ING)?|COOL(?:ING)?|COLOU?R)$/;
const INFRARED = /^(?:(?:UV[/+&-]?)?(?:IR|INFRARED)-?CUT|UV[/+&-]?IR(?:-?CUT)?)$/;
const PREFIX_ONLY = new RegExp(`^${PREFIX}$`);

/** Reads a line of shorthand. Words that can't be read become problems; the rest of the line still counts. */
export function parseKitShorthand(text: string): ShorthandResult {
  const words = text
    .replace(/[,;|]+/g, ' ')
    // "ND 8 / PL", "mist 1/4", "IR cut" and "3 - 5" are one word each
    .replace(/\s*([/+&])\s*/g, '$1')
    .replace(/(\d)\s*[-–]\s+(?=\d)/g, '$1-')
    .replace(/\b(mist|diffus(?:ion|er|or))\s+(?=\d\/\d|[12](?:\s|$))/gi, '$1')
    .replace(/\b(ir|infrared)\s+cut\b/gi, '$1-cut')
    .trim()
    .split(/\s+/)
    .filter(Boolean);
  const found: ShorthandFilter[] = [];
  const problems: ShorthandProblem[] = [];
  let context: Context = { kind: 'nd', notation: null };
  // Bare numbers that a later unit word may still claim.
  let pending: number[] = [];

  for (const word of words) {
    const upper = word.toUpperCase().replace('−', '-');
    if (STOP_WORD.test(upper)) {
      for (const index of pending) found[index] = withStops(found[index]);
      pending = [];
      continue;
    }
    const named = namedFilter(upper);
    if (named) {
      found.push(named);
      pending = [];
      continue;
    }
    if (PREFIX_ONLY.test(upper)) {
      context = contextOf(upper);
      pending = [];
      continue;
    }
    const range = RANGE.exec(upper);
    if (range) {
      const filter = rangeFilter(range, context);
      if (typeof filter === 'string') problems.push({ word, message: filter });
      else found.push(filter);
      pending = [];
      continue;
    }
    const single = SINGLE.exec(upper);
    if (!single) {
      problems.push({
        word,
        message: `“${word}” isn’t a strength I know. Write ND8, 3 stops, 0.9, VND 2-5, ND8/PL, GND0.9, CPL, UV, mist 1/4, IR-cut, a color or unmarked.`,
      });
      continue;
    }
    if (single[1]) context = contextOf(single[1]);
    const filter = singleFilter(single, context);
    if (typeof filter === 'string') problems.push({ word, message: filter });
    else {
      if (!single[1] && !single[3] && context.notation === null) pending.push(found.length);
      found.push(filter);
    }
  }
  return { filters: uniqueIds(found), problems };
}

function contextOf(prefix: string): Context {
  if (prefix.startsWith('V')) return { kind: 'variable-nd', notation: null };
  if (prefix.startsWith('G')) return { kind: 'graduated-nd', notation: 'factor' };
  if (prefix === 'OD' || prefix === 'D') return { kind: 'nd', notation: 'density' };
  return { kind: 'nd', notation: 'factor' };
}

function namedFilter(word: string): ShorthandFilter | null {
  if (/^(?:C-?PL|PL|CP|POL|POLARI[SZ]ER)$/.test(word))
    return { id: word === 'PL' ? 'pl' : 'cpl', name: word === 'PL' ? 'PL' : 'CPL', kind: 'polarizer', nominal: {} };
  if (/^(?:UV|CLEAR|PROTECTOR)$/.test(word))
    return { id: word.toLowerCase(), name: word === 'UV' ? 'UV' : 'Clear', kind: 'clear', nominal: { stops: 0 } };
  const diffusion = DIFFUSION.exec(word);
  if (diffusion) {
    const [, name, grade] = diffusion;
    const said = grade ? ` ${grade}` : '';
    return { id: slug(`${name}${said}`.toLowerCase()), name: capital(name) + said, kind: 'diffusion', nominal: {} };
  }
  if (COLOR.test(word)) return { id: word.toLowerCase(), name: capital(word), kind: 'color', nominal: {} };
  if (INFRARED.test(word)) return { id: 'ir-cut', name: 'IR cut', kind: 'infrared-cut', nominal: { stops: 0 } };
  if (/^(?:UNMARKED|DIY|\?)$/.test(word)) return { id: 'unmarked', name: 'Unmarked', kind: 'nd', nominal: {} };
  return null;
}

/** A number's notation when its word names none: decimals are densities, whole numbers factors. */
function notationOf(digits: string, context: Context): Notation {
  if (context.notation === 'density') return 'density';
  const decimal = digits.includes('.');
  // "ND0.9" is engraved for a density of 0.9, since factors are whole numbers.
  if (decimal) return context.notation === 'stops' ? 'stops' : 'density';
  return context.notation ?? 'factor';
}

function singleFilter(match: RegExpExecArray, context: Context): ShorthandFilter | string {
  const [, , digits, unit, polarized] = match;
  const value = Number(digits);
  const kind: FilterKind = polarized ? 'nd-polarizer' : context.kind;
  if (kind === 'variable-nd')
    return `A variable filter needs its range: write VND 2-5 (stops) or VND ND4-32 (factors).`;
  const notation: Notation = unit && unit !== 'X' ? 'stops' : unit === 'X' ? 'factor' : notationOf(digits, context);
  const ending = polarized ? '/PL' : '';
  const front = kind === 'graduated-nd' ? 'GND' : 'ND';
  if (notation === 'stops') {
    if (value > 24) return `${digits} stops would let no light through; did you mean ND${digits}?`;
    return {
      id: `${front.toLowerCase()}-${slug(digits)}st${polarized ? 'pl' : ''}`,
      name: `${digits}-stop ${front}${ending}`,
      kind,
      nominal: { stops: value },
    };
  }
  if (notation === 'density') {
    if (value > 7)
      return `A density of ${digits} would be ${(value / 0.30103).toFixed(0)} stops; did you mean ND${Math.round(value)}?`;
    return {
      id: `${front.toLowerCase()}-d${slug(digits)}${polarized ? 'pl' : ''}`,
      name: `${front}${digits}${ending}`,
      kind,
      nominal: { opticalDensity: value },
    };
  }
  if (value < 1) return `A filter factor below 1 would add light; did you mean a density (0.3, 0.6, 0.9)?`;
  return {
    id: `${front.toLowerCase()}${digits}${polarized ? 'pl' : ''}`,
    name: `${front}${digits}${ending}`,
    kind,
    nominal: { ndFactor: value },
  };
}

function rangeFilter(match: RegExpExecArray, context: Context): ShorthandFilter | string {
  const [, prefix, nd, lowDigits, nd2, highDigits, unit] = match;
  const low = Number(lowDigits);
  const high = Number(highDigits);
  if (!(low < high)) return `A range runs from light to dark: write ${highDigits}-${lowDigits} the other way round.`;
  // A scale marked 2–5 counts stops; one that reaches 16 and more, or says ND, counts factors.
  const inFactors = !unit && (prefix === 'ND' || nd !== undefined || nd2 !== undefined || high > 13);
  if (context.kind === 'graduated-nd' || (prefix && prefix.startsWith('G')))
    return `A graduated filter has one strength: write GND8 or GND0.9.`;
  const stopsRange: [number, number] = inFactors ? [stopsFromFactor(low), stopsFromFactor(high)] : [low, high];
  const name = inFactors ? `VND ND${lowDigits}–${highDigits}` : `VND ${lowDigits}–${highDigits}`;
  return { id: `vnd-${slug(lowDigits)}-${slug(highDigits)}`, name, kind: 'variable-nd', nominal: { stopsRange } };
}

/** "3 6 10 stops": the numbers before the word were read as factors or densities and are stops after all. */
function withStops(filter: ShorthandFilter): ShorthandFilter {
  const value = filter.nominal.ndFactor ?? filter.nominal.opticalDensity ?? filter.nominal.stops ?? 0;
  const digits = String(value);
  return { ...filter, id: `nd-${slug(digits)}st`, name: `${digits}-stop ND`, nominal: { stops: value } };
}

function slug(text: string): string {
  return text.replace('.', '_').replace(/[\s/]+/g, '-');
}

const capital = (word: string) => word[0].toUpperCase() + word.slice(1).toLowerCase();

function uniqueIds(filters: ShorthandFilter[]): ShorthandFilter[] {
  const taken = new Map<string, number>();
  return filters.map((filter) => {
    const count = (taken.get(filter.id) ?? 0) + 1;
    taken.set(filter.id, count);
    return count === 1 ? filter : { ...filter, id: `${filter.id}-${count}`, name: `${filter.name} (${count})` };
  });
}
