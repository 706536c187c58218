/** Filters that several benches have measured: the same ones, or those of one label. */
import { combineSittings } from '../ranking/sittings';
import type { KitSitting } from '../ranking/figures';
import type { Reading } from '../../session/readings';
import type { Followed } from '../overTime/lives';
import { figuresOf, type BenchFilter, type OtherBench } from './otherBench';
import { patternOf, type FilterOff, type Pattern } from './pattern';
import { consensusOf, type BenchResult, type BenchWord } from './consensus';

export interface Bench {
  id: string;
  name: string;
  /** This program's own sittings, all of them together. */
  isOwn: boolean;
  filters: (BenchFilter & { keys: readonly string[] })[];
}

/** Which filters are taken for one thing: those of one name in a kit of one name, or all of one label. */
export type Grouping = 'filter' | 'label';

export interface Shared {
  key: string;
  name: string;
  results: BenchResult[];
}

/** Letters, digits and what parts numbers, without case: “ND-64 ” and “nd64” are one name, “mist 1/4” and “mist 14” two. */
const plain = (text: string) =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}./]/gu, '');
const keyOf = (kit: string, filter: string) => `${plain(kit)} ${plain(filter)}`;

type Found = Bench['filters'][number];

/** One result a filter: what a bench measured several times has the combined figure, or it would count as several benches. */
function joined(all: readonly Found[]): Found[] {
  const filters = new Map<string, Found[]>();
  for (const one of all) filters.set(one.keys[0], [...(filters.get(one.keys[0]) ?? []), one]);
  return [...filters.values()].map((same) => {
    const qualities = [...new Set(same.flatMap(({ figures }) => Object.keys(figures) as Followed[]))];
    const figures = qualities.map((quality) => {
      const readings = same.flatMap(({ figures: { [quality]: reading } }) => reading ?? []);
      const { value, u95 } = combineSittings(readings.map((reading, i) => ({ session: String(i), reading })));
      return [quality, { value, u95 }] as const;
    });
    return { ...same[0], figures: Object.fromEntries(figures) };
  });
}

/** Own sittings as one bench. */
export function ownBench(sittings: readonly KitSitting[]): Bench {
  const filters = sittings.flatMap(({ kit, readings }) =>
    readings.map((one): Found => {
      const defined = kit.filters.find(({ id }) => id === one.filter);
      const [kitName, name] = [kit.name ?? kit.id, defined?.name ?? one.filter];
      const keys = [...new Set([keyOf(kitName, name), keyOf(kit.id, one.filter)])];
      return { kit: kitName, filter: name, label: one.nominalStops, figures: figuresOf(one), keys };
    }),
  );
  return { id: '', name: 'This bench', isOwn: true, filters: joined(filters) };
}

/** A bench that was taken in. */
export function benchOf(id: string, { name, filters }: OtherBench): Bench {
  const withKeys = filters.map((one) => ({ ...one, keys: [keyOf(one.kit, one.filter)] }));
  return { id, name, isOwn: false, filters: joined(withKeys) };
}

/**
 * What at least two benches have a figure of. Of a label that a bench has several filters of, each is a result of its own where labels are
 * grouped: samples of one label differ, and that belongs to the consensus.
 */
export function sharedBy(benches: readonly Bench[], quality: Followed, by: Grouping): Shared[] {
  const found = new Map<string, Shared & { benches: Set<string> }>();
  const names = new Map<string, string>();
  // Ids of our own filters lead to their names; the own bench stands first.
  for (const { filters } of benches)
    for (const { keys } of filters) for (const one of keys) if (!names.has(one)) names.set(one, keys[0]);
  for (const bench of benches)
    for (const one of bench.filters) {
      const reading = one.figures[quality];
      if (!reading || (by === 'label' && one.label === null)) continue;
      const key = by === 'label' ? `label ${one.label!.toFixed(3)}` : (names.get(one.keys[0]) ?? one.keys[0]);
      const name = by === 'label' ? `Labelled ${shortStops(one.label!)}` : `${one.filter} of ${one.kit || 'no kit'}`;
      const shared = found.get(key) ?? { key, name, results: [], benches: new Set() };
      found.set(key, shared);
      shared.benches.add(bench.id);
      shared.results.push({
        bench: by === 'label' ? `${one.filter}${one.kit ? ` of ${one.kit}` : ''}, ${bench.name}` : bench.name,
        reading,
      });
    }
  return [...found.values()]
    .filter((one) => one.benches.size > 1)
    .map(({ key, name, results }) => ({ key, name, results }));
}

