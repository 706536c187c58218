'use client';

import { Check } from 'lucide-react';
import { Checkbox as Primitive } from 'radix-ui';
import { useId, type ReactNode } from 'react';

/** A box to tick, with its words beside it. */
export function Checkbox({
  checked,
  onChange,
  children,
  label,
  disabled,
  className = '',
}: {
  checked: boolean;
  onChange?: (checked: boolean) => void;
  children?: ReactNode;
  /** Its name where no words stand beside it. */
  label?: string;
  disabled?: boolean;
  className?: string;
}) {
  const id = useId();
  return (
    <span className={`flex items-center gap-2 ${className}`}>
      <Primitive.Root
        id={id}
        aria-label={label}
        checked={checked}
        disabled={disabled}
        onCheckedChange={(now) => onChange?.(now === true)}
        className="size-4 shrink-0 grid place-items-center rounded-sm border border-ink-4 bg-well text-on-accent data-[state=checked]:bg-accent data-[state=checked]:border-accent disabled:opacity-50"
      >
        <Primitive.Indicator>
          <Check size={13} strokeWidth={3.2} aria-hidden />
        </Primitive.Indicator>
      </Primitive.Root>
      {children && (
        <label htmlFor={id} className={`min-w-0 ${disabled ? 'opacity-50' : 'cursor-pointer'}`}>
          {children}
        </label>
      )}
    </span>
  );
}
