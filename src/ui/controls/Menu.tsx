'use client';

import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { buttonClass } from '../Button';
import { useRoom } from './room';

/** Files to take away, behind one button. */
export function DownloadMenu({
  trigger,
  items,
}: {
  trigger: ReactNode;
  items: readonly (readonly [href: string, words: string])[];
}) {
  const room = useRoom();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={buttonClass('quiet')}>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          data-room={room}
          align="end"
          sideOffset={4}
          className="bg-raised text-ink rounded-md p-1 z-20 shadow-lift"
        >
          {items.map(([href, words]) => (
            <DropdownMenu.Item key={href} asChild>
              <a
                href={href}
                download
                className="block px-3 py-1.5 rounded-sm data-[highlighted]:bg-ink data-[highlighted]:text-on-ink outline-none"
              >
                {words}
              </a>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
