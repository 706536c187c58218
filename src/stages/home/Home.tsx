'use client';

import { Backpack, ChartSpline, ListChecks, Plus, Scale, Trophy } from 'lucide-react';
import { useState } from 'react';
import { Link } from '@/ui/Link';
import { putAwayAction } from '@/server/sessionActions';
import { buttonClass } from '@/ui/Button';
import { useTell } from '@/ui/controls/Toasts';
import { DemoComing, type DemoProgress } from './DemoComing';
import { notAnswered } from '@/ui/saving/asked';
import { addressOf, EVERYTHING, isSame, listed, type HomeSession, type Wanted } from './listed';
import { SessionRow } from './SessionRow';
import { SessionTools } from './SessionTools';
import type { Waiting } from './waiting';
import { Waits } from './Waits';
import { useRuns } from '@/ui/useRuns';
import { useWanted } from './useWanted';

/** More sessions that one press shows. */
const BY = 100;
/** Rows that the page comes with; the others, below what a screen shows, follow at once. */
const AT_FIRST = 20;
const NO_NAMES = { kits: [], cameras: [] };

export function Home({
  sessions,
  more,
  names = NO_NAMES,
  asked = EVERYTHING,
  isBehind = false,
  waiting = [],
  demo = null,
  backup = null,
}: {
  sessions: HomeSession[];
  /** How many more are as asked for. */
  more: number;
  /** Kits and cameras of all sessions. */
  names?: { kits: string[]; cameras: string[] };
  /** What the sessions were searched by. */
  asked?: Wanted;
  /** Whether some sessions can't be found by words yet. */
  isBehind?: boolean;
  /** What waits for the reader. */
  waiting?: readonly Waiting[];
  demo?: DemoProgress | null;
  /** When the last backup was made, ISO 8601. */
  backup?: string | null;
}) {
  const tell = useTell();
  const isWhole = more === 0 && isSame(asked, EVERYTHING);
  const { wanted, want, isAsking } = useWanted(asked, isWhole);
  const all = useRuns();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const shown = listed(sessions, wanted);
  const first = shown.find((one) => one.measured && !one.check);
  const isEmpty = isWhole && sessions.length === 0;

  async function put(session: HomeSession, gone: boolean) {
    const result = await putAwayAction(session.id, gone).catch(notAnswered);
    if (!result.ok) tell({ words: result.error, bad: true });
    else if (gone)
      tell({
        words: `“${session.title}” is put away and kept for 30 days.`,
        action: { words: 'Bring it back', run: () => void put(session, false) },
      });
  }

  const choose = (id: string, now: boolean) =>
    setChosen((all) => new Set(now ? [...all, id] : [...all].filter((one) => one !== id)));

  async function putSeveral() {
    const gone = shown.filter((one) => chosen.has(one.id));
    const put: HomeSession[] = [];
    for (const session of gone) {
      const result = await putAwayAction(session.id, true).catch(notAnswered);
      if (result.ok) put.push(session);
      else tell({ words: `“${session.title}”: ${result.error}`, bad: true });
    }
    setChosen(new Set());
    if (put.length > 0)
      tell({
        words: `${put.length} ${put.length === 1 ? 'session is' : 'sessions are'} put away and kept for 30 days.`,
        action: {
          words: 'Bring them back',
          run: () => void Promise.all(put.map((session) => putAwayAction(session.id, false))),
        },
      });
  }

  return (
    <main id="main" className="w-full max-w-[1180px] mx-auto px-[18px] py-7">
      <HomeHead isEmpty={isEmpty} isMeasured={sessions.some((one) => one.measured)} />
      {demo && <DemoComing {...demo} />}
      <Waits waiting={waiting} />
      {(sessions.length > 1 || !isWhole) && (
        <SessionTools
          names={names}
          wanted={wanted}
          onWant={want}
          chosen={chosen.size}
          onPutAway={() => void putSeveral()}
          onLeave={() => setChosen(new Set())}
        />
      )}
      <ul className="border-t border-rule" aria-label="Sessions">
        {shown.slice(0, all ? undefined : AT_FIRST).map((session) => (
          <SessionRow
            key={session.id}
            session={session}
            isFirst={session === first}
            isChosen={chosen.has(session.id)}
            onChoose={(now) => choose(session.id, now)}
            onPutAway={() => void put(session, true)}
          />
        ))}
      </ul>
      {isAsking && (
        <p role="status" className="text-ink-2 mt-3">
          Looking through all sessions …
        </p>
      )}
      {shown.length === 0 && !isEmpty && !isAsking && (
        <p className="text-ink-2 mt-3">
          No session is like that.{' '}
          <button type="button" className="underline" onClick={() => want(EVERYTHING)}>
            Show all
          </button>
        </p>
      )}
      <p className="text-ink-3 text-small mt-4">
        <Link href="/put-away" className="underline">
          Put away
        </Link>
        : what you put away is kept there for 30 days.
      </p>
      {isBehind && !isSame(wanted, EVERYTHING) && (
        <p className="text-ink-3 mt-3">
          Some sessions are still being made ready for searching: look again in a minute.
        </p>
      )}
      {more > 0 && !isAsking && (
        <p className="text-ink-3 mt-3">
          {more} {isSame(asked, EVERYTHING) ? 'older ' : 'more '}
          {more === 1 ? 'session is' : 'sessions are'} not shown.{' '}
          <Link href={addressOf(asked, sessions.length + BY)} className="underline" scroll={false}>
            Show {Math.min(more, BY)} more
          </Link>
        </p>
      )}
      {!isEmpty && <BackupNote at={backup} />}
      {isEmpty && !demo && (
        <p className="text-ink-2 mt-4">
          Drop the pictures of a bench on <b>New session</b>, or run <code>./glade demo</code> for sessions to look at.
        </p>
      )}
    </main>
  );
}

