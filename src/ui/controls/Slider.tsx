'use client';

import { Slider as Primitive } from 'radix-ui';

/** A number set by sliding; arrows move by a step, Page up and Page down by ten, Home and End to the ends. */
export function Slider({
  value,
  min,
  max,
  step,
  label,
  labelledBy,
  valueText,
  onChange,
  className = '',
}: {
  value: number;
  min: number;
  max: number;
  step: number;
  label?: string;
  /** Id of what names it. */
  labelledBy?: string;
  /** What is read out in place of the number. */
  valueText?: string;
  onChange: (value: number) => void;
  className?: string;
}) {
  return (
    <Primitive.Root
      value={[value]}
      min={min}
      max={max}
      step={step}
      onValueChange={([next]) => onChange(next)}
      className={`relative flex items-center touch-none select-none h-5 min-w-[72px] ${className}`}
    >
      <Primitive.Track className="relative grow h-1 rounded-full bg-well">
        <Primitive.Range className="absolute h-full rounded-full bg-ink-3" />
      </Primitive.Track>
      <Primitive.Thumb
        aria-label={label}
        aria-labelledby={labelledBy}
        aria-valuetext={valueText}
        className="block size-4 rounded-full bg-ink border-2 border-header cursor-ew-resize"
      />
    </Primitive.Root>
  );
}
