/** What an asked action answers where no answer came. */
export const NO_LINE_NOW = {
  ok: false as const,
  error: 'No connection to the server; nothing was changed. Try again when it is back.',
};