/** What the page is, and where one goes from it. */
function HomeHead({ isEmpty, isMeasured }: { isEmpty: boolean; isMeasured: boolean }) {
  return (
    <div className="flex items-end justify-between gap-4 flex-wrap mb-5">
      <div>
        <h1>{isEmpty ? 'No sessions yet' : 'Sessions'}</h1>
        <p className="text-ink-2 text-lead mt-1 max-w-[62ch]">
          A session is one sitting: a rig, a kit, bare pictures and pictures with each filter.
        </p>
      </div>
      <div className="flex gap-2 flex-wrap">
        {isMeasured && (
          <>
            <Link href="/ranking" className={buttonClass('quiet')}>
              <Trophy size={16} aria-hidden /> Rank the kits
            </Link>
            <Link href="/years" className={buttonClass('quiet')}>
              <ChartSpline size={16} aria-hidden /> Over the years
            </Link>
            <Link href="/benches" className={buttonClass('quiet')}>
              <Scale size={16} aria-hidden /> Between benches
            </Link>
            <Link href="/carry" className={buttonClass('quiet')}>
              <Backpack size={16} aria-hidden /> What to carry
            </Link>
          </>
        )}
        <Link href="/plan" className={buttonClass('quiet')}>
          <ListChecks size={16} aria-hidden /> Plan a sitting
        </Link>
        <Link href="/sessions/new" className={buttonClass(isMeasured ? 'plain' : 'main')}>
          <Plus size={16} aria-hidden /> New session
        </Link>
      </div>
    </div>
  );
}

/** When everything was last copied, and how it is. */
function BackupNote({ at }: { at: string | null }) {
  return (
    <p className="text-ink-3 text-small mt-5">
      {at === null ? 'No backup yet' : `Last backup: ${at.slice(0, 10)}, ${at.slice(11, 16)} UTC`}.{' '}
      <code>./glade backup</code> copies everything while the program runs; <code>./glade up --nightly</code> does so
      every night.
    </p>
  );
}
