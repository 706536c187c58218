import { Archive } from 'lucide-react';
import { useState } from 'react';
import { buttonClass } from '@/ui/Button';
import { TextInput } from '@/ui/controls/fields';
import { IconButton } from '@/ui/controls/Tooltip';
import { Link } from '@/ui/Link';

export interface ShelfEntry {
  id: string;
  name: string;
  items: number;
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
            <Link
              href={`/${path}/${entry.id}`}
              className="text-lead font-semibold hover:underline truncate min-w-0 flex-1"
            >
              {entry.name}
            </Link>
            <span className="text-ink-2 whitespace-nowrap">{count(entry.items)}</span>
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
