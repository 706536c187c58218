'use client';

import { ChevronRight } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import type { ReactNode } from 'react';

/** More to read, on asking. */
export function Disclosure({
  words,
  label,
  plain = false,
  children,
  className = '',
  triggerClass = '',
  inside = '',
}: {
  /** What one presses. */
  words: ReactNode;
  /** Its name, where the words alone don't tell. */
  label?: string;
  /** Without the arrow before the words. */
  plain?: boolean;
  children: ReactNode;
  className?: string;
  triggerClass?: string;
  /** Classes of what is disclosed. */
  inside?: string;
}) {
  return (
    <Collapsible.Root className={className}>
      <Collapsible.Trigger
        aria-label={label}
        className={`group min-h-7 text-left rounded-sm ${plain ? 'w-full' : 'flex items-center gap-1'} ${triggerClass}`}
      >
        {!plain && <ChevronRight size={15} aria-hidden className="shrink-0 group-data-[state=open]:rotate-90" />}
        {words}
      </Collapsible.Trigger>
      <Collapsible.Content className={inside}>{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
