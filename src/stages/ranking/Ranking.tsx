'use client';

import { Link } from '@/ui/Link';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { keepWeightsAction } from '@/server/judgeActions';
import type { MeasuredSession } from '@/server/across';
import type { Bands } from '@/core/judging/rating/bands';
import {
  DRAWS,
  PRESETS,
  QUALITIES,
  rankKits,
  type Ranked,
  type Ranking as Order,
  type Weights,
} from '@/core/judging/ranking/rank';
import { kitsAcross, sittingKey, type AcrossKit } from '@/core/judging/ranking/figures';
import { ChartFigure } from '@/ui/charts/ChartFigure';
import { breakdownOption, castsOption, ROOM } from '@/ui/charts/options';
import { fixed, percent, signed } from '@/ui/format';
import { KitCardButtons } from './RankingCards';
import { WeightsPanel } from './WeightsPanel';

/** Kits side by side, by what the reviewer counts. */
export function Ranking({
  sessions,
  bands,
  kept,
}: {
  sessions: MeasuredSession[];
  bands: Bands;
  kept: Weights | null;
}) {
  const [weights, setWeights] = useState<Weights>(kept ?? PRESETS['neutral first'].weights);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(
    () => new Set(sessions.filter((one) => one.stale === null).map((one) => one.id)),
  );
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set());
  const kits = useMemo(
    () =>
      kitsAcross(
        sessions.filter((one) => chosen.has(one.id)).flatMap((one) => one.sittings),
        leftOut,
      ),
    [sessions, chosen, leftOut],
  );
  const settled = useDeferredValue(weights);
  const order = useMemo(() => rankKits(kits, settled, bands), [kits, settled, bands]);
  useEffect(() => {
    if (weights === kept) return;
    const timer = setTimeout(() => void keepWeightsAction(weights).catch(() => undefined), 800);
    return () => clearTimeout(timer);
  }, [weights, kept]);

  if (sessions.length === 0)
    return (
      <main id="main" className="px-[18px] py-16 max-w-[680px] mx-auto">
        <h1>Nothing to rank yet</h1>
        <p className="text-ink-2 mt-2">
          Kits are ranked by what was measured of them: <Link href="/sessions/new">start a session</Link>, and measure
          it.
        </p>
      </main>
    );
  const toggle = (set: ReadonlySet<string>, key: string) => {
    const next = new Set(set);
    if (!next.delete(key)) next.add(key);
    return next;
  };
  return (
    <main
      id="main"
      className="w-full max-w-[1680px] mx-auto px-[18px] py-[18px] grid gap-[18px] items-start lg:grid-cols-[minmax(0,1fr)_380px]"
    >
      <section aria-label="Order" className="min-w-0">
        <h1>{titleOf(order)}</h1>
        <p className="text-ink-2 text-[15px] mt-1 mb-4 max-w-[74ch]">{stabilityOf(order)}</p>
        <ol className="grid gap-2.5" data-testid="ranking">
          {order.kits.map((one) => (
            <KitRow key={one.kit.id} ranked={one} count={order.kits.length} weights={settled} />
          ))}
        </ol>
        {order.unranked.length > 0 && (
          <p className="text-ink-2 mt-3">
            Not ranked, since nothing that counts was measured: {order.unranked.map((one) => one.name).join(', ')}.
          </p>
        )}
        <Apart kits={kits} leftOut={leftOut} onToggle={(key) => setLeftOut(toggle(leftOut, key))} />
        <Charts order={order} />
      </section>
      <aside className="grid gap-[18px] min-w-0">
        <WeightsPanel weights={weights} onWeights={setWeights} kits={kits} />
        <section aria-label="Sessions" className="bg-sheet rounded-[10px] px-[18px] py-4">
          <h2>From these sessions</h2>
          <ul className="mt-2">
            {sessions.map((one) => (
              <li key={one.id} className="flex items-baseline gap-2 py-1">
                <input
                  type="checkbox"
                  id={`session-${one.id}`}
                  className="accent-accent size-4 translate-y-0.5"
                  checked={chosen.has(one.id)}
                  onChange={() => setChosen(toggle(chosen, one.id))}
                />
                <label htmlFor={`session-${one.id}`} className="min-w-0 flex-1">
                  {one.title}
                  {one.stale && (
                    <span className="text-warning block text-[12.5px]">
                      {one.stale === 'changed'
                        ? 'from before a change: measure it again, or take it as it is'
                        : 'measured by an older version of the program'}
                    </span>
                  )}
                </label>
                <Link href={`/sessions/${one.id}/verdict`} className="underline text-ink-2 text-[13px]">
                  figures
                </Link>
              </li>
            ))}
          </ul>
          <p className="text-ink-3 text-[12.5px] mt-2">
            A kit that was measured in several sessions gets their mean, weighted by 1/u² and widened where they
            disagree.
          </p>
        </section>
        <KitCardButtons order={order} />
      </aside>
    </main>
  );
}

