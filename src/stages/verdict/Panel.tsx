import { Link } from '@/ui/Link';
import type { ReactNode } from 'react';

/** One quality of a filter, below the table. */
export function Panel({
  title,
  word,
  method,
  children,
}: {
  title: string;
  word?: string;
  /** Part of the Method page that explains it. */
  method: string;
  children: ReactNode;
}) {
  return (
    <section aria-label={title} className="bg-sheet rounded-sheet px-[18px] py-4 min-w-0">
      <h2 className="flex justify-between gap-3 items-baseline !text-lead">
        <span>
          {title}{' '}
          <Link href={`/method#${method}`} className="font-normal text-small text-ink-3 underline ml-1.5">
            how
          </Link>
        </span>
        <small className="font-normal text-label text-ink-2 text-right">{word}</small>
      </h2>
      {children}
    </section>
  );
}
