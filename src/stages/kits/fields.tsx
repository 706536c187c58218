'use client';

import { useState, type ReactNode } from 'react';
import { parseShutter, writeShutter } from '@/core/formulas/optics/exposure';

/** A small heading above a field. */
export function Labelled({ words, children }: { words: string; children: ReactNode }) {
  return (
    <label className="grid gap-1">
      <span className="text-ink-3 text-[12px]">{words}</span>
      {children}
    </label>
  );
}

/** A field that keeps what is typed and reports it as soon as it can be read; what can't is marked and not reported. */
function ReadField<T>({
  label,
  value,
  read,
  write,
  onChange,
  width = 'w-[96px]',
}: {
  label: string;
  value: T;
  /** `null` for what can't be read. */
  read: (text: string) => { value: T } | null;
  write: (value: T) => string;
  onChange: (value: T) => void;
  width?: string;
}) {
  const [text, setText] = useState(write(value));
  const bad = read(text) === null;
  return (
    <Labelled words={label}>
      <input
        className={`field text-right ${width} ${bad ? 'outline outline-2 outline-warning' : ''}`}
        aria-invalid={bad}
        value={text}
        spellCheck={false}
        onChange={({ target }) => {
          setText(target.value);
          const found = read(target.value);
          if (found) onChange(found.value);
        }}
      />
    </Labelled>
  );
}

const positive = (text: string) => {
  const value = Number(text.trim().replace(',', '.'));
  return text.trim() !== '' && value > 0 ? { value } : null;
};

/** A number above 0. */
export function NumberField(props: {
  label: string;
  value: number;
  onChange: (value: number) => void;
  width?: string;
}) {
  return <ReadField {...props} read={positive} write={String} />;
}

/** A number above 0, or nothing. */
export function MaybeNumberField(props: {
  label: string;
  value: number | undefined;
  onChange: (value: number | undefined) => void;
  width?: string;
}) {
  return (
    <ReadField<number | undefined>
      {...props}
      read={(text) => (text.trim() === '' ? { value: undefined } : positive(text))}
      write={(value) => (value === undefined ? '' : String(value))}
    />
  );
}

/** A shutter, as marked or in seconds. */
export function ShutterField(props: { label: string; value: number; onChange: (value: number) => void }) {
  return (
    <ReadField
      {...props}
      read={(text) => {
        const value = parseShutter(text);
        return value === null || !(value > 0) ? null : { value };
      }}
      write={(value) => writeShutter(value).replace(/ s$/, '')}
    />
  );
}

/** Numbers above 0 in a row. */
export function NumbersField(props: { label: string; value: number[]; onChange: (value: number[]) => void }) {
  return (
    <ReadField
      {...props}
      width="w-[200px]"
      read={(text) => {
        const parts = text
          .split(/[\s,;]+/)
          .filter(Boolean)
          .map(Number);
        return parts.every((one) => one > 0) ? { value: parts } : null;
      }}
      write={(value) => value.join(' ')}
    />
  );
}
