'use client';

import { useMemo, useState } from 'react';
import { consensusOf } from '@/core/judging/agreement/consensus';
import {
  patternsOf,
  sharedBy,
  type Bench,
  type BenchPattern,
  type Grouping,
  type Shared,
} from '@/core/judging/agreement/benches';
import { LEAST_BENCHES } from '@/core/judging/agreement/youden';
import { FOLLOWED, type Followed } from '@/core/judging/overTime/lives';
import { ChartFigure, type Drawing } from '@/ui/charts/ChartFigure';
import { agreementOption } from '@/ui/charts/agreementOption';
import { Select } from '@/ui/controls/Select';
import { withU95 } from '@/ui/format';
import { Link } from '@/ui/Link';
import { QualitySelect } from '@/ui/QualitySelect';
import { RoundRobin, type TravellingKit } from './RoundRobin';
import { ScoreTable } from './ScoreTable';
import { TheirBenches, type TheirBench } from './TheirBenches';
import { moreWords, patternWords, sentenceOf, titleOf } from './words';
import { OnlyNewest } from '@/ui/OnlyNewest';
import { pairsOf, YoudenChart } from './YoudenChart';

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** What several benches say of a filter: whether they agree, who is off and in what, how many more would settle it. */
export function Benches({
  benches,
  theirs,
  kits = [],
  lookedAt = null,
  today,
}: {
  benches: readonly Bench[];
  theirs: readonly TheirBench[];
  /** Of the shelf, for a round robin. */
  kits?: readonly TravellingKit[];
  /** How many of the own newest sessions are looked at, where there are more. */
  lookedAt?: number | null;
  /** The day at the server, as ISO 8601 writes it. */
  today: string;
}) {
  const [quality, setQuality] = useState<Followed>('strength');
  const [by, setBy] = useState<Grouping>('filter');
  const [chosen, setChosen] = useState<string | null>(null);
  const [beside, setBeside] = useState<string | null>(null);
  const shared = useMemo(() => sharedBy(benches, quality, by), [benches, quality, by]);
  const patterns = useMemo(() => patternsOf(benches, FOLLOWED.strength.noticeable), [benches]);
  const { unit, noticeable } = FOLLOWED[quality];
  const wanted = noticeable / 2;
  const one = shared.find(({ key }) => key === chosen) ?? strikingOf(shared, noticeable);
  const consensus = useMemo(() => one && consensusOf(one.results, noticeable, wanted), [one, noticeable, wanted]);
  const others = one ? shared.filter((other) => other !== one && pairsOf(one, other).length >= LEAST_BENCHES) : [];
  const second = others.find(({ key }) => key === beside) ?? others[0];
  return (
    <main
      id="main"
      className="w-full max-w-[1680px] mx-auto px-[18px] py-[18px] grid grid-cols-[minmax(0,1fr)] gap-[18px]"
    >
      <div className="flex items-end justify-between gap-4 flex-wrap">
        <div className="min-w-0">
          <h1>{consensus ? titleOf(consensus, by) : 'No filter of two benches yet'}</h1>
          <p className="text-ink-2 text-lead mt-1 max-w-[74ch]">
            {one && consensus
              ? sentenceOf(one.name, quality, consensus, by)
              : theirs.length === 0
                ? 'Take in what another bench measured of the same filters: figures of others are kept apart as theirs.'
                : emptyWords(by)}
          </p>
        </div>
        <div className="flex gap-2 flex-wrap">
          <Select
            label="What is compared"
            value={by}
            options={[['filter', 'The same filter'] as const, ['label', 'All of one label'] as const]}
            onChange={setBy}
          />
          {one && (
            <Select
              label="Filter"
              value={one.key}
              options={shared.map(({ key, name }) => [key, name] as const)}
              onChange={setChosen}
            />
          )}
          <QualitySelect label="Quality" value={quality} onChange={setQuality} />
        </div>
      </div>
      <div className="grid gap-[18px] items-start grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
        <div className="grid gap-3 min-w-0">
          {one && consensus && (
            <>
              <ScoreTable consensus={consensus} by={by} what={`${capital(quality)} of ${one.name}`} unit={unit} />
              <p className="text-ink-2 max-w-[74ch]">
                {moreWords(consensus.more, wanted, unit, by)} The robust mean, which benches that are far off hardly
                move, is {withU95(consensus.robust)} {unit}.
              </p>
              <BenchesChart results={consensus} name={one.name} quality={quality} />
            </>
          )}
          <p className="text-ink-3 text-label max-w-[74ch]">
            Eₙ is the distance from the others over its ±: beyond 1 one of the ± is too narrow. z is the distance from
            the robust mean over half of what somebody would notice ({wanted} {unit}): beyond 2 doubtful, beyond 3 off.{' '}
            <Link href="/method#between-benches" className="underline">
              How
            </Link>
          </p>
          {lookedAt !== null && <OnlyNewest count={lookedAt} />}
          <RoundRobin kits={kits} names={theirs.map(({ name }) => name)} today={today} />
        </div>
        <div className="grid gap-[18px] min-w-0">
          {one && second && (
            <YoudenChart first={one} others={others} second={second} quality={quality} onSecond={setBeside} />
          )}
          <Patterns patterns={patterns} />
          <TheirBenches benches={theirs} />
        </div>
      </div>
    </main>
  );
}

/** The first filter that a bench is off in: what one came to see; else the first. */
const strikingOf = (shared: readonly Shared[], noticeable: number): Shared | undefined =>
  shared.find(({ results }) =>
    consensusOf(results, noticeable, noticeable)?.scores.some(({ word }) => word === 'off'),
  ) ?? shared[0];

const emptyWords = (by: Grouping) =>
  by === 'filter'
    ? 'No filter of theirs has the name of one of yours, in a kit of one name. Compare all of one label instead, or give the kit on the shelf the name that they use.'
    : 'No label of theirs is one of yours, in this quality.';

function BenchesChart({
  results,
  name,
  quality,
}: {
  results: NonNullable<ReturnType<typeof consensusOf>>;
  name: string;
  quality: Followed;
}) {
  // prettier-ignore
  const { unit, noticeable } = FOLLOWED[quality];
  const drawing = useMemo((): Drawing => {
    const rows = results.scores.map(({ bench, reading, word }) => ({
      name: bench,
      ...reading,
      odd: word === 'off' || word === 'doubtful',
    }));
    return (theme, size) => agreementOption(rows, results.weighted, { unit, least: noticeable / 2 }, theme, size);
  }, [results, unit, noticeable]);
  return (
    <ChartFigure
      title={`${name}: ${quality}`}
      says="Every bench with its ±, over the weighted mean and its ±; a square is doubtful or off."
      name="between-benches"
      drawing={drawing}
      height={260}
      head={['Bench', `${capital(quality)}, ${unit}`]}
      rows={results.scores.map(({ bench, reading }) => [bench, withU95(reading)])}
    />
  );
}

/** Who is off, and in what. */
function Patterns({ patterns }: { patterns: readonly BenchPattern[] }) {
  if (patterns.length === 0) return null;
  return (
    <section aria-label="In what a bench is off" className="grid gap-2">
      <h2>In what a bench is off</h2>
      <dl className="grid gap-2">
        {patterns.map((one) => (
          <div key={one.bench}>
            <dt className="font-medium">{one.bench}</dt>
            <dd className="text-ink-2">{patternWords(one)}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
