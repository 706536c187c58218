'use client';

import { Download } from 'lucide-react';
import { useState } from 'react';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Popover } from '@/ui/controls/Popover';

export interface Wished {
  figures: boolean;
  disclosure: boolean;
}

/** The view as a picture to take away, with what should stand below it. */
export function SaveView({ disabled, onSave }: { disabled: boolean; onSave: (wished: Wished) => void }) {
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
        className="mt-3"
        onClick={() => {
          onSave(wished);
          setOpen(false);
        }}
      >
        Save as PNG
      </Button>
    </Popover>
  );
}
