import { Disclosure } from '@/ui/controls/Disclosure';
import { Link } from '@/ui/Link';
import type { SessionView } from '@/ui/sessionView';

/** The takes that a filter's figures rest on, each with its picture. */
export function RestsOn({ view, filter, name }: { view: SessionView; filter: string; name: string }) {
  const own = view.session.takes.filter((take) => take.filter === filter);
  const scenes = new Set(own.map((take) => take.scene));
  const bare = view.session.takes.filter((take) => take.filter === null && scenes.has(take.scene));
  const list = (takes: typeof own) => (
    <ul className="flex flex-wrap gap-x-5 gap-y-1">
      {takes.map((take) => (
        <li key={take.id}>
          {take.id}{' '}
          {take.files.map((file, i) => {
            const sha = view.files[file];
            return sha ? (
              <a key={file} href={`/api/files/${sha}?size=1600`} className="underline text-ink-2 mr-1.5" title={file}>
                picture{take.files.length > 1 ? ` ${i + 1}` : ''}
              </a>
            ) : null;
          })}
        </li>
      ))}
    </ul>
  );
  return (
    <Disclosure
      className="mt-4 bg-sheet rounded-sheet px-[18px] py-3"
      triggerClass="font-strong"
      words={`What ${name}’s figures rest on`}
    >
      <div className="mt-2 grid gap-2 text-label">
        <p className="text-ink-3">
          Measured {view.readings?.createdAt.slice(0, 16).replace('T', ' ')} UTC by {view.readings?.generator}
        </p>
        {list(own)}
        <p className="text-ink-3">Bare takes beside them</p>
        {list(bare)}
        <p>
          <Link href={`/sessions/${view.id}/compare?filter=${encodeURIComponent(filter)}`} className="underline">
            Compare them
          </Link>{' '}
          ·{' '}
          <Link href={`/sessions/${view.id}/footage`} className="underline">
            Footage
          </Link>{' '}
          ·{' '}
          <Link href={`/sessions/${view.id}/regions`} className="underline">
            Patches
          </Link>
        </p>
      </div>
    </Disclosure>
  );
}
