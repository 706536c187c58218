import { doorsWords } from '@/core/words/door';

/** Said where no answer came to what was asked. */
export const NO_LINE_NOW = 'No connection to the server; nothing was changed. Try again when it is back.';

/** What an asked action answers where it threw: the door's own words, or that no answer came. */
export const notAnswered = (error: unknown): { ok: false; error: string; nothingReached?: true } => {
  const words = doorsWords(error);
  return words === null ? { ok: false, error: NO_LINE_NOW, nothingReached: true } : { ok: false, error: words };
};
