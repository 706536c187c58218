/** Where data lives. Everything is below one folder, `var/` unless GLADE_VAR says otherwise. */
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

export interface StoreConfig {
  varFolder: string;
  mediaFolder: string;
  renditionFolder: string;
  database: { host: string; port: number; name: string; user: string; password: string };
}

/** Reads the configuration that `./glade` wrote. Throws an Error with a sentence when it isn't there. */
export function readConfig(): StoreConfig {
  // The folder is known only when the program runs, so bundlers must not look for its files.
  const varFolder = resolve(/* turbopackIgnore: true */ process.env.GLADE_VAR ?? 'var');
  let settings: { port: number; password: string };
  try {
    settings = JSON.parse(readFileSync(join(varFolder, 'database.json'), 'utf8'));
  } catch {
    throw new Error(`There is no database in ${varFolder} yet: run ./glade up first.`);
  }
  return {
    varFolder,
    mediaFolder: join(varFolder, 'media'),
    renditionFolder: join(varFolder, 'renditions'),
    database: {
      host: '127.0.0.1',
      port: settings.port,
      name: process.env.GLADE_DATABASE ?? 'glade',
      user: 'glade',
      password: settings.password,
    },
  };
}
