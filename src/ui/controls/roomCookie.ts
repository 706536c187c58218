/** What a screen is looked at in: gray beside pictures, paper white in bright light and for text. */
export type Room = 'gray' | 'paper';

/** Where a browser keeps the room that was chosen in it. */
export const ROOM_COOKIE = 'glade-room';

export const roomNamed = (word: string | undefined): Room => (word === 'paper' ? 'paper' : 'gray');
