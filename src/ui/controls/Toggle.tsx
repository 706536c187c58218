'use client';

import { Toggle as Primitive, ToggleGroup } from 'radix-ui';
import type { ReactNode } from 'react';

const DRESS =
  'rounded-md px-2.5 py-1.5 text-label whitespace-nowrap text-ink hover:bg-sheet disabled:opacity-50 data-[state=on]:bg-ink data-[state=on]:text-on-ink data-[state=on]:font-semibold';

/** The key that does the same, small and quiet. */
function KeyMark({ keys }: { keys: string }) {
  return (
    <span aria-hidden className="ml-1.5 text-tiny opacity-75">
      {keys}
    </span>
  );
}

/** Something that is on or off. */
export function Toggle({
  on,
  onChange,
  keys = '',
  label,
  className = '',
  disabled,
  children,
}: {
  on: boolean;
  onChange: (on: boolean) => void;
  /** The key that does the same. */
  keys?: string;
  label?: string;
  className?: string;
  disabled?: boolean;
  children: ReactNode;
}) {
  return (
    <Primitive.Root
      pressed={on}
      onPressedChange={onChange}
      aria-label={label}
      disabled={disabled}
      className={`${DRESS} ${className}`}
    >
      {children}
      {keys !== '' && <KeyMark keys={keys} />}
    </Primitive.Root>
  );
}

/** One entry of a choice. */
export interface ChoiceEntry<T extends string> {
  value: T;
  words: ReactNode;
  /** The key that does the same. */
  keys?: string;
  /** Its name where the words alone don't tell. */
  label?: string;
}

/** One of a few that are all in sight; arrows move between them. */
export function Choice<T extends string>({
  value,
  entries,
  onChange,
  label,
  className = 'flex flex-wrap',
  entryClass = '',
}: {
  /** `null` where none is chosen. */
  value: T | null;
  entries: readonly ChoiceEntry<T>[];
  onChange: (value: T) => void;
  label: string;
  className?: string;
  entryClass?: string;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value ?? ''}
      // Pressing the chosen one again leaves it chosen.
      onValueChange={(next) => next !== '' && onChange(next as T)}
      className={className}
    >
      {entries.map(({ value: one, words, keys = '', label: name }) => (
        <ToggleGroup.Item key={one} value={one} aria-label={name} className={`${DRESS} ${entryClass}`}>
          {words}
          {keys !== '' && <KeyMark keys={keys} />}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** Any of a few that are all in sight. */
export function Several<T extends string>({
  values,
  entries,
  onChange,
  label,
  className = 'flex flex-wrap',
  entryClass = '',
}: {
  values: readonly T[];
  entries: readonly ChoiceEntry<T>[];
  onChange: (values: T[]) => void;
  label: string;
  className?: string;
  entryClass?: string;
}) {
  return (
    <ToggleGroup.Root
      type="multiple"
      aria-label={label}
      value={[...values]}
      onValueChange={(next) => onChange(next as T[])}
      className={className}
    >
      {entries.map(({ value: one, words, label: name }) => (
        <ToggleGroup.Item key={one} value={one} aria-label={name} className={`${DRESS} ${entryClass}`}>
          {words}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
