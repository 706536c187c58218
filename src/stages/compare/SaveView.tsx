'use client';

import { Download } from 'lucide-react';
import { useState } from 'react';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Popover } from '@/ui/controls/Popover';
import { IntoReport } from '../report/IntoReport';
import type { SavingView, Wished } from './useSaveView';

/** The view as a picture to take away or for a report, with what should stand below it. */
export function SaveView({ disabled, saving }: { disabled: boolean; saving: SavingView }) {
  const [wished, setWished] = useState<Wished>({ figures: true, disclosure: true });
  const [open, setOpen] = useState(false);
  const box = (key: keyof Wished, words: string) => (
    <Checkbox className="py-1" checked={wished[key]} onChange={(on) => setWished({ ...wished, [key]: on })}>
      {words}
    </Checkbox>
  );

  return (
    <Popover
      label="Save this view"
      open={open}
      onOpenChange={setOpen}
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
      <div className="mt-4">
        <IntoReport
          fresh="A new report of this session"
          onPut={(report) => {
            saving.toReport(wished, report);
            setOpen(false);
          }}
        />
      </div>
    </Popover>
  );
}
