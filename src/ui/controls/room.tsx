'use client';

import { createContext, useContext, type ReactNode } from 'react';

/** What a screen is looked at in: gray beside pictures, paper white in the field and for text. */
type Room = 'gray' | 'paper';

const RoomContext = createContext<Room>('gray');

/** Everything below is dressed for bright light; what is laid over the page (lists, dialogs) too. */
export function PaperRoom({ children, className = '' }: { children: ReactNode; className?: string }) {
  return (
    <RoomContext value="paper">
      <div data-room="paper" className={`bg-floor text-ink ${className}`}>
        {children}
      </div>
    </RoomContext>
  );
}

/** For `data-room` of what is drawn outside its parent, such as an open list. */
export const useRoom = () => useContext(RoomContext);
