'use client';

import { Check, ChevronDown, ChevronUp } from 'lucide-react';
import { Select as Primitive } from 'radix-ui';
import { useRoom } from './room';

/** A value with the words that stand for it. */
export type Option<T extends string> = readonly [value: T, words: string];

/** The primitive keeps the empty text for "nothing chosen"; a choice of ours may have it as its value. */
const EMPTY = '\u2205';
const inside = (value: string) => (value === '' ? EMPTY : value);

/** One of a few: a list that opens, walked by arrows and by typing the first letters. */
export function Select<T extends string>({
  value,
  options,
  onChange,
  label,
  placeholder,
  className = '',
  disabled,
  invalid,
  onFocus,
}: {
  /** `null` while nothing is chosen. */
  value: T | null;
  options: readonly Option<T>[];
  onChange: (value: T) => void;
  /** Its name where no label stands around it. */
  label?: string;
  /** Shown while nothing is chosen. */
  placeholder?: string;
  className?: string;
  disabled?: boolean;
  invalid?: boolean;
  onFocus?: () => void;
}) {
  const room = useRoom();
  const scroller = 'grid place-items-center h-5 text-ink-3';
  return (
    <Primitive.Root
      value={value === null ? '' : inside(value)}
      onValueChange={(chosen) => onChange((chosen === EMPTY ? '' : chosen) as T)}
      disabled={disabled}
    >
      <Primitive.Trigger
        aria-label={label}
        aria-invalid={invalid || undefined}
        onFocus={onFocus}
        className={`field inline-flex items-center justify-between gap-2 text-left aria-invalid:border-warning disabled:opacity-50 ${className}`}
      >
        <span className="truncate min-w-0">
          <Primitive.Value placeholder={placeholder} />
        </span>
        <Primitive.Icon className="text-ink-3 shrink-0">
          <ChevronDown size={15} aria-hidden />
        </Primitive.Icon>
      </Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Content
          data-room={room}
          position="popper"
          sideOffset={4}
          className="z-40 bg-raised text-ink rounded-md shadow-lift max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) max-w-[min(92vw,520px)] overflow-hidden"
        >
          <Primitive.ScrollUpButton className={scroller}>
            <ChevronUp size={14} aria-hidden />
          </Primitive.ScrollUpButton>
          <Primitive.Viewport className="p-1">
            {options.map(([one, words]) => (
              <Primitive.Item
                key={one}
                value={inside(one)}
                className="flex items-center justify-between gap-4 rounded-sm px-2.5 py-1.5 min-h-8 cursor-pointer outline-none data-highlighted:bg-ink data-highlighted:text-on-ink"
              >
                <Primitive.ItemText>{words}</Primitive.ItemText>
                <Primitive.ItemIndicator>
                  <Check size={14} aria-hidden />
                </Primitive.ItemIndicator>
              </Primitive.Item>
            ))}
          </Primitive.Viewport>
          <Primitive.ScrollDownButton className={scroller}>
            <ChevronDown size={14} aria-hidden />
          </Primitive.ScrollDownButton>
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}

/** The same words as values and as what is read. */
export const sameWords = <T extends string>(words: readonly T[]): Option<T>[] => words.map((one) => [one, one]);
