/** What the door says to people of whom it knows who they are, or knew. Pages tell these sentences from a line that is gone. */
export const DOOR_WORDS = {
  reader: 'You may look, but change nothing: your account is a reader’s.',
  signedOut: 'You are not signed in any more. Sign in in another tab; this page keeps what you did.',
} as const;

/** The door's sentence that an error carries, or `null`. */
export function doorsWords(error: unknown): string | null {
  const words = error instanceof Error ? error.message : '';
  return Object.values<string>(DOOR_WORDS).includes(words) ? words : null;
}
