'use client';

import { AlertDialog, Dialog as Primitive } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button, buttonClass } from '../Button';
import { useRoom } from './room';

const VEIL = 'fixed inset-0 z-40 bg-header/70';
const SHEET =
  'fixed z-50 left-1/2 top-1/2 -translate-x-1/2 -translate-y-1/2 bg-sheet text-ink rounded-sheet p-5 w-[min(92vw,480px)] max-h-[88vh] overflow-y-auto shadow-lift';

/** A sheet over the page; Escape and its button close it. */
export function Dialog({
  open,
  onOpenChange,
  title,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  children: ReactNode;
}) {
  const room = useRoom();
  return (
    <Primitive.Root open={open} onOpenChange={onOpenChange}>
      <Primitive.Portal>
        <Primitive.Overlay className={VEIL} />
        <Primitive.Content data-room={room} aria-describedby={undefined} className={SHEET}>
          <Primitive.Title className="text-title font-strong mb-3">{title}</Primitive.Title>
          {children}
          <Primitive.Close className={`${buttonClass('plain')} mt-4`}>Close</Primitive.Close>
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}

/** Asks before something that can't be taken back. */
export function Confirm({
  trigger,
  title,
  children,
  action,
  onConfirm,
}: {
  /** The button that asks. */
  trigger: ReactNode;
  title: string;
  /** What will be lost, a sentence. */
  children: ReactNode;
  /** Words of the button that does it. */
  action: string;
  onConfirm: () => void;
}) {
  const room = useRoom();
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>{trigger}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className={VEIL} />
        <AlertDialog.Content data-room={room} className={SHEET}>
          <AlertDialog.Title className="text-title font-strong">{title}</AlertDialog.Title>
          <AlertDialog.Description className="text-ink-2 mt-2">{children}</AlertDialog.Description>
          <div className="flex gap-2 mt-4 justify-end">
            <AlertDialog.Cancel asChild>
              <Button>Leave it</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button look="main" onClick={onConfirm}>
                {action}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
