import { Archive, Pencil } from 'lucide-react';
import { progressInWords } from '@/core/sitting/planning/progress';
import { Link } from '@/ui/Link';
import { buttonClass } from '@/ui/Button';
import { Checkbox } from '@/ui/controls/Checkbox';
import { IconButton, Tooltip } from '@/ui/controls/Tooltip';
import { SmallLadder } from '@/ui/ladder/SmallLadder';
import type { HomeSession } from './listed';

/** What comes next for a session, and where. */
function nextStep({ id, check, measured, takes, placed, plan }: HomeSession): { words: string; href: string } {
  const stage = (name: string) => `/sessions/${id}/${name}`;
  if (check)
    return { words: 'Look at the check', href: `/rigs/${check.rig}/check?profile=${check.profile}&session=${id}` };
  if (measured) return { words: 'Read the verdict', href: stage('verdict') };
  // What was planned is shot; of a form that came from elsewhere nothing was planned.
  if (takes === 0 && (!plan || plan.left === 0)) return { words: 'Drop the footage', href: stage('footage') };
  if (takes === 0) return { words: 'Shoot the plan', href: stage('plan') };
  if (!placed) return { words: 'Place the patch', href: stage('regions') };
  return { words: 'Measure', href: stage('measure') };
}

/** What a session is of: its day, place and kit, and how much of it there is. */
function factsOf({ day, place, kits, check, takes, filters, plan }: HomeSession): string {
  const shot = plan ? progressInWords(plan) : `${takes} ${takes === 1 ? 'take' : 'takes'}`;
  const size = check
    ? `camera check, ${takes} pictures`
    : `${filters} ${filters === 1 ? 'filter' : 'filters'}, ${shot}`;
  return [day, place, kits.join(' and '), size].filter(Boolean).join(' · ');
}

/** One session of the list: its picture, what was found, and the next step. */
export function SessionRow({
  session,
  isFirst,
  isChosen,
  onChoose,
  onPutAway,
}: {
  session: HomeSession;
  /** Whether its step is the one that a visitor takes first. */
  isFirst: boolean;
  isChosen: boolean;
  onChoose: (chosen: boolean) => void;
  onPutAway: () => void;
}) {
  const next = nextStep(session);
  return (
    <li
      className={`border-b border-rule py-3 grid gap-x-5 gap-y-2 items-center grid-cols-[auto_auto_minmax(0,1fr)] lg:grid-cols-[auto_auto_minmax(0,1fr)_360px_222px] ${isChosen ? 'bg-sheet' : ''}`}
    >
      <Checkbox label={`Choose “${session.title}”`} checked={isChosen} onChange={onChoose} />
      {session.picture ? (
        <img
          src={session.picture}
          alt=""
          width={84}
          height={56}
          loading="lazy"
          className="w-[84px] h-[56px] object-cover rounded-sm bg-well"
        />
      ) : (
        <span aria-hidden className="w-[84px] h-[56px] rounded-sm bg-well" />
      )}
      <div className="min-w-0">
        <Link href={next.href} title={session.title} className="text-head font-strong hover:underline block truncate">
          {session.title}
        </Link>
        <p className="text-ink-2 truncate">{session.finding ?? 'Not measured yet'}</p>
        <p className="text-ink-3 text-label truncate">{factsOf(session)}</p>
      </div>
      <span className="max-lg:hidden">{!session.check && <SmallLadder beads={session.beads} />}</span>
      <div className="flex items-center gap-0.5 max-lg:col-span-3 lg:justify-end">
        <Link href={next.href} className={buttonClass(isFirst ? 'main' : 'plain')}>
          {next.words}
        </Link>
        <Tooltip words="Title, place, kit, history">
          <Link
            href={`/sessions/${session.id}/details`}
            aria-label={`Details of “${session.title}”`}
            className="p-2 rounded-md text-ink-3 hover:text-ink hover:bg-sheet"
          >
            <Pencil size={16} aria-hidden />
          </Link>
        </Tooltip>
        <IconButton label={`Put “${session.title}” away`} words="Put away" onClick={onPutAway}>
          <Archive size={16} aria-hidden />
        </IconButton>
      </div>
    </li>
  );
}
