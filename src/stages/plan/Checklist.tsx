import type { ReactNode } from 'react';
import { CHECKLIST } from '@/core/sitting/planning/warnings';

/** What to think of before and while one shoots; on paper the boxes are ticked by pen. */
export function Checklist({ own = [], children }: { own?: readonly string[]; children?: ReactNode }) {
  return (
    <>
      <h2 className="mt-7">Before and while you shoot</h2>
      <ul className="mt-2 grid gap-1.5" aria-label="Checklist">
        {[...CHECKLIST, ...own].map((line) => (
          <li key={line}>
            <label className="flex gap-2.5 items-start">
              <input type="checkbox" className="accent-accent size-4 mt-0.5" />
              <span>{line}</span>
            </label>
          </li>
        ))}
        {children}
      </ul>
    </>
  );
}
