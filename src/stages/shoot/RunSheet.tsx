'use client';

import { Cloud, RotateCcw, SkipForward, TriangleAlert, Undo2 } from 'lucide-react';
import { Link } from '@/ui/Link';
import { useState } from 'react';
import {
  lastEntry,
  logOf,
  nextTake,
  notedOffset,
  readLog,
  type LogEntry,
  type LoggedTake,
} from '@/core/sitting/planning/shootLog';
import { bareInWords, plannedOf, planRigIn } from '@/core/sitting/planning/planned';
import type { PlannedTake } from '@/core/sitting/planning/plan';
import { countStates, progressInWords, takesWithFootage, takeStates } from '@/core/sitting/planning/progress';
import type { Session } from '@/core/session/schema';
import { useAtDesk } from '@/ui/useAtDesk';
import { PaperRoom } from '@/ui/controls/room';
import { useEarly } from '@/ui/early/useEarly';
import { useOffline } from '@/ui/useOffline';
import { useRuns } from '@/ui/useRuns';
import { CameraClock } from './CameraClock';
import { PairPhone } from './PairPhone';
import { AddPictures } from '../live/AddPictures';
import { LiveLines, useLiveSheet } from './LiveLines';
import { TakeAtHand } from './TakeAtHand';
import { useRunSheet } from './useRunSheet';
import { clockOf, placeOf } from './words';

/** The run sheet: one take at a time, for one thumb, readable in the sun. */
export function RunSheet({ sessionId, session }: { sessionId: string; session: Session }) {
  const planned = plannedOf(session);
  const runs = useRuns();
  const { entries, tap, unsent, problem } = useRunSheet(sessionId, logOf(session));
  const live = useLiveSheet(sessionId);
  const footage = live ? new Set(live.laid) : takesWithFootage(session);
  const tapped = readLog(planned, entries);
  // While it is live the pictures themselves say what was shot, also where nobody taps.
  const states = takeStates(tapped, footage);
  const logged = live ? tapped.map((one) => ({ ...one, state: states.get(one.take.id)! })) : tapped;
  const atDesk = useAtDesk();
  useOffline();
  useEarly();
  const [chosen, setChosen] = useState<string | null>(null);
  const [note, setNote] = useState('');
  const filters = session.kits.flatMap((kit) => kit.filters);
  const nameOf = (take: PlannedTake) =>
    take.filter === null ? bareInWords(take) : (filters.find((one) => one.id === take.filter)?.name ?? take.filter);
  const current = logged.find((one) => one.take.id === chosen) ?? nextTake(logged);
  const finished = logged.filter((one) => one.state !== 'open').length;
  const last = lastEntry(entries);

  async function log(kind: LogEntry['kind'], more: Partial<LogEntry> = {}) {
    if (!current) return;
    const text = note.trim();
    if (kind === 'done' || kind === 'skip') setChosen(null);
    setNote('');
    await tap({ kind, take: current.take.id, ...(text === '' ? {} : { text }), ...more });
  }

  return (
    <PaperRoom className="min-h-dvh lg:grid lg:grid-cols-[1fr_460px_1fr] items-start">
      <main id="main" className="max-w-[460px] lg:col-start-2 w-full mx-auto px-4 pb-8 pt-3">
        <div className="flex justify-between gap-3 text-label text-ink-3">
          {atDesk ? (
            <Link href={`/sessions/${sessionId}/plan`} className="underline truncate">
              {session.title}
            </Link>
          ) : (
            <span className="truncate">{session.title}</span>
          )}
          <span role="status" className="whitespace-nowrap">
            {unsent > 0 ? `${unsent} ${unsent === 1 ? 'tap waits' : 'taps wait'} for a line` : 'all sent'}
          </span>
        </div>
        {problem && (
          <p role="alert" className="text-failure text-body mt-1">
            {problem}
          </p>
        )}
        <Progress logged={logged} current={current} />
        {planned.length > 0 && (
          <p className="text-label text-ink-3 mt-1">{progressInWords(countStates(states.values()))}</p>
        )}
        {live && <LiveLines sheet={live} />}
        {planned.length === 0 ? (
          <h1 className="mt-4 !text-figure">This session has no plan to shoot.</h1>
        ) : current ? (
          <TakeAtHand
            key={current.take.id}
            logged={current}
            rig={planRigIn(session)}
            name={nameOf(current.take)}
            count={`${finished + (current.state === 'open' ? 1 : 0)} of ${planned.length}`}
            onSetting={(setting) => void log('setting', { setting })}
          />
        ) : (
          <>
            <h1 className="mt-4 !text-figure">All done</h1>
            <p className="mt-1 text-head">Copy the card, then drop the files in Footage.</p>
          </>
        )}
        {current && (
          // A tap before the page runs would be nobody's: it is seen that it isn't taken yet.
          <fieldset disabled={!runs} className="min-w-0 disabled:opacity-60">
            <button
              type="button"
              onClick={() => void log('done')}
              className="mt-4 w-full h-[76px] rounded-sheet bg-accent text-on-accent text-figure font-strong"
            >
              Done
            </button>
            <div className="grid grid-cols-2 gap-2.5 mt-2.5">
              <Big icon={RotateCcw} label="Redo" onClick={() => void log('redo')} />
              <Big icon={SkipForward} label="Skip" onClick={() => void log('skip')} />
              <Big icon={Cloud} label="Cloud" pressed={current.cloud} onClick={() => void log('cloud')} />
              <Big
                icon={TriangleAlert}
                label="Wrong setting"
                pressed={current.wrong}
                onClick={() => void log('wrong')}
              />
            </div>
            <label className="block mt-3">
              <span className="text-label text-ink-3">Note, kept with the next tap</span>
              <input
                className="w-full h-12 rounded-sheet border border-ink-4 bg-well px-3 text-head"
                value={note}
                onChange={(event) => setNote(event.target.value)}
                onKeyDown={(event) => event.key === 'Enter' && note.trim() !== '' && void log('note')}
              />
            </label>
          </fieldset>
        )}
        <button
          type="button"
          disabled={!runs || !last}
          onClick={() => last && void tap({ kind: 'undo', take: last.take, of: last.id })}
          className="mt-3 h-12 w-full rounded-sheet border border-ink-4 flex items-center justify-center gap-2 text-head disabled:opacity-50"
        >
          <Undo2 size={18} aria-hidden /> Take back {last ? wordsOf(last) : 'the last tap'}
        </button>
        <TakeList logged={logged} current={current} nameOf={nameOf} disabled={!runs} onChoose={setChosen} />
        {live && (
          <section aria-label="Pictures" className="mt-4">
            <p className="text-label text-ink-3 mb-1.5">Pictures of this sitting, as the camera wrote them</p>
            <AddPictures sessionId={sessionId} />
          </section>
        )}
        {/* A page of its own, which the phone keeps as it keeps this one. */}
        <a
          href={atDesk ? `/sessions/${sessionId}/pick` : '/pick'}
          className="mt-4 h-12 w-full rounded-sheet border border-ink-4 flex items-center justify-center text-head"
        >
          Pick a filter for the light
        </a>
        <CameraClock offset={notedOffset(entries)} onNote={(text) => void tap({ kind: 'clock', text })} />
      </main>
      {atDesk && <PairPhone sessionId={sessionId} />}
    </PaperRoom>
  );
}

