/** What benches agree on, in sentences. */
import { FOLLOWED, type Followed } from '@/core/judging/overTime/lives';
import type { BenchWord, Consensus } from '@/core/judging/agreement/consensus';
import { MOST_MORE } from '@/core/judging/agreement/consensus';
import type { BenchPattern, Grouping } from '@/core/judging/agreement/benches';
import { fixed, listed, signedWithU95, withU95 } from '@/ui/format';

const WORDS: Record<BenchWord, string> = {
  agrees: 'agrees',
  narrow: 'its ± is too narrow',
  doubtful: 'doubtful',
  off: 'off',
};

/** Of one label it is the filters that differ, whoever measured them. */
export const wordOf = (word: BenchWord, by: Grouping) =>
  by === 'label' && (word === 'off' || word === 'doubtful') ? 'stands apart' : WORDS[word];

/** The page's title: whether the benches agree, or the filters of one label. */
export function titleOf({ scores }: Consensus, by: Grouping): string {
  const of = (word: BenchWord) => scores.filter((one) => one.word === word).map(({ bench }) => bench);
  const [off, doubtful, narrow] = [of('off'), of('doubtful'), of('narrow')];
  if (by === 'label' && off.length + doubtful.length > 0) return 'Filters of this label differ';
  // Of two nobody can say which one it is.
  if (scores.length === 2 && off.length + doubtful.length > 0) return 'The two benches disagree';
  if (off.length > 0) return `${listed(off)} ${off.length === 1 ? 'is' : 'are'} off`;
  if (doubtful.length > 0) return `${listed(doubtful)} ${doubtful.length === 1 ? 'stands' : 'stand'} apart`;
  if (narrow.length > 0) return 'They agree, but not within their ±';
  const what = by === 'label' ? 'filters' : 'benches';
  return scores.length === 2 ? `Both ${what} agree` : `All ${scores.length} ${what} agree`;
}

export function sentenceOf(
  name: string,
  quality: Followed,
  { weighted, birgeRatio, leftOut }: Consensus,
  by: Grouping,
): string {
  const { unit } = FOLLOWED[quality];
  const scatter =
    birgeRatio > 1.5
      ? ` They scatter ${fixed(birgeRatio, 1)} times as much as their ± say, so the ± of the mean is widened by that.`
      : '';
  const apart =
    by === 'label'
      ? `the ${leftOut.length} that ${leftOut.length === 1 ? 'stands' : 'stand'} far apart`
      : listed(leftOut);
  const without = leftOut.length > 0 ? ` without ${apart},` : '';
  return `${name}: ${quality} ${withU95(weighted)} ${unit}, the mean${without} weighted by their ±.${scatter}`;
}

/** How many more would settle it. */
export function moreWords(more: number | null, wanted: number, unit: string, by: Grouping): string {
  const [what, whats] = by === 'label' ? ['filter', 'filters'] : ['bench', 'benches'];
  const aim = `±${fixed(wanted, 2)} ${unit}`;
  if (more === 0) return `The mean is known to ${aim} or better: no further ${what} is needed.`;
  if (more === null)
    return `Not even ${MOST_MORE} further ${whats} like these would bring the mean to ${aim}: what makes them differ has to be found.`;
  return `${more} further ${more === 1 ? what : whats} like these would bring the mean to ${aim}.`;
}

/** In what a bench is off, with what to look at. */
export function patternWords({ filters, pattern }: BenchPattern): string {
  const of = `${filters} ${filters === 1 ? 'filter' : 'filters'}`;
  switch (pattern.what) {
    case 'none':
      return `nothing beyond the ± over ${of}`;
    case 'response':
      return `${signedWithU95(pattern.slope!)} stop for each stop of strength over ${of}: its camera’s curve`;
    case 'light':
      return `${signedWithU95(pattern.offset!)} stop for all ${of} alike: its light or its bare exposure`;
    case 'marks':
    case 'filters':
      return pattern
        .single!.map(({ filter, off, step }) =>
          step === null
            ? `${filter} by ${signedWithU95(off)} stop alone: another sample, or a slip`
            : `${filter} by ${signedWithU95(off)} stop: ${STEPS.get(step)} on a dial`,
        )
        .join('; ');
    case 'scatter':
      return `more than its ± say over ${of}, without a pattern: its ± are too narrow`;
  }
}

const STEPS = new Map([
  [1 / 3, 'a third of a stop'],
  [1 / 2, 'half a stop'],
  [2 / 3, 'two thirds of a stop'],
  [1, 'one stop'],
  [2, 'two stops'],
]);
