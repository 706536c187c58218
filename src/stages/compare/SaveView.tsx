'use client';

import { Download } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Button, buttonClass } from '@/ui/Button';

export interface Wished {
  figures: boolean;
  disclosure: boolean;
}

/** The view as a picture to take away, with what should stand below it. */
export function SaveView({ disabled, onSave }: { disabled: boolean; onSave: (wished: Wished) => void }) {
  const [wished, setWished] = useState<Wished>({ figures: true, disclosure: true });
  const [open, setOpen] = useState(false);
  const box = (key: keyof Wished, words: string) => (
    <label className="flex items-center gap-2 py-1">
      <input
        type="checkbox"
        className="accent-accent size-4"
        checked={wished[key]}
        onChange={(event) => setWished({ ...wished, [key]: event.target.checked })}
      />
      {words}
    </label>
  );
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className={buttonClass('quiet')} disabled={disabled}>
        <Download size={16} aria-hidden /> Save this view
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="end"
          aria-label="Save this view"
          className="bg-sheet rounded-[10px] p-4 w-[300px]"
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
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
