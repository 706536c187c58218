/** Verdicts by the kind of filter: one strength, a range of marks, two halves, or nothing at all. */
import { BY_DESIGN } from '../../session/notation';
import type { Filter } from '../../session/schema';
import type { FilterReadings, Reading, Verdict } from '../../session/readings';
import { bandsTouched, DEFAULT_BANDS, type Bands } from './bands';
import { either, judgeStrength } from './verdict';

type Rated = Pick<FilterReadings, 'density' | 'cast' | 'variable' | 'graduation' | 'polarizer' | 'nominalStops'>;

/**
 * The verdict on what a filter takes, beside its label.
 *
 * @param takes how many pictures of the filter its strength rests on
 */
export function judgeFilter(
  readings: Rated,
  { kind }: Pick<Filter, 'kind'>,
  takes: number,
  bands: Bands = DEFAULT_BANDS,
): Verdict {
  const { density, cast, variable, graduation, polarizer, nominalStops } = readings;
  const own = variable
    ? judgeRange(variable, bands)
    : graduation
      ? judgeGraduation(graduation, nominalStops, bands)
      : judgeStrength(density, nominalStops, takes, bands);
  const clear =
    (kind === 'clear' || kind === 'infrared-cut') && density
      ? {
          sentence: `It lets ${throughput(density.stops)} of the light through. ${own.sentence} ${kind === 'clear' ? floorOf(density.stops, cast?.deltaE00) : INFRARED}`,
        }
      : {};
  const designed = BY_DESIGN[kind] && density ? { sentence: `${own.sentence} ${DESIGNED[BY_DESIGN[kind]]}` } : {};
  const extinction = polarizer?.extinctionStops;
  // Extinction is never below 0, so its bands are those of a size.
  const polarizes = extinction
    ? { polarizer: `${either(bandsTouched(extinction.value, extinction.u95, bands.extinction))} extinction` }
    : {};
  return { ...own, ...clear, ...designed, ...polarizes };
}

/** A camera keeps infrared out by itself: what its filter holds back can't be seen in its pictures. */
const INFRARED = 'What it holds back of infrared a camera that does so itself can’t show.';
const DESIGNED = {
  sharpness: 'It softens by design: the sharpness that it keeps and its veil describe it and aren’t rated.',
  cast: 'It colors by design: its cast describes it and isn’t rated.',
};

/** Share of the light in percent with its ±. */
function throughput({ value, u95 }: Reading): string {
  const share = 100 * 2 ** -value;
  return `${share.toFixed(1)} ±${Math.max(0.1, share * Math.LN2 * u95).toFixed(1)} %`;
}

/** A clear filter is the null test: its ± are what the session can tell from nothing. */
function floorOf(stops: Reading, cast: Reading | undefined): string {
  const color = cast ? ` and ΔE00 ${Math.max(0.1, cast.u95).toFixed(1)}` : '';
  return `As a null test it shows the floor of this session: what lies within ${Math.max(0.01, stops.u95).toFixed(2)} stop${color} can’t be told from nothing.`;
}

/** An error beside its label; what the ± is too wide to tell from the label isn't called as labelled outright. */
function besideLabel(error: Reading, { strength }: Bands): string {
  const size = Math.abs(error.value);
  if (size > error.u95) return `${size.toFixed(2)} stop ${error.value > 0 ? 'darker' : 'lighter'} than labelled`;
  const told = bandsTouched(error.value, error.u95, strength);
  return told.length === 1 && told[0] === strength[0].word
    ? 'as labelled'
    : `as labelled as far as ±${error.u95.toFixed(2)} stop can tell`;
}

/** A variable filter by both ends of its label; the worse one speaks. */
function judgeRange(
  { lightest, darkest, errors, crossBegins }: NonNullable<FilterReadings['variable']>,
  bands: Bands,
): Verdict {
  const span = `${lightest.value.toFixed(2)} to ${darkest.value.toFixed(2)} stops`;
  const cross = crossBegins
    ? ` Usable to ${crossBegins.stops.toFixed(1)} stops, where the crossed pattern begins.`
    : '';
  if (!errors)
    return { label: 'unrated', sentence: `It goes from ${span}; no range is labelled to rate that against.${cross}` };
  const words = [errors.low, errors.high].map((error) => bandsTouched(error.value, error.u95, bands.strength));
  const order = bands.strength.map((band) => band.word);
  const worst = words.sort((a, b) => order.indexOf(b[b.length - 1]) - order.indexOf(a[a.length - 1]))[0];
  return {
    label: either(worst),
    sentence: `It goes from ${span}: at its light end ${besideLabel(errors.low, bands)}, at its dark end ${besideLabel(errors.high, bands)}.${cross}`,
  };
}

/** A graduated filter by what its dense half takes. */
function judgeGraduation(
  { clearStops, denseStops, transition, transitionWidth }: NonNullable<FilterReadings['graduation']>,
  nominal: number | null,
  bands: Bands,
): Verdict {
  const shape = `A ${transition} transition over ${Math.round(100 * transitionWidth.value)} % of the height, from ${clearStops.value.toFixed(2)} to ${denseStops.value.toFixed(2)} stops.`;
  if (nominal === null) return { label: 'unrated', sentence: `${shape} It carries no label.` };
  const error = { value: denseStops.value - nominal, u95: denseStops.u95 };
  const words = bandsTouched(error.value, error.u95, bands.strength);
  return {
    label: either(words),
    sentence: `Its dense half is ${besideLabel(error, bands)}. ${shape}`,
  };
}
