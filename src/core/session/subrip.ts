/**
 * Telemetry beside a clip: SubRip text whose cues carry the exposure (formats.md, section 4). Keys are read in any order and
 * case, with or without brackets; what isn't known is passed over.
 */
import type { Exposure } from '../formulas/optics/exposure';

/** What a cue says, from its start up to its end, the end excluded. */
export interface Cue {
  /** Seconds of the clip. */
  from: number;
  to: number;
  exposure: Partial<Exposure>;
  /** Exposure compensation, stops. */
  ev: number | null;
  /** Color temperature that the white balance was set to, kelvin. */
  colorTemperature: number | null;
  /** Degrees, and meters above the take-off and above the sea. */
  place: {
    latitude: number;
    longitude: number;
    relativeAltitude: number | null;
    absoluteAltitude: number | null;
  } | null;
}

/** f-numbers above this are written as hundredths: 280 is f/2.8. */
const LARGEST_F_NUMBER = 64;
const TIME = /(\d+):(\d{1,2}):(\d{1,2})[,.](\d{1,3})\s*-->\s*(\d+):(\d{1,2}):(\d{1,2})[,.](\d{1,3})/;

/** Cues in order of their start. Text that holds no cue gives an Error with a sentence. */
export function parseSubRip(text: string): Cue[] {
  const cues: Cue[] = [];
  const blocks = text.replace(/^\uFEFF/, '').split(/(?:\r?\n){2,}|\r{2,}/);
  for (const block of blocks) {
    const time = TIME.exec(block);
    if (!time) continue;
    const [h1, m1, s1, f1, h2, m2, s2, f2] = time.slice(1);
    const seconds = (h: string, m: string, s: string, f: string) =>
      Number(h) * 3600 + Number(m) * 60 + Number(s) + Number(f.padEnd(3, '0')) / 1000;
    const words = block.slice(time.index + time[0].length).replace(/<[^>]*>/g, ' ');
    cues.push({ from: seconds(h1, m1, s1, f1), to: seconds(h2, m2, s2, f2), ...readCue(words) });
  }
  if (cues.length === 0) throw new Error('it holds no cue with a time: is it SubRip?');
  return cues.sort((a, b) => a.from - b.from);
}

function readCue(words: string): Omit<Cue, 'from' | 'to'> {
  const shutter = value(words, ['shutter', 'ss']);
  const fNumber = numberOf(
    value(words, ['fnum', 'fnumber', 'f-number', 'aperture']) ?? /\bf\/(\d+(?:\.\d+)?)/i.exec(words)?.[1],
  );
  const iso = numberOf(value(words, ['iso']));
  const [latitude, longitude] = [
    numberOf(value(words, ['latitude', 'lat'])),
    numberOf(value(words, ['longitude', 'lon', 'long'])),
  ];
  const exposure: Partial<Exposure> = {};
  const shutterSeconds = shutter === undefined ? null : secondsOf(shutter);
  if (shutterSeconds !== null) exposure.shutterSeconds = shutterSeconds;
  if (iso !== null && iso > 0) exposure.iso = iso;
  if (fNumber !== null && fNumber > 0) exposure.fNumber = fNumber > LARGEST_F_NUMBER ? fNumber / 100 : fNumber;
  return {
    exposure,
    ev: numberOf(value(words, ['ev'])),
    colorTemperature: numberOf(value(words, ['ct', 'color_temp', 'colour_temp'])),
    place:
      latitude === null || longitude === null
        ? null
        : {
            latitude,
            longitude,
            relativeAltitude: numberOf(value(words, ['rel_alt'])),
            absoluteAltitude: numberOf(value(words, ['abs_alt'])),
          },
  };
}

/** The text after a key: `[iso: 100]`, `ISO:100`, `iso = 100`. */
function value(words: string, keys: readonly string[]): string | undefined {
  for (const key of keys) {
    const match = new RegExp(`(?:^|[^\\w-])${key}\\s*[:=]\\s*([^\\s,\\]]+)`, 'i').exec(words);
    if (match) return match[1];
  }
  return undefined;
}

function numberOf(text: string | undefined): number | null {
  const match = text === undefined ? null : /^f?\/?([-+]?\d+(?:\.\d+)?)/i.exec(text);
  return match ? Number(match[1]) : null;
}

/** `1/240.0` or `0.0041`, with or without a unit. */
function secondsOf(text: string): number | null {
  const fraction = /^(\d+(?:\.\d+)?)\/(\d+(?:\.\d+)?)/.exec(text);
  const seconds = fraction
    ? Number(fraction[1]) / Number(fraction[2])
    : Number(/^\d+(?:\.\d+)?/.exec(text)?.[0] ?? NaN);
  return Number.isFinite(seconds) && seconds > 0 ? seconds : null;
}

/** The cue at a moment of the clip; `null` in a gap. */
export function cueAt(cues: readonly Cue[], seconds: number): Cue | null {
  // Times are written to the millisecond; a frame at a cue's start belongs to it.
  return cues.find((cue) => seconds >= cue.from - 5e-4 && seconds < cue.to - 5e-4) ?? null;
}

/** Cues in a row that say the same become one; what lies in a gap stays unsaid. */
export function joinedCues(cues: readonly Cue[]): Cue[] {
  const joined: Cue[] = [];
  for (const cue of cues) {
    const last = joined.at(-1);
    const same = last && cue.from - last.to < 0.002 && saysOf(cue) === saysOf(last);
    if (same) last.to = Math.max(last.to, cue.to);
    else joined.push({ ...cue });
  }
  return joined;
}

function saysOf({ exposure, ev, colorTemperature }: Cue): string {
  return JSON.stringify([exposure.shutterSeconds, exposure.iso, exposure.fNumber, ev, colorTemperature]);
}
