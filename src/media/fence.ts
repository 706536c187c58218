/**
 * The fence around programs that read foreign bytes: namespaces of their own by bubblewrap, without a network, other processes or any file of
 * ours but those that are named. Where the system doesn't let us build one, the programs run with their limits alone, and health says so.
 */
import { spawn } from 'node:child_process';

export interface Openings {
  /** Files and folders that can be read: where they lie, and under which name they are seen. */
  reads: readonly (readonly [outside: string, inside: string])[];
  /** Folder in which the program works: empty, or one of ours that it may write. */
  work: string;
  writes?: string;
  /** Programs that ask the system about themselves. */
  proc?: boolean;
}

/** Room for what a program writes where no folder is given to it; memory. */
const SCRATCH_BYTES = 64_000_000;

/** The words that run a program behind the fence. */
export function fenced(words: readonly string[], { reads, work, writes, proc = false }: Openings): string[] {
  return [
    'bwrap',
    '--unshare-all',
    '--die-with-parent',
    '--new-session',
    ...['--cap-drop', 'ALL'],
    ...['--ro-bind', '/usr', '/usr'],
    ...['bin', 'sbin', 'lib', 'lib64'].flatMap((name) => ['--symlink', `usr/${name}`, `/${name}`]),
    // Debian's libraries are found by these; no names or passwords are in them.
    ...['alternatives', 'ld.so.cache', 'fonts'].flatMap((name) => ['--ro-bind-try', `/etc/${name}`, `/etc/${name}`]),
    ...['--dev', '/dev'],
    ...(proc ? ['--proc', '/proc'] : []),
    ...['--size', String(SCRATCH_BYTES), '--tmpfs', '/tmp'],
    ...(writes ? ['--bind', writes, work] : ['--size', String(SCRATCH_BYTES), '--tmpfs', work]),
    ...reads.flatMap(([outside, inside]) => ['--ro-bind', outside, inside]),
    ...['--chdir', work],
    ...['--setenv', 'HOME', work],
    '--',
    ...words,
  ];
}

const tried = new Map<boolean, Promise<boolean>>();

/** Whether a fence can be built here; tried once. @param proc whether one with processes of its own to ask about */
export function fenceStands(proc = false): Promise<boolean> {
  const known = tried.get(proc);
  if (known) return known;
  const trying = new Promise<boolean>((done) => {
    const [program, ...words] = fenced(['true'], { reads: [], work: '/scratch', proc });
    const child = spawn(program, words, { stdio: 'ignore' });
    child.on('error', () => done(false));
    child.on('close', (code) => done(code === 0));
  });
  tried.set(proc, trying);
  return trying;
}
