'use client';

import { Download } from 'lucide-react';
import { useState } from 'react';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Popover } from '@/ui/controls/Popover';
import { Select } from '@/ui/controls/Select';
import type { SavingView, Wished } from './useSaveView';

const NEW = 'new';

/** The view as a picture to take away or for a report, with what should stand below it. */
export function SaveView({ disabled, saving }: { disabled: boolean; saving: SavingView }) {
  const [wished, setWished] = useState<Wished>({ figures: true, disclosure: true });
  const [open, setOpen] = useState(false);
  const [reports, setReports] = useState<{ id: string; title: string }[]>([]);
  const [report, setReport] = useState(NEW);
  const box = (key: keyof Wished, words: string) => (
    <Checkbox className="py-1" checked={wished[key]} onChange={(on) => setWished({ ...wished, [key]: on })}>
      {words}
    </Checkbox>
  );

  function show(isOpen: boolean) {
    setOpen(isOpen);
    if (!isOpen) return;
    // Without an answer a new report can still be begun, which tells what is wrong.
    saving.reports().then(
      (found) => {
        setReports(found);
        setReport((now) => (now === NEW ? (found.at(0)?.id ?? NEW) : now));
      },
      () => setReports([]),
    );
  }
  return (
    <Popover
      label="Save this view"
      open={open}
      onOpenChange={show}
      align="end"
      disabled={disabled}
      className="w-[300px]"
      trigger={
        <>
          <Download size={16} aria-hidden /> Save this view
        </>
      }
    >
      {box('figures', 'What was measured')}
      {box('disclosure', 'How the kits were obtained')}
      <Button
        className="mt-3 w-full"
        onClick={() => {
          saving.toFile(wished);
          setOpen(false);
        }}
      >
        Save as PNG
      </Button>
      <Select
        className="mt-4 w-full"
        label="Report that it goes into"
        value={report}
        options={[...reports.map(({ id, title }) => [id, title] as const), [NEW, 'A new report of this session']]}
        onChange={setReport}
      />
      <Button
        className="mt-2 w-full"
        onClick={() => {
          saving.toReport(wished, report === NEW ? undefined : report);
          setOpen(false);
        }}
      >
        Put into the report
      </Button>
    </Popover>
  );
}
