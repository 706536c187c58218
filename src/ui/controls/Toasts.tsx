'use client';

import '@/ui/withoutEval';
import { X } from 'lucide-react';
import { Toast } from 'radix-ui';
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';
import { Button } from '../Button';

export interface Told {
  words: string;
  bad?: boolean;
  /** What can be done about it; the toast goes when it was done. */
  action?: { words: string; run: () => void };
}

/** How long it stays; the pointer or the focus on it holds it. */
const STAYS_MS = 12_000;

const TellContext = createContext<(told: Told) => void>(() => undefined);

/** Tells something in the corner, with a way back where there is one. */
export const useTell = () => useContext(TellContext);

/** Once around the application. */
export function ToastRoom({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<(Told & { id: number })[]>([]);
  const tell = useCallback((told: Told) => setShown((now) => [...now, { ...told, id: (now.at(-1)?.id ?? 0) + 1 }]), []);
  const drop = (id: number) => setShown((now) => now.filter((one) => one.id !== id));
  const value = useMemo(() => tell, [tell]);
  return (
    <TellContext value={value}>
      <Toast.Provider swipeDirection="right" duration={STAYS_MS}>
        {children}
        {shown.map(({ id, words, bad, action }) => (
          <Toast.Root
            key={id}
            type={bad ? 'foreground' : 'background'}
            onOpenChange={(open) => !open && drop(id)}
            className={`bg-header text-ink rounded-md shadow-lift px-4 py-2.5 flex items-center gap-3 border-l-[3px] ${bad ? 'border-failure' : 'border-accent'}`}
          >
            <Toast.Description className="flex-1 min-w-0">{words}</Toast.Description>
            {action && (
              <Toast.Action altText={action.words} asChild>
                <Button look="quiet" onClick={action.run}>
                  {action.words}
                </Button>
              </Toast.Action>
            )}
            <Toast.Close aria-label="Close" className="p-1 text-ink-3 hover:text-ink">
              <X size={15} aria-hidden />
            </Toast.Close>
          </Toast.Root>
        ))}
        <Toast.Viewport
          label="Notices ({hotkey})"
          className="fixed bottom-4 right-4 z-50 grid gap-2 w-[min(92vw,440px)] print:hidden"
        />
      </Toast.Provider>
    </TellContext>
  );
}
