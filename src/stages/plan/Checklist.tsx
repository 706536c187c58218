import { useState, type ReactNode } from 'react';
import { CHECKLIST } from '@/core/sitting/planning/warnings';
import { Checkbox } from '@/ui/controls/Checkbox';

/** What to think of before and while one shoots; on paper the boxes are ticked by pen. */
export function Checklist({ own = [], children }: { own?: readonly string[]; children?: ReactNode }) {
  return (
    <>
      <h2 className="mt-7">Before and while you shoot</h2>
      <ul className="mt-2 grid gap-1.5" aria-label="Checklist">
        {[...CHECKLIST, ...own].map((line) => (
          <li key={line}>
            <Tick>{line}</Tick>
          </li>
        ))}
        {children}
      </ul>
    </>
  );
}

/** A line that is ticked while the page is open. */
export function Tick({ children }: { children: string }) {
  const [done, setDone] = useState(false);
  return (
    <Checkbox className="!items-start" checked={done} onChange={setDone}>
      {children}
    </Checkbox>
  );
}
