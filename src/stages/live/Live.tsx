'use client';

import { CircleStop, Play, Volume2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { LiveView } from '@/core/sitting/live/live';
import type { Session } from '@/core/session/schema';
import { Button, buttonClass } from '@/ui/Button';
import { NumberInput } from '@/ui/controls/fields';
import { Toggle } from '@/ui/controls/Toggle';
import type { LadderBead } from '@/ui/ladder/layout';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { Link } from '@/ui/Link';
import { useRuns } from '@/ui/useRuns';
import { AddPictures } from './AddPictures';
import { Alarms } from './Alarms';
import { LightSoFar } from './LightSoFar';
import { SimulatedCamera } from './SimulatedCamera';
import { useLive } from './useLive';
import { useSpoken } from './useSpoken';
import {
  aheadWords,
  labelWords,
  leftOutSpoken,
  minutesInWords,
  missingWords,
  spoken,
  strengthWords,
  titleOf,
} from './words';

const USUAL_WANTED = 0.02;
/** Rows of what comes next. */
const SHOWN_AHEAD = 6;

/** A sitting while one shoots: where each filter stands, what is spoiled, what comes next. */
export function Live({
  sessionId,
  session,
  isPlanned,
}: {
  sessionId: string;
  session: Session;
  /** Whether there is a plan whose takes can be shot. */
  isPlanned: boolean;
}) {
  const { state, problem, ask } = useLive(sessionId);
  const runs = useRuns();
  const [wanted, setWanted] = useState<number | null>(null);
  const [speaks, setSpeaks] = useState(false);
  const on = state?.on ?? false;
  const asked = wanted ?? state?.wanted ?? USUAL_WANTED;
  const alarms = useMemo(() => state?.view.alarms ?? [], [state]);
  const lines = useMemo(
    () => [...alarms.filter(({ again }) => again).map(spoken), ...(state?.leftOut ?? []).flatMap(leftOutSpoken)],
    [alarms, state],
  );
  useSpoken(lines, speaks);
  const filters = session.kits.flatMap((kit) => kit.filters);
  const nameOf = (id: string) => filters.find((one) => one.id === id)?.name ?? id;
  const setAsked = (value: number) => {
    setWanted(value);
    if (on && value >= 0.001 && value <= 1) void ask({ do: 'start', wanted: value });
  };
  return (
    <>
      <StopLadder beads={beadsOn(state?.view)} />
      <main
        id="main"
        className="w-full max-w-[1280px] mx-auto px-[18px] py-[18px] grid gap-[18px] grid-cols-[minmax(0,1fr)]"
      >
        <div className="flex items-end justify-between gap-4 flex-wrap">
          <div className="min-w-0">
            <h1>{state ? (on ? titleOf(state.view, state.wanted) : 'Look on while you shoot') : 'Looking …'}</h1>
            <p className="text-ink-2 mt-1 max-w-[70ch]">
              {on
                ? statusOf(state!)
                : 'Files that a camera, a card reader or a tethering program writes into a watched folder, or that you add here, are laid on the plan’s takes and measured at once; what is spoiled is told while the set still stands. Keep this page open meanwhile.'}
            </p>
          </div>
          <div className="flex items-center gap-3 flex-wrap">
            <label className="flex items-center gap-2">
              ± asked for, stops
              <NumberInput className="w-[84px] text-right px-1.5" step={0.01} value={asked} onChange={setAsked} />
            </label>
            <Toggle on={speaks} onChange={setSpeaks}>
              <span className="inline-flex items-center gap-1.5">
                <Volume2 size={15} aria-hidden /> Speak
              </span>
            </Toggle>
            {on ? (
              <Button onClick={() => void ask({ do: 'end' })}>
                <CircleStop size={16} aria-hidden /> End and measure
              </Button>
            ) : (
              <Button
                look="main"
                disabled={!runs || !isPlanned || !(asked >= 0.001 && asked <= 1)}
                onClick={() => void ask({ do: 'start', wanted: asked })}
              >
                <Play size={16} aria-hidden /> Start
              </Button>
            )}
          </div>
        </div>
        {problem && (
          <p role="alert" className="text-failure">
            {problem}
          </p>
        )}
        {!isPlanned && (
          <p className="border-l-4 border-warning pl-3">
            This session has no plan, so nobody knows what comes next.{' '}
            <Link href="/plan" className="underline">
              Plan a sitting
            </Link>
          </p>
        )}
        {state?.other && (
          <p className="border-l-4 border-warning pl-3">
            <Link href={`/sessions/${state.other}/live`} className="underline">
              Another sitting
            </Link>{' '}
            is looked at now; starting this one takes its place.
          </p>
        )}
        {state && (
          <div className="grid gap-[18px] items-start grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
            <div className="grid gap-[18px] min-w-0">
              <Alarms
                alarms={alarms}
                leftOut={state.leftOut}
                onAgain={on ? (take, message) => void ask({ do: 'again', take, message }) : undefined}
              />
              {[
                ...state.unlaid.map(({ path, why }) => `${path} waits: ${why}`),
                ...state.placeless.map(({ scene, why }) => `No places to measure on “${scene}”: ${why}`),
              ].map((line) => (
                <p key={line} className="border-l-4 border-warning pl-3 [overflow-wrap:anywhere]">
                  {line}{' '}
                  <Link
                    href={`/sessions/${sessionId}/${line.startsWith('No places') ? 'regions' : 'footage'}`}
                    className="underline"
                  >
                    Look
                  </Link>
                </p>
              ))}
              <Next view={state.view} nameOf={nameOf} />
              {on && <SimulatedCamera sessionId={sessionId} />}
            </div>
            <div className="grid gap-[18px] min-w-0">
              <Beads view={state.view} isCurrent={state.isCurrent} />
              {state.light.length > 1 && <LightSoFar points={state.light} />}
              {on && <AddPictures sessionId={sessionId} />}
              <p className="flex gap-2 flex-wrap">
                <Link href={`/sessions/${sessionId}/shoot`} className={buttonClass('plain')}>
                  Run sheet
                </Link>
                <Link href={`/sessions/${sessionId}/verdict`} className={buttonClass('quiet')}>
                  Verdict
                </Link>
              </p>
            </div>
          </div>
        )}
      </main>
    </>
  );
}

/** What the server is doing. */
function statusOf({ measuring, isCurrent, view }: NonNullable<ReturnType<typeof useLive>['state']>): string {
  if (measuring && ['queued', 'running'].includes(measuring.state)) return 'Measuring what came last …';
  if (measuring?.state === 'failed' && !isCurrent) return `Measuring failed: ${measuring.error ?? ''}`;
  if (view.ahead.length === 0) return 'All is shot. End it to have everything measured properly.';
  return `Waiting for the next file. About ${minutesInWords(view.minutes)} to go.`;
}

function beadsOn(view: LiveView | undefined): LadderBead[] {
  return (view?.beads ?? []).map(({ filter, name, label, labelSpan, stops, parts, state }) => {
    const ends = parts.map((one) => one.stops.value);
    const halves = parts.some(({ at }) => at === 'dense half');
    return {
      id: filter,
      name,
      ...{ labelStops: label, labelSpan },
      found: stops,
      span:
        ends.length > 0 ? { low: Math.min(...ends), high: Math.max(...ends), ticks: halves ? [] : ends, halves } : null,
      verdict: stops || ends.length > 0 ? (state === 'reached' ? 'as close as asked for' : 'provisional') : null,
    };
  });
}

/** What comes next, the take at hand large. */
function Next({ view, nameOf }: { view: LiveView; nameOf: (id: string) => string }) {
  const [first, ...rest] = view.ahead;
  if (!first) return null;
  return (
    <section aria-label="What comes next" className="bg-sheet rounded-sheet p-4">
      <p className="text-label text-ink-3">Next</p>
      <p className="text-title font-strong" data-testid="next">
        {aheadWords(first, nameOf)}
      </p>
      {rest.length > 0 && (
        <ol className="mt-2 text-ink-2 grid gap-0.5">
          {rest.slice(0, SHOWN_AHEAD).map((one, i) => (
            <li key={i}>{aheadWords(one, nameOf)}</li>
          ))}
          {rest.length > SHOWN_AHEAD && <li className="text-ink-3">and {rest.length - SHOWN_AHEAD} more</li>}
        </ol>
      )}
    </section>
  );
}

/** Each filter's provisional strength, and what is missing. */
function Beads({ view, isCurrent }: { view: LiveView; isCurrent: boolean }) {
  return (
    <section aria-label="Filters so far" className="bg-sheet rounded-sheet p-3 overflow-x-auto relative">
      <table className="w-full text-label tabular-nums">
        <caption className="sr-only">Provisional strengths</caption>
        <thead>
          <tr className="text-ink-3 text-left">
            {['Filter', 'Label', 'So far', 'Pictures', 'For the ± asked for'].map((name, i) => (
              <th key={name} scope="col" className={`font-medium pr-3 pb-1 ${i > 0 && i < 4 ? 'text-right' : ''}`}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.beads.map((bead) => (
            <tr key={bead.filter}>
              <th scope="row" className="text-left font-medium pr-3 py-1 whitespace-nowrap">
                {bead.name}
              </th>
              <td className="pr-3 text-right whitespace-nowrap">{labelWords(bead)}</td>
              <td className="pr-3 text-right whitespace-nowrap">
                {strengthWords(bead).map(({ at, words }) => (
                  <span key={at} className="block">
                    {at && <span className="text-ink-3 mr-2">{at}</span>}
                    {words}
                  </span>
                ))}
              </td>
              <td className="pr-3 text-right">{bead.pictures}</td>
              <td className={bead.state === 'reached' ? 'text-accent' : 'text-ink-2'}>
                {missingWords(bead, isCurrent)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
