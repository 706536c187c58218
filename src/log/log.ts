/**
 * What the program writes down while it runs: a line of JSON each, with the request that it belongs to. A measurement bears the request that
 * asked for it, so that one number leads from a click to the worker's lines.
 */
import { AsyncLocalStorage } from 'node:async_hooks';
import { pino, type DestinationStream, type Logger } from 'pino';

const LEVELS = ['debug', 'info', 'warn', 'error', 'silent'] as const;

interface Asked {
  request: string;
}

// Web server and framework are bundled apart, and would have one each.
const KEY = Symbol.for('aurora-glade.request');
const shared = globalThis as { [KEY]?: AsyncLocalStorage<Asked> };
const storage = (shared[KEY] ??= new AsyncLocalStorage<Asked>());

/** Does a work as part of a request; what is written down meanwhile, however deep, bears its number. */
export const inRequest = <T>(request: string, work: () => T): T => storage.run({ request }, work);

/** Number of the request that is being answered; `null` outside of any. */
export const requestNow = (): string | null => storage.getStore()?.request ?? null;

/**
 * A log.
 *
 * @param level least that is written: debug, info, warn, error or silent; anything else counts as info
 * @param to where lines go; stdout where it isn't given
 */
export function logTo(level: string | undefined, to?: DestinationStream): Logger {
  const least = LEVELS.find((one) => one === level) ?? 'info';
  const options = {
    level: least,
    base: { pid: process.pid },
    timestamp: pino.stdTimeFunctions.isoTime,
    formatters: { level: (label: string) => ({ level: label }) },
    mixin: () => storage.getStore() ?? {},
  };
  return to ? pino(options, to) : pino(options);
}

/** The program's own; `GLADE_LOG` says how much is written. */
export const log: Logger = logTo(process.env.GLADE_LOG);