const WORDS: Readonly<Record<LogEntry['kind'], string>> = {
  done: '“done”',
  redo: '“redo”',
  skip: '“skip”',
  cloud: '“cloud”',
  wrong: '“wrong setting”',
  note: 'the note',
  setting: 'the setting',
  clock: 'the clock',
  undo: 'the last tap',
};
const wordsOf = ({ kind, take }: LogEntry) => `${WORDS[kind]}${take ? ` of ${take}` : ''}`;

/** All takes of the sheet; a press takes one up out of its turn. */
function TakeList({
  logged,
  current,
  nameOf,
  disabled,
  onChoose,
}: {
  logged: readonly LoggedTake[];
  current: LoggedTake | null;
  nameOf: (take: PlannedTake) => string;
  disabled: boolean;
  onChoose: (take: string) => void;
}) {
  return (
    <ol className="mt-5 border-t border-rule" aria-label="All takes">
      {logged.map((one) => (
        <li key={one.take.id} className="border-b border-rule">
          <button
            type="button"
            disabled={disabled}
            aria-current={one === current ? 'step' : undefined}
            onClick={() => onChoose(one.take.id)}
            className={`w-full min-h-11 py-1.5 flex items-baseline gap-3 text-left ${one === current ? 'font-strong' : ''}`}
          >
            <span className="w-5 text-center" aria-hidden>
              {one.state === 'done' ? '●' : one.state === 'skipped' ? '–' : '○'}
            </span>
            {one.state === 'done' && <span className="sr-only">done</span>}
            <span className="flex-1">
              {nameOf(one.take)}
              <span className="text-ink-3 font-normal"> {placeOf(one.take)}</span>
              {one.notes.length > 0 && (
                <span className="block text-label text-ink-3 font-normal">{one.notes.join('; ')}</span>
              )}
            </span>
            <span className="text-label text-ink-3 font-normal whitespace-nowrap">
              {[one.cloud && 'cloud', one.wrong && 'wrong setting'].filter(Boolean).join(', ')}{' '}
              {one.state === 'skipped' ? 'skipped' : one.doneMs === null ? '' : clockOf(one.doneMs)}
            </span>
          </button>
        </li>
      ))}
    </ol>
  );
}

/** How far along the plan: a bead a take. */
function Progress({ logged, current }: { logged: readonly LoggedTake[]; current: LoggedTake | null }) {
  const done = logged.filter((one) => one.state !== 'open').length;
  return (
    <div
      role="progressbar"
      aria-valuemin={0}
      aria-valuemax={logged.length}
      aria-valuenow={done}
      aria-label="Takes done"
      className="flex flex-wrap gap-1 mt-2.5"
    >
      {logged.map((one) => (
        <span
          key={one.take.id}
          className={`h-2 flex-1 min-w-1 rounded-full ${one === current ? 'bg-accent' : one.state === 'done' ? 'bg-ink' : one.state === 'skipped' ? 'bg-ink-4' : 'bg-rule'}`}
        />
      ))}
    </div>
  );
}

function Big({
  icon: Icon,
  label,
  pressed = false,
  onClick,
}: {
  icon: typeof Cloud;
  label: string;
  pressed?: boolean;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={pressed || undefined}
      onClick={onClick}
      className={`h-[60px] rounded-sheet border flex items-center justify-center gap-2 text-title ${pressed ? 'border-accent bg-sheet font-strong' : 'border-ink-4'}`}
    >
      <Icon size={20} aria-hidden /> {label}
    </button>
  );
}
