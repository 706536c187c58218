import { Archive } from 'lucide-react';
import { useState } from 'react';
import { buttonClass } from '@/ui/Button';
import { TextInput } from '@/ui/controls/fields';
import { IconButton } from '@/ui/controls/Tooltip';
import type { LadderBead } from '@/ui/ladder/layout';
import { SmallLadder } from '@/ui/ladder/SmallLadder';
import { Link } from '@/ui/Link';

export interface ShelfEntry {
  id: string;
  name: string;
  items: number;
  /** Of a kit: its ladder, what it cost, and what was last found of it. */
  beads?: LadderBead[];
  price?: string;
  finding?: { words: string; day: string; href: string };
}

/** More than this many are searched rather than read. */
const SEARCHED = 12;

/** What is on the shelf, a line each. */
export function ShelfList({
  what,
  path,
  entries,
  count,
  onPut,
}: {
  what: string;
  path: string;
  entries: ShelfEntry[];
  count: (items: number) => string;
  onPut: (entry: ShelfEntry) => void;
}) {
  const [sought, setSought] = useState('');
  const found = entries.filter((one) => one.name.toLowerCase().includes(sought.trim().toLowerCase()));
  if (entries.length === 0)
    return (
      <p className="text-ink-2 mt-3">
        No {what}s yet: the demo’s {what}s come with ./glade demo.
      </p>
    );
  return (
    <>
      {entries.length > SEARCHED && (
        <label className="flex items-center gap-2 mt-3">
          <span className="text-ink-2">Find</span>
          <TextInput className="flex-1" value={sought} onChange={(event) => setSought(event.target.value)} />
        </label>
      )}
      <ul className="mt-3 border-t border-rule">
        {found.map((entry) => (
          <li key={entry.id} className="flex items-center gap-3 border-b border-rule py-2">
            <div className="min-w-0 flex-1">
              <Link
                href={`/${path}/${entry.id}`}
                title={entry.name}
                className="text-lead font-semibold hover:underline block truncate py-0.5"
              >
                {entry.name}
              </Link>
              {entry.finding && (
                <p className="text-ink-2 truncate">
                  <Link href={entry.finding.href} className="hover:underline inline-block py-0.5">
                    {entry.finding.words}
                  </Link>{' '}
                  <span className="text-ink-3 text-label">{entry.finding.day}</span>
                </p>
              )}
              <p className="text-ink-3 text-label truncate">
                {[count(entry.items), entry.price].filter(Boolean).join(' · ')}
              </p>
            </div>
            {entry.beads && (
              <span className="w-[260px] shrink-0 max-md:hidden">
                <SmallLadder beads={entry.beads} />
              </span>
            )}
            <Link href={`/plan?${what}=${entry.id}`} className={buttonClass('quiet')}>
              Plan
            </Link>
            <IconButton label={`Put “${entry.name}” away`} words="Put away" onClick={() => onPut(entry)}>
              <Archive size={16} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className="text-ink-2 mt-3">
          No {what} has “{sought}” in its name.
        </p>
      )}
    </>
  );
}
