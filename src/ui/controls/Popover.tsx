'use client';

import { Popover as Primitive } from 'radix-ui';
import type { ReactNode } from 'react';
import { buttonClass } from '../Button';
import { useRoom } from './room';

/** A small sheet beside its button. */
export function Popover({
  trigger,
  label,
  open,
  onOpenChange,
  align = 'start',
  side = 'top',
  disabled,
  className = '',
  children,
}: {
  trigger: ReactNode;
  label: string;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  align?: 'start' | 'end';
  side?: 'top' | 'bottom';
  disabled?: boolean;
  className?: string;
  children: ReactNode;
}) {
  const room = useRoom();
  return (
    <Primitive.Root open={open} onOpenChange={onOpenChange}>
      <Primitive.Trigger className={buttonClass('quiet')} disabled={disabled}>
        {trigger}
      </Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Content
          data-room={room}
          side={side}
          align={align}
          aria-label={label}
          className={`z-30 bg-sheet text-ink rounded-sheet p-4 shadow-lift max-h-[60vh] overflow-y-auto ${className}`}
        >
          {children}
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
