'use client';

import { Archive, ListChecks, Plus, Trophy } from 'lucide-react';
import type { CheckedProfile } from '@/core/sitting/planning/cameraCheck';
import { Link } from '@/ui/Link';
import { putAwayAction } from '@/server/sessionActions';
import { buttonClass } from '@/ui/Button';
import { useTell } from '@/ui/controls/Toasts';
import { DemoComing, type DemoProgress } from './DemoComing';
import { IconButton } from '@/ui/controls/Tooltip';
import { NO_LINE_NOW } from '@/ui/saving/asked';
import { SmallLadder } from '@/ui/ladder/SmallLadder';
import type { LadderBead } from '@/ui/ladder/layout';

export interface HomeSession {
  id: string;
  title: string;
  takes: number;
  filters: number;
  createdAt: string;
  beads: LadderBead[];
  measured: boolean;
  finding: string | null;
  placed: boolean;
  /** The rig's profile that it checks, where it is a camera's check. */
  check?: CheckedProfile | null;
}

/** What comes next for a session, and where. */
function nextStep({ id, check, measured, takes, placed }: HomeSession): { words: string; href: string } {
  const stage = (name: string) => `/sessions/${id}/${name}`;
  if (check)
    return { words: 'Look at the check', href: `/rigs/${check.rig}/check?profile=${check.profile}&session=${id}` };
  if (measured) return { words: 'Read the verdict', href: stage('verdict') };
  if (takes === 0) return { words: 'Shoot the plan', href: stage('plan') };
  if (!placed) return { words: 'Place the patch', href: stage('regions') };
  return { words: 'Measure', href: stage('measure') };
}

export function Home({
  sessions,
  more,
  demo = null,
  backup = null,
}: {
  sessions: HomeSession[];
  more: number;
  demo?: DemoProgress | null;
  /** When the last backup was made, ISO 8601. */
  backup?: string | null;
}) {
  const tell = useTell();

  async function put(session: HomeSession, gone: boolean) {
    const result = await putAwayAction(session.id, gone).catch(() => NO_LINE_NOW);
    if (!result.ok) tell({ words: result.error, bad: true });
    else if (gone)
      tell({
        words: `“${session.title}” is put away and kept for 30 days.`,
        action: { words: 'Bring it back', run: () => void put(session, false) },
      });
  }

  return (
    <main id="main" className="w-full max-w-[1180px] mx-auto px-[18px] py-7">
      <div className="flex items-end justify-between gap-4 flex-wrap mb-5">
        <div>
          <h1>{sessions.length === 0 ? 'No sessions yet' : 'Sessions'}</h1>
          <p className="text-ink-2 text-lead mt-1 max-w-[62ch]">
            A session is one sitting: a rig, a kit, bare pictures and pictures with each filter.
          </p>
        </div>
        <div className="flex gap-2 flex-wrap">
          {sessions.some((one) => one.measured) && (
            <Link href="/ranking" className={buttonClass('quiet')}>
              <Trophy size={16} aria-hidden /> Rank the kits
            </Link>
          )}
          <Link href="/plan" className={buttonClass('quiet')}>
            <ListChecks size={16} aria-hidden /> Plan a sitting
          </Link>
          <Link href="/sessions/new" className={buttonClass(sessions.some((one) => one.measured) ? 'plain' : 'main')}>
            <Plus size={16} aria-hidden /> New session
          </Link>
        </div>
      </div>
      {demo && <DemoComing {...demo} />}
      <ul className="border-t border-rule">
        {sessions.map((session, index) => {
          const next = nextStep(session);
          const first = index === sessions.findIndex((one) => one.measured && !one.check);
          return (
            <li
              key={session.id}
              className="border-b border-rule py-4 grid gap-x-6 gap-y-3 items-center lg:grid-cols-[minmax(0,1fr)_420px_216px]"
            >
              <div className="min-w-0">
                <Link
                  href={next.href}
                  title={session.title}
                  className="text-head font-strong hover:underline block truncate"
                >
                  {session.title}
                </Link>
                <p className="text-ink-2 mt-0.5 truncate">
                  {session.finding ?? 'Not measured yet'}
                  <span className="text-ink-3">
                    {' '}
                    ·{' '}
                    {session.check
                      ? `camera check, ${session.takes} pictures`
                      : `${session.filters} ${session.filters === 1 ? 'filter' : 'filters'}, ${session.takes} takes`}
                  </span>
                </p>
              </div>
              {session.check ? <span /> : <SmallLadder beads={session.beads} />}
              <div className="flex items-center gap-1 lg:justify-end">
                <Link href={next.href} className={buttonClass(first ? 'main' : 'plain')}>
                  {next.words}
                </Link>
                <IconButton
                  label={`Put “${session.title}” away`}
                  words="Put away"
                  onClick={() => void put(session, true)}
                >
                  <Archive size={16} aria-hidden />
                </IconButton>
              </div>
            </li>
          );
        })}
      </ul>
      <p className="text-ink-3 text-small mt-4">
        <Link href="/put-away" className="underline">
          Put away
        </Link>
        : what you put away is kept there for 30 days.
      </p>
      {more > 0 && <p className="text-ink-3 mt-3">{more} older sessions are not shown.</p>}
      {sessions.length > 0 && <BackupNote at={backup} />}
      {sessions.length === 0 && !demo && (
        <p className="text-ink-2 mt-4">
          Drop the pictures of a bench on <b>New session</b>, or run <code>./glade demo</code> for sessions to look at.
        </p>
      )}
    </main>
  );
}

/** When everything was last copied, and how it is. */
function BackupNote({ at }: { at: string | null }) {
  return (
    <p className="text-ink-3 text-small mt-5">
      {at === null ? 'No backup yet' : `Last backup: ${at.slice(0, 10)}, ${at.slice(11, 16)} UTC`}.{' '}
      <code>./glade backup</code> copies everything into one file while the program runs;{' '}
      <code>./glade up --nightly</code> does so every night.
    </p>
  );
}
