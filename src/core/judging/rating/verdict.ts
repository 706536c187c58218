/** Guarded verdicts on a filter's strength, and its cast in words. */
import { BY_DESIGN, type FilterKind } from '../../session/notation';
import type { CastReadings, DensityReadings, FilterReadings, Verdict } from '../../session/readings';
import { bandOf, bandsTouched, DEFAULT_BANDS, type Band, type Bands } from './bands';

/** Joins words as people do: "true or close", "true, close or off". */
export function either(words: readonly string[]): string {
  if (words.length < 2) return words.join('');
  return `${words.slice(0, -1).join(', ')} or ${words[words.length - 1]}`;
}

/** "visible, cool"; "neutral" alone; of a filter that colors on purpose "by design". */
export function castInWords(cast: CastReadings, kind: FilterKind, bands: Bands = DEFAULT_BANDS): string {
  if (BY_DESIGN[kind] === 'cast') return 'by design';
  const size = bandOf(cast.deltaE00.value, bands.cast).word;
  return size === 'neutral' || cast.direction === 'neutral' ? size : `${size}, ${cast.direction}`;
}

/**
 * The verdict on strength: one word only when the 95 % interval lies inside its band.
 *
 * @param takes how many pictures of the filter the figure rests on, for the advice on repeats
 */
export function judgeStrength(
  density: DensityReadings | undefined,
  nominal: number | null,
  takes: number,
  bands: Bands = DEFAULT_BANDS,
): Verdict {
  if (!density) return { label: 'withheld', sentence: 'Its strength could not be measured; the notes say why.' };
  if (nominal === null || !density.error)
    return {
      label: 'unrated',
      sentence: `It takes ${fixed(density.stops.value)} stops; it carries no label to rate that against.`,
    };
  const { value, u95 } = density.error;
  const words = bandsTouched(value, u95, bands.strength);
  const label = either(words);
  const size = Math.abs(value);
  const side = value > 0 ? 'darker' : 'lighter';
  const amount =
    size <= u95 ? 'as its label says, as far as can be told' : `${fixed(size)} stop ${side} than its label`;
  if (words.length === 1) return { label, sentence: capital(`${amount}.`) };
  const repeats = repeatsToSettle(density, bands, takes);
  const advice =
    repeats === null
      ? 'More repeats alone would not settle it.'
      : `${repeats} more ${repeats === 1 ? 'repeat' : 'repeats'} would settle it.`;
  return {
    label,
    sentence: `${capital(amount)}: its ± reaches over the line between ${either(words)}. ${advice}`,
    repeatsToSettle: repeats,
  };
}

/** The bands that a loss touches, where only one side counts: a gain is no loss. */
function lossTouches(loss: number, u95: number, bands: readonly Band[]): string[] {
  const [least, most] = [Math.max(0, loss - u95), Math.max(0, loss + u95)];
  return bands
    .filter((band, i) => most > (i === 0 ? -1 : bands[i - 1].upTo) && least <= band.upTo)
    .map((band) => band.word);
}

/** Guarded words for the softest edge, the darkest corner and a hot spot; absent where not measured. */
export function judgeQualities(
  { sharpness, shading }: Pick<FilterReadings, 'sharpness' | 'shading'>,
  kind: FilterKind,
  bands: Bands = DEFAULT_BANDS,
): Pick<Verdict, 'sharpness' | 'corners' | 'hotSpot'> {
  const softest = [...(sharpness ?? [])].sort((a, b) => a.retained.value - b.retained.value)[0]?.retained;
  const worst = shading?.worst;
  return {
    ...(softest && BY_DESIGN[kind] === 'sharpness' ? { sharpness: 'by design' } : {}),
    ...(softest && BY_DESIGN[kind] !== 'sharpness'
      ? { sharpness: either(lossTouches(1 - softest.value, softest.u95, bands.sharpness)) }
      : {}),
    ...(worst ? { corners: either(lossTouches(-worst.value, worst.u95, bands.corners)) } : {}),
    ...(shading?.hotSpot && shading.hotSpot.value > shading.hotSpot.u95
      ? { hotSpot: `a hot spot of ${fixed(shading.hotSpot.value)} stop` }
      : {}),
  };
}

/**
 * How many more repeats would bring the interval inside one band, were the error as found. `null` where repeats can't:
 * the rest of the budget (light, marks, rounding) is too wide already, or the error lies on the line.
 */
export function repeatsToSettle(density: DensityReadings, bands: Bands, takes: number): number | null {
  if (!density.error) return null;
  const size = Math.abs(density.error.value);
  const room = Math.min(
    ...bands.strength.filter((band) => Number.isFinite(band.upTo)).map((band) => Math.abs(size - band.upTo)),
  );
  const shrinking = density.budget.filter((line) => line.source === 'noise' || line.source === 'repeats');
  const variance = (lines: typeof shrinking) => lines.reduce((sum, line) => sum + line.u * line.u, 0);
  const fixedPart = variance(density.budget) - variance(shrinking);
  const wanted = (room / 2) ** 2 - fixedPart;
  if (wanted <= 0 || takes < 1) return null;
  const needed = Math.ceil((takes * variance(shrinking)) / wanted) - takes;
  return needed >= 1 && needed <= 200 ? needed : null;
}

function fixed(value: number): string {
  return value.toFixed(2).replace('-', '−');
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
