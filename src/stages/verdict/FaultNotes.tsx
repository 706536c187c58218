'use client';

import { CircleX, Info, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { noteRingAction } from '@/server/takeActions';
import type { Fault } from '@/core/session/readings';
import { Button } from '@/ui/Button';
import { Disclosure } from '@/ui/controls/Disclosure';
import { notAnswered } from '@/ui/saving/asked';
import { partNamed } from './parts';

const LOOKS = {
  error: { icon: CircleX, color: 'text-failure', border: 'border-failure', word: 'Withheld or left out' },
  warning: { icon: TriangleAlert, color: 'text-warning', border: 'border-warning', word: 'Worth a look' },
  info: { icon: Info, color: 'text-ink-2', border: 'border-ink-4', word: 'For information' },
} as const;

/** Notes of one kind on the same filters are folded from this many on. */
const MANY = 3;

/** Notes in their order, many of a kind behind their first; questions stand alone. */
function alike(faults: readonly NamedFault[]): NamedFault[][] {
  const groups = new Map<string, NamedFault[]>();
  for (const one of faults) {
    const key = one.fault.angles ? one.fault.message : `${one.fault.code} ${one.fault.severity} ${one.filters.join()}`;
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()].flatMap((group) => (group.length < MANY ? group.map((one) => [one]) : [group]));
}

/** The ring angles that a take's light allows, as answers to the question. */
function RingAngles({ fault, sessionId }: { fault: Fault; sessionId: string }) {
  const [answer, setAnswer] = useState<string | null>(null);
  const angles = Array.isArray(fault.angles) ? (fault.angles as number[]) : [];
  const [take] = fault.takes;
  if (angles.length === 0 || take === undefined) return null;
  async function note(degrees: number) {
    const result = await noteRingAction(sessionId, take, degrees).catch(notAnswered);
    setAnswer(result.ok ? `Noted at ${degrees}°. Measure again to renew the figures.` : result.error);
  }
  return (
    <div className="mt-1.5 flex flex-wrap gap-2 items-center">
      {angles.map((degrees) => (
        <Button key={degrees} onClick={() => void note(degrees)}>
          It stood at {degrees}°
        </Button>
      ))}
      {answer && <span role="status">{answer}</span>}
    </div>
  );
}

export interface NamedFault {
  fault: Fault;
  /** Filters it is about; none for the session's own. */
  filters: string[];
}

/** Faults as sentences, the gravest first, each with what to shoot again. */
export function FaultNotes({ faults, sessionId }: { faults: NamedFault[]; sessionId: string }) {
  if (faults.length === 0) return null;
  return (
    <ul className="mt-3.5 grid gap-2 scroll-mt-4" aria-label="Notes" {...partNamed('Notes')}>
      {alike(faults).map(([first, ...others]) => {
        const { fault, filters } = first;
        const { icon: Icon, color, border, word } = LOOKS[fault.severity];
        return (
          <li
            key={fault.code + fault.message}
            className={`flex gap-2.5 bg-well border-l-[3px] ${border} rounded-r-md px-3.5 py-2.5`}
          >
            <Icon size={18} aria-label={word} className={`${color} shrink-0 mt-px`} />
            <div>
              {filters.length === 1 && <b className="font-strong">{filters[0]}: </b>}
              {fault.message} <span className="text-ink-2">{fault.remedy}</span>
              <RingAngles fault={fault} sessionId={sessionId} />
              {others.length > 0 && (
                <Disclosure className="mt-1" triggerClass="text-ink-2" words={`${others.length} more like this`}>
                  <ul className="mt-1 grid gap-1 text-label">
                    {others.map((other) => (
                      <li key={other.fault.message}>{other.fault.message}</li>
                    ))}
                  </ul>
                </Disclosure>
              )}
            </div>
          </li>
        );
      })}
    </ul>
  );
}
