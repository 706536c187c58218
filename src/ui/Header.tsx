'use client';

import { useEarly } from './early/useEarly';
import { CircleUserRound, Moon, Pencil, Sun } from 'lucide-react';
import { Link } from '@/ui/Link';
import { useRouter } from 'next/navigation';
import { useRooms } from './controls/room';
import { IconButton } from './controls/Tooltip';
import { KeyHelp } from './KeyHelp';
import { useEffect, useRef } from 'react';
import { useKeys } from './keys';
import { STAGES, type Stage } from './stageList';
import { useLastSession, type NamedSession } from './useLastSession';
import { useShownPerson } from './useShownPerson';

/** The top line: name, session, stages. Stages that are not here yet are named but can't be entered. */
export function Header({
  session: own,
  stage,
  keeps = false,
}: {
  session?: NamedSession;
  stage?: string;
  /** On a page of no session: stays with the one that this tab came from. */
  keeps?: boolean;
}) {
  useEarly();
  const session = useLastSession(own, keeps);
  const router = useRouter();
  const person = useShownPerson();
  const stages = useRef<HTMLElement>(null);
  // On a phone the stages stand in one line that is moved by the finger: the one that is open is in it.
  useEffect(() => {
    const here = stages.current?.querySelector<HTMLElement>('[aria-current="page"]');
    if (here) stages.current!.scrollLeft = here.offsetLeft - (stages.current!.clientWidth - here.offsetWidth) / 2;
  }, [stage]);
  useKeys((key) => {
    const target = STAGES.find((one) => one.key === key);
    const address = target && addressOf(target, session?.id);
    if (!address) return false;
    router.push(address);
    return true;
  });
  return (
    <header className="bg-header min-h-11 px-[18px] flex items-center gap-x-[18px] gap-y-1 flex-wrap py-1">
      <Link
        href="/"
        className="flex items-center gap-2.5 font-strong [font-stretch:112%] tracking-[0.01em] whitespace-nowrap"
      >
        <Mark />
        Aurora Glade
      </Link>
      {session && (
        <Link
          href={`/sessions/${session.id}/details`}
          aria-current={stage === 'details' ? 'page' : undefined}
          title={`${session.title}: title, place, camera, kit, history`}
          className="group flex items-center gap-1.5 text-ink-2 hover:text-ink min-w-0 flex-1 max-w-[340px] py-1"
        >
          <span className="truncate">{session.title}</span>
          <Pencil size={13} aria-hidden className="shrink-0 text-ink-3 group-hover:text-ink" />
        </Link>
      )}
      <nav
        ref={stages}
        aria-label="Stages"
        className="relative sm:ml-auto flex sm:flex-wrap gap-0.5 max-sm:order-last max-sm:w-full max-sm:overflow-x-auto"
      >
        {STAGES.map((one) => {
          const address = addressOf(one, session?.id);
          const here = stage !== undefined && stage === (one.path ?? one.alone?.slice(1));
          const label = (
            <>
              <span aria-hidden className={`mr-1.5 text-tiny ${here ? 'text-on-ink-2' : 'text-ink-3'}`}>
                {one.key}
              </span>
              {one.name}
            </>
          );
          const box = 'px-2 py-1.5 rounded-md text-label narrow whitespace-nowrap';
          return address ? (
            <Link
              key={one.key}
              href={address}
              aria-current={here ? 'page' : undefined}
              className={`${box} ${here ? 'bg-ink text-on-ink font-semibold' : 'text-ink hover:bg-sheet'}`}
            >
              {label}
            </Link>
          ) : (
            <span
              key={one.key}
              aria-disabled
              title={one.path ? 'Open a session first' : 'Not here yet'}
              className={`${box} text-ink-4 opacity-90`}
            >
              {label}
            </span>
          );
        })}
      </nav>
      <span className="flex items-center gap-0.5 max-sm:ml-auto">
        <RoomSwitch />
        <KeyHelp />
      </span>
      {person && (
        <Link
          href="/account"
          title={`Signed in as ${person.name}, ${person.role}`}
          className="flex items-center gap-1.5 max-w-[180px] text-label text-ink-2 hover:text-ink py-1"
        >
          <CircleUserRound size={16} aria-hidden className="shrink-0" />
          <span className="truncate">{person.name}</span>
          {person.role === 'reader' && <span className="text-small text-ink-3">reads</span>}
        </Link>
      )}
    </header>
  );
}

/** From the gray room, where pictures are judged, to one that can be read in bright light, and back. */
function RoomSwitch() {
  const { room, choose } = useRooms();
  const [other, words, Icon] =
    room === 'gray' ? (['paper', 'Bright room', Sun] as const) : (['gray', 'Gray room', Moon] as const);
  return (
    <IconButton label={words} onClick={() => choose(other)} className="!p-0 size-7 grid place-items-center">
      <Icon size={16} aria-hidden />
    </IconButton>
  );
}

/** Where a stage is entered: below the session, or by itself. */
function addressOf({ path, alone }: Stage, session: string | undefined): string | null {
  if (session && path) return `/sessions/${session}/${path}`;
  return alone ?? null;
}

/** Two beads on a rule, tied to their ticks. */
function Mark() {
  return (
    <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden>
      <path d="M1 18h20M3 15v3M11 15v3M19 15v3" stroke="var(--color-ink-3)" strokeWidth="1.5" fill="none" />
      <path d="M11 15c0-5 4.5-3 4.5-7" stroke="var(--color-accent)" strokeWidth="1.6" fill="none" />
      <circle cx="15.5" cy="5.5" r="3" fill="var(--color-accent)" />
      <path d="M3 15V8" stroke="var(--color-ink-3)" strokeWidth="1.3" />
      <circle cx="3.5" cy="6" r="2.2" fill="none" stroke="var(--color-ink)" strokeWidth="1.4" />
    </svg>
  );
}
