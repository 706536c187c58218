'use client';

import { useState } from 'react';
import { keepRoundAction } from '@/server/compareActions';
import { Button } from '@/ui/Button';
import { Choice, Toggle } from '@/ui/controls/Toggle';
import { notAnswered } from '@/ui/saving/asked';
import { fixed, percent } from '@/ui/format';
import type { SessionView } from '@/ui/sessionView';
import { castOfTile, keptOfTile, oddsOf, outcomeOf, type BlindState } from './blindState';

const letter = (i: number) => String.fromCharCode(65 + i);

/** Votes without names, kept before the reveal; then names, what was measured, and how well guessing would have done. */
export function Blind({
  state,
  session,
  onState,
}: {
  state: BlindState;
  session: SessionView;
  onState: (state: BlindState | null) => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const { order, votes, revealed } = state;
  const vote = (part: Partial<BlindState['votes']>) => onState({ ...state, votes: { ...votes, ...part } });
  const complete = votes.neutral !== null || votes.sharpest !== null || votes.ranks.length === order.length;

  async function reveal() {
    const kept = await keepRoundAction(session.id, {
      seed: state.seed,
      files: order.map((one) => one.picture.file),
      votes,
    }).catch(notAnswered);
    if (!kept.ok) return setProblem(kept.error);
    onState({ ...state, revealed: true, rounds: kept.rounds });
  }

  if (revealed) return <Result state={state} onAgain={() => onState(null)} />;
  const question = (name: 'neutral' | 'sharpest', words: string) => (
    <div className="flex items-center gap-1">
      <span className="mr-2">{words}</span>
      <Choice
        label={words}
        value={votes[name] === null ? null : String(votes[name])}
        entries={order.map((_, i) => ({ value: String(i), words: letter(i) }))}
        onChange={(i) => vote({ [name]: Number(i) })}
      />
    </div>
  );
  return (
    <section
      aria-label="Blind viewing"
      className="bg-sheet rounded-sheet px-4 py-3 mt-2 flex flex-wrap gap-x-8 gap-y-2 items-center"
    >
      {question('neutral', 'Which is neutral?')}
      {question('sharpest', 'Which is sharpest?')}
      <div role="group" aria-label="Rank by color" className="flex items-center gap-1">
        <span className="mr-2">By color, most neutral first:</span>
        {order.map((_, i) => {
          const place = votes.ranks.indexOf(i);
          return (
            <Toggle
              key={i}
              on={place >= 0}
              label={place >= 0 ? `${letter(i)}, place ${place + 1}` : letter(i)}
              onChange={(on) => vote({ ranks: on ? [...votes.ranks, i] : votes.ranks.filter((one) => one !== i) })}
            >
              {letter(i)}
              {place >= 0 && <sub> {place + 1}</sub>}
            </Toggle>
          );
        })}
      </div>
      <Button look="main" disabled={!complete} onClick={() => void reveal()}>
        Keep the votes and show names
      </Button>
      {problem && (
        <p role="alert" className="text-failure">
          {problem}
        </p>
      )}
    </section>
  );
}

function Result({ state, onAgain }: { state: BlindState; onAgain: () => void }) {
  const { order, votes, rounds } = state;
  const outcome = outcomeOf(state);
  const same = rounds.flatMap((round) => {
    const shown = round.files.map((file) => order.find((one) => one.picture.file === file));
    return round.files.length === order.length && shown.every((one) => one !== undefined)
      ? [outcomeOf({ order: shown, votes: round.votes })]
      : [];
  });
  const odds = oddsOf(same);
  const said = (hit: boolean | null) =>
    hit === null ? 'no vote, or not measured' : hit ? 'as measured' : 'not as measured';
  return (
    <section aria-label="Result of blind viewing" className="bg-sheet rounded-sheet px-4 py-3 mt-2">
      <h2>What they were</h2>
      <table className="mt-1 text-left">
        <thead>
          <tr className="text-ink-3 text-small">
            {['Tile', 'Filter', 'ΔE00 measured', 'Sharpness kept', 'Voted'].map((head) => (
              <th key={head} className="font-normal pr-6">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {order.map((one, i) => {
            const [cast, kept] = [castOfTile(one), keptOfTile(one)];
            const marks = [
              votes.neutral === i && 'neutral',
              votes.sharpest === i && 'sharpest',
              votes.ranks.includes(i) && `place ${votes.ranks.indexOf(i) + 1} by color`,
            ].filter(Boolean);
            return (
              <tr key={one.picture.file}>
                <td className="pr-6">{letter(i)}</td>
                <td className="pr-6 font-semibold">{one.picture.name}</td>
                <td className="pr-6">{cast === null ? '–' : fixed(cast, 1)}</td>
                <td className="pr-6">{kept === null ? '–' : percent(kept, 0)}</td>
                <td className="text-ink-2">{marks.join(', ') || '–'}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <ul className="mt-2 text-ink-2">
        <li>
          Neutral: {said(outcome.neutral)}. Sharpest: {said(outcome.sharpest)}.
        </li>
        {outcome.rank && (
          <li>
            Order by color agrees with the measured one by Kendall’s tau {fixed(outcome.rank.tau, 2)}
            {outcome.rank.odds !== null &&
              `; an order by chance does as well in ${percent(outcome.rank.odds, 1)} of cases`}
            .
          </li>
        )}
        {odds && (
          <li>
            {odds.hits} of {odds.trials} {odds.trials === 1 ? 'vote' : 'votes'} in {same.length}{' '}
            {same.length === 1 ? 'round' : 'rounds'} agree with what was measured; guessing does as well in{' '}
            {percent(odds.odds, odds.odds < 0.01 ? 2 : 0)} of cases.
          </li>
        )}
      </ul>
      <Button look="plain" className="mt-2" onClick={onAgain}>
        Leave blind viewing
      </Button>
    </section>
  );
}
