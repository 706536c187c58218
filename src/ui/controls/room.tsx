'use client';

import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';
import { ROOM_COOKIE, type Room } from './roomCookie';

interface Rooms {
  room: Room;
  /** Of the whole application, for as long as the browser keeps it. */
  choose: (room: Room) => void;
}

const RoomContext = createContext<Rooms>({ room: 'gray', choose: () => undefined });
const A_YEAR = 365 * 24 * 3600;

/** Around the application: the room that was chosen in this browser. */
export function ChosenRoom({ first, children }: { first: Room; children: ReactNode }) {
  const [room, setRoom] = useState(first);
  const choose = useCallback((next: Room) => {
    document.documentElement.dataset.room = next;
    document.cookie = `${ROOM_COOKIE}=${next}; path=/; max-age=${A_YEAR}; samesite=lax`;
    setRoom(next);
  }, []);
  const rooms = useMemo(() => ({ room, choose }), [room, choose]);
  return <RoomContext value={rooms}>{children}</RoomContext>;
}

/** Everything below is dressed for one room, whatever is chosen; what is laid over the page (lists, dialogs) too. */
function InRoom({ room, children, className }: { room: Room; children: ReactNode; className: string }) {
  const { choose } = useContext(RoomContext);
  const rooms = useMemo(() => ({ room, choose }), [room, choose]);
  return (
    <RoomContext value={rooms}>
      <div data-room={room} className={`bg-floor text-ink ${className}`}>
        {children}
      </div>
    </RoomContext>
  );
}

/** For bright light: the field, and text. */
export const PaperRoom = ({ children, className = '' }: { children: ReactNode; className?: string }) => (
  <InRoom room="paper" className={className}>
    {children}
  </InRoom>
);

/** For what is judged by eye: gray around pictures, in the bright room too. */
export const GrayRoom = ({ children }: { children: ReactNode }) => (
  <InRoom room="gray" className="flex flex-col flex-1 min-h-0">
    {children}
  </InRoom>
);

/** For `data-room` of what is drawn outside its parent, such as an open list. */
export const useRoom = () => useContext(RoomContext).room;

/** The room of the whole application, and how another one is chosen. */
export const useRooms = () => useContext(RoomContext);