const shortStops = (stops: number) => `${Number(stops.toFixed(2))} ${stops === 1 ? 'stop' : 'stops'}`;

export interface BenchPattern {
  bench: string;
  filters: number;
  pattern: Pattern;
}

/**
 * In what each bench is off in strength, over the filters that it shares with at least two others, against what they say. The one that is farthest
 * off is told first and judges no longer; then the next, while two are left to judge by.
 */
export function patternsOf(benches: readonly Bench[], noticeable: number): BenchPattern[] {
  const told = new Map<string, BenchPattern>();
  let judges = benches;
  for (;;) {
    const found = benches
      .filter(({ id }) => !told.has(id))
      .flatMap((bench) => {
        const offs = offsOf(bench, judges, noticeable);
        return offs.length === 0 ? [] : [{ bench, offs, pattern: patternOf(offs) }];
      });
    const size = ({ offs }: (typeof found)[number]) =>
      offs.reduce((sum, { off }) => sum + (off.value / off.u95) ** 2, 0) / offs.length;
    const [worst] = found.filter(({ pattern }) => pattern.what !== 'none').sort((a, b) => size(b) - size(a));
    if (!worst || judges.length <= 3) {
      for (const { bench, offs, pattern } of found)
        told.set(bench.id, { bench: bench.name, filters: offs.length, pattern });
      return benches.flatMap(({ id }) => told.get(id) ?? []);
    }
    told.set(worst.bench.id, { bench: worst.bench.name, filters: worst.offs.length, pattern: worst.pattern });
    judges = judges.filter(({ id }) => id !== worst.bench.id);
  }
}

/** A bench's distances from what the judges say, filter by filter; of one judge alone nobody knows which of the two it is. */
function offsOf(bench: Bench, judges: readonly Bench[], noticeable: number): FilterOff[] {
  const others = judges.filter(({ id }) => id !== bench.id);
  // One's own bench first: its ids lead to its names.
  const both = [...others, bench].sort((a, b) => Number(b.isOwn) - Number(a.isOwn));
  return sharedBy(both, 'strength', 'filter').flatMap(({ name: filter, results }): FilterOff[] => {
    const at = results.findIndex((one) => one.bench === bench.name);
    if (at < 0 || results.length < 3) return [];
    const { off, reading } = consensusOf(results, noticeable, noticeable)!.scores[at];
    return [{ filter, stops: reading.value - off.value, off }];
  });
}

/** One's own figure of a filter beside those of others. */
export interface Beside {
  filter: string;
  /** Names of the other benches that have a figure of it. */
  benches: string[];
  off: Reading;
  word: BenchWord;
}

/** What other benches say of one's own strengths, filter by filter; filters that nobody else measured are left out. */
export function besideOthers(own: Bench, others: readonly Bench[], noticeable: number): Beside[] {
  return sharedBy([own, ...others], 'strength', 'filter').flatMap(({ name, results }): Beside[] => {
    const scores = consensusOf(results, noticeable, noticeable)?.scores ?? [];
    const mine = scores.find(({ bench }) => bench === own.name);
    if (!mine) return [];
    const benches = scores.filter((one) => one !== mine).map(({ bench }) => bench);
    return [{ filter: name, benches, off: mine.off, word: mine.word }];
  });
}
