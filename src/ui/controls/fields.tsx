'use client';

import { useState, type ComponentProps, type ReactNode } from 'react';
import { parseShutter, writeShutter } from '@/core/formulas/optics/exposure';

/** A small heading above a control, and its name. */
export function Labelled({
  words,
  children,
  className = '',
}: {
  words: string;
  children: ReactNode;
  className?: string;
}) {
  return (
    <label className={`grid gap-1 min-w-0 ${className}`}>
      <span className="text-ink-3 text-small">{words}</span>
      {children}
    </label>
  );
}

/** Words to the left of a control, in a column of such lines. */
export function Line({ words, children }: { words: string; children: ReactNode }) {
  return (
    <label className="flex items-center justify-between gap-2">
      <span className="text-ink-2">{words}</span>
      {children}
    </label>
  );
}

/** One line of text; marked where it can't be read. */
export function TextInput({
  invalid,
  className = '',
  ...rest
}: Omit<ComponentProps<'input'>, 'type'> & { invalid?: boolean; type?: 'text' | 'date' | 'time' | 'password' }) {
  return (
    <input
      aria-invalid={invalid || undefined}
      spellCheck={false}
      className={`field ${invalid ? 'outline-2 outline-warning' : ''} ${className}`}
      {...rest}
    />
  );
}

/** A number that the browser itself steps; told as it is typed, `NaN` while it is empty. */
export function NumberInput({
  value,
  onChange,
  label,
  step = 'any',
  min = 0,
  max,
  className = 'text-right px-1.5',
}: {
  value: number;
  onChange: (value: number) => void;
  /** Its name where no label stands around it. */
  label?: string;
  step?: number | 'any';
  min?: number;
  max?: number;
  className?: string;
}) {
  return (
    <input
      type="number"
      inputMode="decimal"
      min={min}
      max={max}
      step={step}
      aria-label={label}
      className={`field ${className}`}
      value={Number.isFinite(value) ? value : ''}
      onChange={({ target }) => onChange(target.value === '' ? NaN : Number(target.value))}
    />
  );
}

/** Text of any length, as high as it is. */
export function TextArea({ className = '', ...rest }: ComponentProps<'textarea'>) {
  return <textarea className={`field w-full [field-sizing:content] ${className}`} {...rest} />;
}

/** What a text says, or `null` where it can't be read. */
type Read<T> = (text: string) => { value: T } | null;

interface ReadProps<T> {
  label: string;
  value: T;
  onChange: (value: T) => void;
  width?: string;
  onBlur?: () => void;
}

/** A field that keeps what is typed and reports it as soon as it can be read; what can't is marked and not reported. */
function ReadField<T>({
  label,
  value,
  read,
  write,
  onChange,
  onBlur,
  width = 'w-[96px]',
}: ReadProps<T> & { read: Read<T>; write: (value: T) => string }) {
  const [text, setText] = useState(write(value));
  return (
    <Labelled words={label}>
      <TextInput
        className={`text-right ${width}`}
        invalid={read(text) === null}
        value={text}
        onBlur={onBlur}
        onChange={({ target }) => {
          setText(target.value);
          const found = read(target.value);
          if (found) onChange(found.value);
        }}
      />
    </Labelled>
  );
}

const positive: Read<number> = (text) => {
  const value = Number(text.trim().replace(',', '.'));
  return text.trim() !== '' && value > 0 && Number.isFinite(value) ? { value } : null;
};

/** A number above 0; a comma is taken for a point. */
export function NumberField(props: ReadProps<number>) {
  return <ReadField {...props} read={positive} write={String} />;
}

/** A number above 0, or nothing. */
export function MaybeNumberField(props: ReadProps<number | undefined>) {
  return (
    <ReadField
      {...props}
      read={(text) => (text.trim() === '' ? { value: undefined } : positive(text))}
      write={(value) => (value === undefined ? '' : String(value))}
    />
  );
}

/** A shutter, as marked or in seconds. */
export function ShutterField(props: ReadProps<number>) {
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
export function NumbersField(props: ReadProps<number[]>) {
  return (
    <ReadField
      width="w-[200px]"
      {...props}
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
