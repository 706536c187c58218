import { CircleX, Info, TriangleAlert } from 'lucide-react';
import type { NamedFault } from './Verdict';

const LOOKS = {
  error: { icon: CircleX, color: 'text-failure', border: 'border-failure', word: 'Withheld or left out' },
  warning: { icon: TriangleAlert, color: 'text-warning', border: 'border-warning', word: 'Worth a look' },
  info: { icon: Info, color: 'text-ink-2', border: 'border-ink-4', word: 'For information' },
} as const;

/** Faults as sentences, the gravest first, each with what to shoot again. */
export function FaultNotes({ faults }: { faults: NamedFault[] }) {
  if (faults.length === 0) return null;
  return (
    <ul className="mt-3.5 grid gap-2" aria-label="Notes">
      {faults.map(({ fault, filters }) => {
        const { icon: Icon, color, border, word } = LOOKS[fault.severity];
        return (
          <li
            key={fault.code + fault.message}
            className={`flex gap-2.5 bg-well border-l-[3px] ${border} rounded-r-md px-3.5 py-2.5`}
          >
            <Icon size={18} aria-label={word} className={`${color} shrink-0 mt-px`} />
            <div>
              {filters.length === 1 && <b className="font-[650]">{filters[0]}: </b>}
              {fault.message} <span className="text-ink-2">{fault.remedy}</span>
            </div>
          </li>
        );
      })}
    </ul>
  );
}
