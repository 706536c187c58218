'use client';

import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { Button } from '@/ui/Button';

/** Lines of one's own below the checklist; the plan keeps them. */
export function OwnChecklist({ lines, onChange }: { lines: string[]; onChange: (lines: string[]) => void }) {
  const [text, setText] = useState('');
  return (
    <>
      {lines.map((line) => (
        <li key={line} className="flex gap-2 items-start">
          <label className="flex gap-2.5 items-start">
            <input type="checkbox" className="accent-accent size-4 mt-0.5" />
            <span>{line}</span>
          </label>
          <button
            type="button"
            aria-label={`Remove “${line}”`}
            className="text-ink-3 hover:text-ink print:hidden"
            onClick={() => onChange(lines.filter((one) => one !== line))}
          >
            <X size={15} aria-hidden />
          </button>
        </li>
      ))}
      <li className="print:hidden">
        <form
          className="flex gap-2 mt-1"
          onSubmit={(event) => {
            event.preventDefault();
            const line = text.trim();
            if (line === '') return;
            if (!lines.includes(line)) onChange([...lines, line]);
            setText('');
          }}
        >
          <input
            className="field w-full max-w-[420px]"
            aria-label="A line of your own"
            placeholder="Spare batteries, gray card, the wind’s forecast …"
            maxLength={300}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <Button type="submit" look="quiet">
            <Plus size={16} aria-hidden /> Add the line
          </Button>
        </form>
      </li>
    </>
  );
}
