import { Plus, X } from 'lucide-react';
import { EVENTS, type FilterEvent } from '@/core/sitting/kits/keptKit';
import { Button } from '@/ui/Button';
import { TextInput } from '@/ui/controls/fields';
import { Select } from '@/ui/controls/Select';
import { IconButton } from '@/ui/controls/Tooltip';

/** What happened to a filter: over the years a change is looked for where something did. */
export function FilterEvents({
  name,
  events,
  onChange,
}: {
  name: string;
  events: readonly FilterEvent[];
  onChange: (events: FilterEvent[]) => void;
}) {
  const change = (i: number, part: Partial<FilterEvent>) =>
    onChange(events.map((one, k) => (k === i ? { ...one, ...part } : one)));
  return (
    <fieldset className="mt-3">
      <legend className="text-ink-2 text-label">What happened to it</legend>
      <ul className="grid gap-1.5 mt-1">
        {events.map(({ date, what }, i) => (
          <li key={i} className="flex items-center gap-1.5">
            <TextInput
              type="date"
              aria-label={`Day of event ${i + 1} of ${name}`}
              className="min-w-0 flex-1"
              value={date}
              // A day that is being typed is none yet.
              onChange={({ target }) => target.value !== '' && change(i, { date: target.value })}
            />
            <Select
              label={`Event ${i + 1} of ${name}`}
              value={what}
              options={EVENTS.map((one) => [one, one] as const)}
              onChange={(next) => change(i, { what: next })}
            />
            <IconButton
              label={`Remove event ${i + 1} of ${name}`}
              words="Remove"
              onClick={() => onChange(events.filter((_, k) => k !== i))}
            >
              <X size={14} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ul>
      <Button
        look="quiet"
        className="-ml-3"
        onClick={() => onChange([...events, { date: new Date().toISOString().slice(0, 10), what: 'dropped' }])}
      >
        <Plus size={16} aria-hidden /> Dropped, cleaned or replaced
      </Button>
    </fieldset>
  );
}
