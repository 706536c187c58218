'use client';

import { useDeferredValue, useMemo, useState } from 'react';
import type { Bands } from '@/core/judging/rating/bands';
import { kitsAcross } from '@/core/judging/ranking/figures';
import { drawKits, PRESETS, rankDrawn, type Weights } from '@/core/judging/ranking/rank';
import type { MeasuredSession } from '@/server/across';
import { keepWeightsAction } from '@/server/judgeActions';
import { Link } from '@/ui/Link';
import { SavedNote } from '@/ui/saving/SavedNote';
import { useSaving } from '@/ui/saving/useSaving';
import { Apart } from './Apart';
import { KitRow } from './KitRow';
import { RankedSessions } from './RankedSessions';
import { KitCardButtons } from './RankingCards';
import { RankingCharts } from './RankingCharts';
import { WeightsPanel } from './WeightsPanel';
import { stabilityOf, titleOf } from './words';

/** Kits side by side, by what the reviewer counts. */
export function Ranking({
  sessions,
  lookedAt = null,
  bands,
  kept,
}: {
  sessions: MeasuredSession[];
  /** How many of the newest sessions are looked at, where there are more. */
  lookedAt?: number | null;
  bands: Bands;
  kept: Weights | null;
}) {
  const { save, state, problem } = useSaving();
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
  // What is pressed answers at once; the order follows a moment later, and a quality's weight needs no new draws.
  const [shown, settled] = [useDeferredValue(kits), useDeferredValue(weights)];
  const { usage, lacking } = settled;
  const drawn = useMemo(() => drawKits(shown, { usage, lacking }, bands), [shown, usage, lacking, bands]);
  const order = useMemo(() => rankDrawn(drawn, settled), [drawn, settled]);
  function change(next: Weights) {
    setWeights(next);
    save('weights', () => keepWeightsAction(next));
  }

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
  return (
    <main
      id="main"
      className="w-full max-w-[1680px] mx-auto px-[18px] py-[18px] grid gap-[18px] items-start lg:grid-cols-[minmax(0,1fr)_380px]"
    >
      <section aria-label="Order" className="min-w-0">
        <h1>{titleOf(order)}</h1>
        <p className="text-ink-2 text-lead mt-1 mb-4 max-w-[74ch]">{stabilityOf(order)}</p>
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
        <Apart kits={kits} leftOut={leftOut} onToggle={(key) => setLeftOut(toggled(leftOut, key))} />
        <RankingCharts order={order} />
      </section>
      <aside className="grid gap-[18px] min-w-0">
        <WeightsPanel weights={weights} onWeights={change} kits={kits} />
        {problem && <SavedNote state={state} problem={problem} />}
        <RankedSessions
          sessions={sessions}
          lookedAt={lookedAt}
          chosen={chosen}
          onToggle={(id) => setChosen(toggled(chosen, id))}
        />
        <KitCardButtons order={order} />
      </aside>
    </main>
  );
}

function toggled(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
}