function titleOf({ kits }: Order): string {
  if (kits.length === 0) return 'No kit can be ranked by these weights';
  if (kits.length === 1) return `${kits[0].kit.name} stands alone`;
  const [first, second] = kits;
  return first.ranks[0] < 0.8
    ? `${first.kit.name} or ${second.kit.name}: too near to tell`
    : `${first.kit.name} comes first`;
}

/** How sure the order is, and what would turn it. */
function stabilityOf({ kits, swaps }: Order): string {
  if (kits.length < 2) return 'A ranking needs two kits at least.';
  const [first, second] = kits;
  const sure = `${first.kit.name} keeps the first place in ${percent(first.ranks[0])} of ${DRAWS.toLocaleString('en')} draws from the uncertainties.`;
  const [swap] = swaps;
  const turn = swap
    ? ` ${second.kit.name} would pass it if ${swap.quality} counted ${fixed(swap.to, 1)} instead of ${fixed(swap.from, 1)}.`
    : ` No single weight would bring ${second.kit.name} past it.`;
  return sure + turn;
}

function KitRow({ ranked, count, weights }: { ranked: Ranked; count: number; weights: Weights }) {
  const { kit, rank, score, interval, qualities, ranks } = ranked;
  const across = kit as AcrossKit;
  const missing = QUALITIES.filter((one) => weights.qualities[one] > 0 && qualities[one] === null);
  return (
    <li className="bg-sheet rounded-[10px] px-[18px] py-3.5 grid gap-x-5 gap-y-2 items-center sm:grid-cols-[34px_minmax(0,1fr)_220px]">
      <span className="text-[26px] font-[600] text-ink-2">{rank}</span>
      <div className="min-w-0">
        <h2 className="truncate">{kit.name}</h2>
        <p className="text-ink-2 text-[13px] mt-0.5">
          {QUALITIES.filter((one) => weights.qualities[one] > 0 && qualities[one] !== null)
            .map((one) => `${one} ${Math.round(qualities[one]!)}`)
            .join(' · ')}
          {missing.length > 0 && (
            <span className="text-ink-3">
              {' '}
              · not measured: {missing.join(', ')} ({weights.unmeasured})
            </span>
          )}
        </p>
        <p className="text-ink-3 text-[12.5px] mt-0.5">
          {ranks
            .map((share, i) => (share >= 0.005 ? `place ${i + 1} in ${percent(share)}` : ''))
            .filter(Boolean)
            .join(', ')}{' '}
          ·{' '}
          {across.sessions?.map((one, i) => (
            <span key={one.id}>
              {i > 0 && ', '}
              <Link href={`/sessions/${one.id}/verdict`} className="underline">
                {one.title}
              </Link>
            </span>
          ))}
        </p>
      </div>
      <div>
        <p className="text-right">
          <span className="text-[26px] font-[560]" data-testid="score">
            {fixed(score, 1)}
          </span>{' '}
          <span className="unit">
            {fixed(interval[0], 1)} to {fixed(interval[1], 1)}
          </span>
        </p>
        <svg viewBox="0 0 200 12" className="w-full h-3 mt-1" aria-hidden>
          <rect x="0" y="5" width="200" height="2" fill="#6b6b6b" />
          <rect
            x={2 * interval[0]}
            y="2"
            width={Math.max(2, 2 * (interval[1] - interval[0]))}
            height="8"
            rx="2"
            fill="#8f8f8f"
          />
          <circle cx={2 * score} cy="6" r="5" fill={rank === 1 && count > 1 ? '#9fe3c4' : '#ececec'} />
        </svg>
      </div>
    </li>
  );
}

