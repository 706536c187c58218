/** What a report says of a kit beyond its own sitting: other benches, the years, other samples. */
import type { Beside } from '@/core/judging/agreement/benches';
import { controlOf, livesOf, TOGETHER, type DatedSitting } from '@/core/judging/overTime/lives';
import type { LeftOut } from '@/core/sitting/live/leftOut';
import type { Product } from '@/core/judging/overTime/samples';
import { fixed, listed, monthOf, signedWithU95 } from '@/ui/format';

/** What other benches say of a kit's strengths; nothing where no other one measured it. */
export function benchSentences(beside: readonly Beside[]): string[] {
  if (beside.length === 0) return [];
  const names = listed([...new Set(beside.flatMap(({ benches }) => benches))]);
  const apart = beside.filter(({ word }) => word !== 'agrees');
  const many = `${beside.length} ${beside.length === 1 ? 'strength' : 'strengths'} that others measured too (${names})`;
  if (apart.length === 0) return [`Of ${many} all agree with theirs within the ±.`];
  const told = apart.map(({ filter, off }) => `${filter} by ${signedWithU95(off)} stop`);
  return [`Of ${many} these are off theirs: ${told.join(', ')}.`];
}

/** How a kit's strengths changed over its sittings, with what the bench did by itself taken out; nothing of fewer than two days. */
export function yearSentences(sittings: readonly DatedSitting[], kit: string): string[] {
  const plain = livesOf(sittings, 'strength').find(({ id }) => id === kit);
  if (!plain) return [];
  const bench = controlOf(plain, TOGETHER);
  const { filters } = bench ? livesOf(sittings, 'strength', bench).find(({ id }) => id === kit)! : plain;
  const followed = filters.flatMap(({ name, points, change }) => (change ? [{ name, points, change }] : []));
  if (followed.length === 0) return [];
  const since = monthOf(Math.min(...followed.map(({ points }) => points[0].day)));
  const count = Math.max(...followed.map(({ points }) => points.length));
  const out = bench ? ', with what the bench did by itself taken out' : '';
  const changed = followed.filter(({ change }) => change.word === 'changed');
  if (changed.length > 0) {
    const told = changed.map(({ name, change }) => `${name} by ${signedWithU95(change.over)} stop`);
    return [`Over ${count} sittings since ${since} strengths have changed: ${told.join(', ')}${out}.`];
  }
  const most = Math.max(...followed.map(({ change }) => Math.abs(change.over.value) + change.over.u95));
  return [`Over ${count} sittings since ${since} no strength has changed by more than ${fixed(most)} stop${out}.`];
}

/** Which filters differ from sample to sample by more than from sitting to sitting; nothing where that can't be told. */
export function sampleSentences(products: readonly Product[]): string[] {
  return products.flatMap(({ name, samples, spread }) => {
    if (!spread || spread.between.low <= 0) return [];
    const { value, low, high } = spread.between;
    return [
      `${samples.length} samples of ${name} differ by ${fixed(value)} stop (${fixed(low)} to ${fixed(high)}) as a standard deviation, beyond what sittings of one do.`,
    ];
  });
}

/** Takes that were spoiled and shot again while the set stood; nothing where there were none. */
export function shotAgainInWords(leftOut: readonly LeftOut[]): string[] {
  const takes = [...new Set(leftOut.map(({ take }) => take))];
  if (takes.length === 0) return [];
  return [`spoiled while shooting, left out and shot again: ${listed(takes)}`];
}
