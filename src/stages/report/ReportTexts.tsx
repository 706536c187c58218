import { X } from 'lucide-react';
import { REPORT_TEXTS, type Report } from '@/core/exports/report';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Labelled, TextArea, TextInput } from '@/ui/controls/fields';
import { IconButton } from '@/ui/controls/Tooltip';
import { listed } from '@/ui/format';
import { sameWords, Select } from '@/ui/controls/Select';
import { ReportPictures } from './ReportPictures';

const PAPERS = sameWords(['A4', 'Letter'] as const);

/** What a person writes of a report: its texts, its sessions, its paper. */
export function ReportTexts({
  report,
  sessions,
  onChange,
}: {
  report: Report;
  sessions: readonly { id: string; title: string }[];
  onChange: (part: Partial<Report>) => void;
}) {
  const chosen = report.sessions;
  return (
    <>
      <Labelled words="Title" className="mt-2">
        <TextInput
          className="text-title font-strong"
          spellCheck
          value={report.title}
          onChange={(event) => onChange({ title: event.target.value })}
        />
      </Labelled>
      {REPORT_TEXTS.map(({ key, name, hint }) => (
        <Labelled key={key} words={name} className="mt-3">
          <TextArea
            className="min-h-[64px]"
            placeholder={hint}
            value={report[key]}
            onChange={(event) => onChange({ [key]: event.target.value })}
          />
        </Labelled>
      ))}
      {report.carry.length > 0 && (
        <fieldset className="mt-3">
          <legend className="text-ink-3 text-label">What to carry</legend>
          <ul>
            {report.carry.map(({ works }, i) => (
              <li key={i} className="flex items-center gap-2">
                <span className="flex-1 min-w-0 truncate">{listed(works.map(({ name }) => name))}</span>
                <IconButton
                  label={`Take “${listed(works.map(({ name }) => name))}” out`}
                  className="!p-1"
                  onClick={() => onChange({ carry: report.carry.filter((_, k) => k !== i) })}
                >
                  <X size={15} aria-hidden />
                </IconButton>
              </li>
            ))}
          </ul>
        </fieldset>
      )}
      <ReportPictures pictures={report.pictures} onChange={(pictures) => onChange({ pictures })} />
      <fieldset className="mt-3">
        <legend className="text-ink-3 text-label">Sessions</legend>
        {sessions.map((one) => (
          <Checkbox
            key={one.id}
            className="py-1 min-h-7"
            checked={chosen.includes(one.id)}
            disabled={chosen.length === 1 && chosen[0] === one.id}
            onChange={(on) =>
              onChange({ sessions: on ? [...chosen, one.id] : chosen.filter((other) => other !== one.id) })
            }
          >
            {one.title}
          </Checkbox>
        ))}
      </fieldset>
      <Labelled words="Paper" className="mt-3 w-[120px]">
        <Select value={report.paper} options={PAPERS} onChange={(paper) => onChange({ paper })} />
      </Labelled>
    </>
  );
}