/** A sitting that stands apart by less than this, stops, isn't asked about: no verdict would notice. The ± is widened all the same. */
const WORTH_ASKING = 0.03;

/** Sittings that stand apart: a person says what becomes of them. */
function Apart({
  kits,
  leftOut,
  onToggle,
}: {
  kits: readonly AcrossKit[];
  leftOut: ReadonlySet<string>;
  onToggle: (key: string) => void;
}) {
  const asked = kits.flatMap((kit) =>
    kit.notes
      .filter(({ what }) => what === 'strength')
      .flatMap(({ filter, combined }) =>
        (combined.apart.length > 1 ? combined.apart.slice(-1) : combined.apart)
          .filter(({ off }) => Math.abs(off) > WORTH_ASKING)
          .map(({ session, off }) => ({
            key: sittingKey(session, kit.filters.find((one) => one.name === filter)?.filter ?? filter),
            words: `${kit.name}, ${filter}: “${kit.sessions.find((one) => one.id === session)?.title}” stands ${signed(off)} stop from the other sittings, more than their ± allow.`,
          })),
      ),
  );
  const wide = kits.flatMap((kit) =>
    kit.notes
      .filter(({ what, combined }) => what === 'strength' && combined.birgeRatio > 2)
      .map(({ filter, combined }) => `${kit.name} ${filter} (Birge ratio ${fixed(combined.birgeRatio, 1)})`),
  );
  if (asked.length === 0 && leftOut.size === 0 && wide.length === 0) return null;
  return (
    <section
      aria-label="Sittings that disagree"
      className="bg-well border-l-[3px] border-warning rounded-r-md px-4 py-3 mt-4"
    >
      {asked.map(({ key, words }) => (
        <p key={key} className="flex items-baseline gap-3 flex-wrap py-0.5">
          <span>{words}</span>
          <button type="button" className="underline" onClick={() => onToggle(key)}>
            Leave it out
          </button>
        </p>
      ))}
      {[...leftOut].map((key) => (
        <p key={key} className="py-0.5 text-ink-2">
          A sitting of {key.split(' ').slice(1).join(' ')} is left out.{' '}
          <button type="button" className="underline" onClick={() => onToggle(key)}>
            Take it in again
          </button>
        </p>
      ))}
      {wide.length > 0 && (
        <p className="py-0.5 text-ink-2">Sittings disagree beyond their ±, which is widened: {wide.join(', ')}.</p>
      )}
    </section>
  );
}

function Charts({ order }: { order: Order }) {
  const breakdown = useMemo(
    () =>
      breakdownOption(
        QUALITIES,
        order.kits.map(({ kit, qualities }) => ({ name: kit.name, scores: QUALITIES.map((one) => qualities[one]) })),
        ROOM,
      ),
    [order],
  );
  const casts = useMemo(
    () =>
      castsOption(
        order.kits.map(({ kit }) => ({
          name: kit.name,
          rows: kit.filters.flatMap(({ name, cast }) => (cast ? [{ name, a: cast.a.value, b: cast.b.value }] : [])),
        })),
        ROOM,
        1.3,
      ),
    [order],
  );
  if (order.kits.length === 0) return null;
  return (
    <div className="grid gap-[18px] mt-[18px] xl:grid-cols-2">
      <ChartFigure
        title="Scores by quality"
        name="scores"
        option={breakdown}
        height={80 + 34 * QUALITIES.length}
        head={['Quality', ...order.kits.map(({ kit }) => kit.name)]}
        rows={QUALITIES.map((one) => [
          one,
          ...order.kits.map(({ qualities }) => (qualities[one] === null ? 'not measured' : fixed(qualities[one], 1))),
        ])}
      />
      <ChartFigure
        title="Casts of all filters"
        name="casts"
        option={casts}
        height={386}
        head={['Kit', 'Filter', 'a*', 'b*']}
        rows={order.kits.flatMap(({ kit }) =>
          kit.filters.flatMap(({ name, cast }) =>
            cast ? [[kit.name, name, signed(cast.a.value), signed(cast.b.value)]] : [],
          ),
        )}
      />
    </div>
  );
}
